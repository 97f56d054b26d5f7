import { uniform } from '../statistics';
import { nth } from '../base';
import { DYES, INKS, LIGHTS, PAPER, caught, through, type Dye, type Light, type Spectrum } from './spectra';

/** A colour card as somebody printed it, and the dye it is for. */
export interface PrintedCard {
	values: number[];
	dye: Dye;
	/** Absorbance of the vial at the last value, and how it flattens: absorbance = top (1 - e^(-k v)) / (1 - e^(-k)). */
	top: number;
	flattens: number;
	/** Share of the print that is ink of another spectrum than the dye's: they agree by day and differ under lamps. */
	ink: number;
}

/** Five cards of 5 to 8 patches, made up. */
export const CARDS: PrintedCard[] = [
	{ values: [0, 2, 5, 10, 20, 40], dye: 'pink', top: 1.1, flattens: 2.2, ink: 0.3 },
	{ values: [0, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8], dye: 'blue', top: 1.2, flattens: 1.5, ink: 0.3 },
	{ values: [0, 0.25, 0.5, 1, 2, 4, 7, 10], dye: 'orange', top: 1.3, flattens: 2, ink: 0.2 },
	{ values: [0, 0.5, 1, 2, 4], dye: 'green', top: 1, flattens: 1, ink: 0.3 },
	{ values: [1, 5, 10, 25, 50, 100], dye: 'yellow', top: 1.4, flattens: 2.5, ink: 0.2 }
];

const absorbanceOf = (card: PrintedCard, value: number): number => {
	const share = value / nth(card.values, card.values.length - 1);
	return (card.top * (1 - Math.exp(-card.flattens * share))) / (1 - Math.exp(-card.flattens));
};

/** A vial of so much, on white ground. */
export const vialOf = (card: PrintedCard, value: number): Spectrum =>
	through(
		PAPER,
		DYES[card.dye].map((v) => v * absorbanceOf(card, value))
	);

/** A patch: the dye's own spectrum, in part replaced by inks of another that look the same by day. */
export function patchOf(card: PrintedCard, value: number): Spectrum {
	const wanted = vialOf(card, value);
	const seen = caught(LIGHTS.daylight, wanted);
	const asSeen = (print: Spectrum) => caught(LIGHTS.daylight, print).map((got, k) => got / seen[k as 0]);
	const cover = [0, 0, 0];
	const printed = () =>
		through(
			PAPER,
			PAPER.map((_, i) => INKS.reduce((sum, ink, k) => sum + cover[k]! * ink[i]!, 0))
		);
	for (let round = 0; round < 30; round++)
		asSeen(printed()).forEach((ratio, k) => (cover[k] = Math.max(0, cover[k]! + 0.8 * Math.log10(ratio))));
	// What three inks cannot do the printer's other means do: red, green and blue by themselves, until it looks the same.
	let inks = printed();
	for (let round = 0; round < 60; round++) {
		const [red, green, blue] = asSeen(inks) as [number, number, number];
		inks = inks.map((v, i) => {
			const nm = 400 + 10 * i;
			return v / (nm < 495 ? blue : nm < 575 ? green : red) ** 0.8;
		});
	}
	return wanted.map((v, i) => (1 - card.ink) * v + card.ink * inks[i]!);
}

/** What a phone makes of light: its guess of the white, its exposure, its curve and its noise. */
export interface Camera {
	/** How much of the light's colour its white balance takes away, 0 to 1. */
	whiteBalance: number;
	/** Linear value of white ground, 0 to 1 and beyond (clipped). */
	exposure: number;
	/** Contrast of its curve: 0 the standard one. */
	contrast: number;
	/** Standard deviation of noise at white, of 255. */
	noise: number;
}

/** Colours as this camera has them under a light: linear, before noise and curve. */
export function developed(light: Light, camera: Camera): (surface: Spectrum) => [number, number, number] {
	const white = caught(LIGHTS[light], PAPER);
	// Gains have limits: under a blue lamp no camera makes white white.
	const gains = white.map((v) => Math.min(6, (white[1] / v) ** camera.whiteBalance));
	const bright = Math.max(...toSrgb(white.map((v, c) => v * gains[c]!) as [number, number, number]));
	return (surface) =>
		toSrgb(caught(LIGHTS[light], surface).map((v, c) => v * gains[c]!) as [number, number, number]).map(
			(v) => (camera.exposure * v) / bright
		) as [number, number, number];
}

/** Takes the crosstalk of the pixels out again. */
const toSrgb = ([r, g, b]: [number, number, number]): [number, number, number] => [
	1.35 * r - 0.3 * g - 0.05 * b,
	-0.15 * r + 1.3 * g - 0.15 * b,
	-0.02 * r - 0.28 * g + 1.3 * b
];

/** From light to one of 256 steps, with the camera's curve (sRGB, IEC 61966-2-1). */
export function encoded(light: number, contrast: number): number {
	const v = Math.max(0, Math.min(1, light));
	const s = v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;
	return 255 * (s + contrast * s * (1 - s) * (2 * s - 1));
}

/** A camera by chance: as phones are. */
export function someCamera(seed: number): Camera {
	const random = uniform(seed);
	return {
		whiteBalance: 0.3 + 0.65 * random(),
		exposure: 0.5 + 0.35 * random(),
		contrast: 0.6 * random() - 0.1,
		noise: 1 + 3.5 * random()
	};
}
