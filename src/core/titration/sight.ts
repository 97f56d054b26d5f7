import { LIGHTS, PAPER, WAVELENGTHS, type Light, type Spectrum } from '../photograph';
import { nth } from '../base';

/** Red, green and blue as a screen has them (sRGB), 0 to 255. */
export type Rgb = [number, number, number];
type Xyz = [number, number, number];

const lobe = (nm: number, centre: number, below: number, above: number) =>
	Math.exp(-0.5 * ((nm - centre) * (nm < centre ? below : above)) ** 2);
/** The CIE 1931 standard observer, as sums of bells (Wyman, Sloan and Shirley 2013, table 1). */
const OBSERVER: Xyz[] = WAVELENGTHS.map((nm) => [
	0.362 * lobe(nm, 442, 0.0624, 0.0374) +
		1.056 * lobe(nm, 599.8, 0.0264, 0.0323) -
		0.065 * lobe(nm, 501.1, 0.049, 0.0382),
	0.821 * lobe(nm, 568.8, 0.0213, 0.0247) + 0.286 * lobe(nm, 530.9, 0.0613, 0.0322),
	1.217 * lobe(nm, 437, 0.0845, 0.0278) + 0.681 * lobe(nm, 459, 0.0385, 0.0725)
]);

type Rows = [Xyz, Xyz, Xyz];
const times = (m: Rows, v: Xyz): Xyz => m.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as Xyz;
/** From XYZ to the three kinds of cone and back (CAT02; CIE 159:2004). */
const CONES: Rows = [
	[0.7328, 0.4296, -0.1624],
	[-0.7036, 1.6975, 0.0061],
	[0.003, 0.0136, 0.9834]
];
const FROM_CONES: Rows = [
	[1.096124, -0.278869, 0.182745],
	[0.454369, 0.473533, 0.072098],
	[-0.009628, -0.005698, 1.015326]
];
/** From XYZ under D65 to linear sRGB (IEC 61966-2-1). */
const SCREEN: Rows = [
	[3.2406, -1.5372, -0.4986],
	[-0.9689, 1.8758, 0.0415],
	[0.0557, -0.204, 1.057]
];
const D65: Xyz = [0.9505, 1, 1.089];

/** How bright a sheet of white is in each light, cd/m²: a desk by day, a lamp in the evening, the light that falls out of a tank. */
const LUMINANCE: Record<Light, number> = {
	daylight: 300,
	'warm bulb': 60,
	'warm strip': 60,
	'cool strip': 80,
	'white tank lamp': 60,
	'blue tank lamp': 20
};
/** How much of a light's colour an eye gets used to (CIE 159:2004, in dim surroundings); the adapting field is a fifth of white. */
const adaptation = (light: Light): number =>
	0.9 * (1 - (1 / 3.6) * Math.exp((-LUMINANCE[light] / 5 - 42) / 92));
/** White paper by day on the screen; other lights are darker as the cube root of what they give, as lightness is (CIE 1976). */
const WHITE_BY_DAY = 0.86;
const DARKER = 1 / 3;

const observed = (light: Spectrum, surface: Spectrum): Xyz =>
	OBSERVER.reduce<Xyz>(
		(sum, weights, i) => weights.map((w, c) => nth(sum, c) + w * nth(light, i) * nth(surface, i)) as Xyz,
		[0, 0, 0]
	);

/** What a light asks of every colour seen in it. */
const inLight = Object.fromEntries(
	(Object.keys(LIGHTS) as Light[]).map((name) => {
		const paper = observed(LIGHTS[name], PAPER);
		const white = paper.map((v) => v / paper[1]) as Xyz;
		const used = adaptation(name);
		const [theirs, ours] = [times(CONES, white), times(CONES, D65)];
		const gains = theirs.map((v, c) => (used * nth(ours, c)) / v + 1 - used) as Xyz;
		const bright = WHITE_BY_DAY * (LUMINANCE[name] / LUMINANCE.daylight) ** DARKER;
		return [name, { gains, scale: bright / paper[1] }];
	})
) as Record<Light, { gains: Xyz; scale: number }>;

const encoded = (linear: number): number => {
	const v = Math.max(0, Math.min(1, linear));
	return Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
};

/**
 * What an eye sees of a surface in a light, as a screen shows it: the standard observer, used to the light as far as eyes are.
 * A lamp that lacks a colour cannot show it.
 *
 * @example seen(PAPER, 'daylight') // → [240, 238, 238]
 */
export function seen(surface: Spectrum, light: Light): Rgb {
	const { gains, scale } = inLight[light];
	const cones = times(CONES, observed(LIGHTS[light], surface));
	const adapted = times(FROM_CONES, cones.map((v, c) => v * scale * nth(gains, c)) as Xyz);
	return times(SCREEN, adapted).map(encoded) as Rgb;
}
