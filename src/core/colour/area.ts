import {
	convertLab65ToRgb,
	convertLrgbToRgb,
	convertRgbToLab65,
	convertRgbToLrgb,
	differenceCiede2000,
	modeLab65,
	modeRgb,
	useMode
} from 'culori/fn';
import { nth } from '../base';
import { median } from '../statistics';
import type { ColourFlag, Samples } from './schema';

useMode(modeRgb);
useMode(modeLab65);

export type Triple = [number, number, number];
/** A symmetric 3 by 3 matrix, row by row. */
export type Covariance = [Triple, Triple, Triple];

/** Below so many pixels an area says nothing: a finger's breadth of a patch has thousands. */
const LEAST_PIXELS = 25;
/** Pixels of a photograph repeat their neighbours (blur, JPEG's 8 by 8 blocks with colour at half of that): so many make one. */
const PIXELS_A_WORD = 16;
/** So many of them tell how an area's pixels scatter. */
const ENOUGH_PIXELS = 300;
/** From here on a channel holds no more light. */
const FULL = 254;
/** Share of pixels that may be full before an area's colour is that of the sensor's limit. */
const MOST_FULL = 0.05;
/** A highlight is brighter than the area's middle by so many of its robust deviations, and by so many steps of 255 at least. */
const HIGHLIGHT_DEVIATIONS = 6;
const HIGHLIGHT_STEPS = 14;
/** Share of highlights up to which they are left out; more is glare. */
const MOST_HIGHLIGHTS = 0.2;
/** A veil of light over an area: its brightness spreads by so much of its middle, and by more than noise does, in steps of 255. */
const VEIL = 0.085;
const VEIL_STEPS = 7;
/** Brightest channel below which a camera's noise and its rounding are most of what is seen, of 255. */
const DARK = 24;
/** Robust deviation of a normal spread, from its median absolute deviation. */
const OF_MAD = 1.4826;

/** What is left of an area's pixels, and what is wrong with them. */
export interface Looked {
	/** Linear light in each channel, 0 to 1, of pixels that are no highlight. */
	light: Triple[];
	/** Their mean. */
	mean: Triple;
	/** How much brightness varies within it, relative. */
	spread: number;
	flags: ColourFlag[];
}

const linear = Float64Array.from({ length: 256 }, (_, v) => convertRgbToLrgb({ r: v / 255, g: 0, b: 0 }).r);
const linearOf = (v: number): number => {
	const low = Math.floor(v);
	const from = linear[low] as number;
	return low >= 255 ? from : from + (v - low) * ((linear[low + 1] as number) - from);
};
const brightness = ([r, g, b]: readonly number[]): number => 0.299 * r! + 0.587 * g! + 0.114 * b!;

/** Looks an area's pixels over: highlights are left out, what cannot be trusted is flagged. */
export function lookedAt(samples: Samples): Looked {
	const flags: ColourFlag[] = [];
	const light = samples.map(brightness);
	const middle = median(light);
	const deviation = OF_MAD * median(light.map((v) => Math.abs(v - middle)));
	const limit = middle + Math.max(HIGHLIGHT_STEPS, HIGHLIGHT_DEVIATIONS * deviation);
	const kept = samples.filter((_, i) => nth(light, i) <= limit);
	const full = samples.filter((p) => p.some((v) => v >= FULL)).length / samples.length;
	const top = median(samples.map((p) => Math.max(...p)));
	const spread = deviation / Math.max(middle, 1);
	if (samples.length < LEAST_PIXELS) flags.push('too-few-pixels');
	if (kept.length < (1 - MOST_HIGHLIGHTS) * samples.length || deviation > Math.max(VEIL * middle, VEIL_STEPS))
		flags.push('glare');
	else if (full > MOST_FULL) flags.push('clipped');
	if (top < DARK) flags.push('dark');
	const lights = kept.map((p): Triple => [linearOf(p[0]), linearOf(p[1]), linearOf(p[2])]);
	return { light: lights, mean: meanOf(lights), spread, flags };
}

export const outer = (v: Triple): Covariance => v.map((a) => v.map((b) => a * b)) as Covariance;
export const plus = (a: Covariance, b: Covariance, times = 1): Covariance =>
	a.map((row, i) => row.map((v, j) => v + times * b[i as 0][j as 0])) as Covariance;

export const meanOf = (points: Triple[]): Triple => {
	const sum: Triple = [0, 0, 0];
	for (const p of points) for (let c = 0; c < 3; c++) sum[c as 0] += p[c as 0];
	return sum.map((v) => v / Math.max(points.length, 1)) as Triple;
};

/** A colour in CIELAB (D65) as it would be where `white` is white: each channel by its own (von Kries 1902). */
export function labIn(light: Triple, white: Triple): Triple {
	const [r, g, b] = light.map((v, c) => Math.max(0, v) / white[c as 0]) as Triple;
	const { l, a, b: yellow } = convertRgbToLab65(convertLrgbToRgb({ r, g, b }));
	return [l, a ?? 0, yellow ?? 0];
}

/** And back: the light of a colour in CIELAB, as shares of white. */
export function lightOf([l, a, b]: Triple): Triple {
	const { r, g, b: blue } = convertRgbToLrgb(convertLab65ToRgb({ l, a, b }));
	return [r, g, blue];
}

/** The covariance of an area's mean colour, from its pixels' own spread. */
export function covarianceOfMean({ light }: Looked, white: Triple): Covariance {
	const step = Math.max(1, Math.floor(light.length / ENOUGH_PIXELS));
	const points = light.filter((_, i) => i % step === 0).map((p) => labIn(p, white));
	const mean = meanOf(points);
	const words = Math.max(1, light.length / PIXELS_A_WORD);
	const cov: Covariance = [
		[0, 0, 0],
		[0, 0, 0],
		[0, 0, 0]
	];
	for (const p of points)
		for (let i = 0; i < 3; i++)
			for (let j = 0; j < 3; j++)
				cov[i as 0][j as 0] +=
					((p[i as 0] - mean[i as 0]) * (p[j as 0] - mean[j as 0])) / points.length / words;
	return cov;
}

const ciede2000 = differenceCiede2000();
const asLab = ([l, a, b]: Triple) => ({ mode: 'lab65' as const, l, a, b });
/** How different two colours look (CIEDE2000, CIE 142-2001): 1 is just to be seen side by side. */
export const looksDifferent = (a: Triple, b: Triple): number => ciede2000(asLab(a), asLab(b));
