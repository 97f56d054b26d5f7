/**
 * Light, dyes, inks and a camera by their spectra, 400 to 700 nm in steps of 10: simple sums of bells of the right place and width.
 * They are for pictures whose truth is known, and are nobody's product.
 */
export const WAVELENGTHS = Array.from({ length: 31 }, (_, i) => 400 + 10 * i);
export type Spectrum = number[];

const bell = (nm: number, centre: number, width: number) => Math.exp(-0.5 * ((nm - centre) / width) ** 2);
/**
 * A spectrum as a sum of bells: [height, centre nm, width nm].
 *
 * @example bells([1, 550, 20])[15] // → 1
 */
export const bells = (...of: [height: number, centre: number, width: number][]): Spectrum =>
	WAVELENGTHS.map((nm) =>
		of.reduce((sum, [height, centre, width]) => sum + height * bell(nm, centre, width), 0)
	);

/** Planck's law, 1 at 560 nm. */
const planck = (kelvin: number): Spectrum => {
	const of = (nm: number) => nm ** -5 / (Math.exp(1.4388e7 / (nm * kelvin)) - 1);
	return WAVELENGTHS.map((nm) => of(nm) / of(560));
};

/** Six lights a keeper stands in, from daylight to the tank's own lamp. */
export const LIGHTS = {
	daylight: planck(6000),
	'warm bulb': planck(2850),
	'warm strip': bells([0.35, 452, 12], [1, 600, 62], [0.45, 545, 45]),
	'cool strip': bells([1.1, 450, 11], [0.85, 560, 62]),
	'white tank lamp': bells([1.5, 448, 12], [0.5, 420, 9], [0.75, 555, 68], [0.3, 640, 18]),
	'blue tank lamp': bells([3, 452, 13], [0.8, 472, 12], [0.5, 420, 9], [0.3, 550, 75], [0.1, 640, 18])
} satisfies Record<string, Spectrum>;
export type Light = keyof typeof LIGHTS;

/** Absorbance of a dye at a concentration of one. */
export const DYES = {
	pink: bells([1, 540, 32], [0.25, 505, 22]),
	blue: bells([0.85, 690, 60], [0.35, 620, 40], [0.06, 430, 25]),
	yellow: bells([1, 420, 38], [0.15, 470, 25]),
	green: bells([0.75, 655, 45], [0.55, 415, 30]),
	orange: bells([0.9, 470, 40], [0.3, 520, 25])
} satisfies Record<string, Spectrum>;
export type Dye = keyof typeof DYES;

/** Three printing inks, absorbance at full cover. */
export const INKS: Spectrum[] = [
	bells([1.1, 635, 62]),
	bells([1.1, 545, 42], [0.15, 440, 30]),
	bells([1.1, 440, 45])
];

/** Sensitivities of a camera's three kinds of pixel, with the crosstalk they have. */
const SENSORS: Spectrum[] = [
	bells([1, 602, 38], [0.12, 530, 30], [0.04, 450, 25]),
	bells([1, 536, 40], [0.1, 600, 30], [0.09, 465, 25]),
	bells([0.95, 458, 28], [0.1, 520, 25])
];

/** What the camera's three kinds of pixel get of a surface in a light, before any gain. */
export const caught = (light: Spectrum, surface: Spectrum): [number, number, number] =>
	SENSORS.map((sensor) => sensor.reduce((sum, s, i) => sum + s * light[i]! * surface[i]!, 0)) as [
		number,
		number,
		number
	];

/** White paper: hardly any colour, brightened a little in the blue. */
export const PAPER: Spectrum = WAVELENGTHS.map((nm) => 0.88 - 0.03 * bell(nm, 400, 20));
/**
 * What is seen of white ground through a dye, or under inks.
 *
 * @example through(PAPER, [0, 0, 0])[0] < 1 // → true
 */
export const through = (ground: Spectrum, absorbance: Spectrum): Spectrum =>
	ground.map((v, i) => v * 10 ** -(absorbance[i] ?? 0));
