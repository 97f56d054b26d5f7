import type { ColourRequest, Samples } from '../colour';
import { perspectiveOf, placeIn, type Perspective } from './perspective';
import type { Corners, Pixels, Spot } from './pixels';

/** What is marked in a photograph of a comparator, in its pixels. */
export interface CardMarks {
	/** Of the strip of patches (cards and blocks) or the wheel; the first corner is at the palest patch. */
	corners: Corners;
	/** Where each patch lies between those corners, as shares; without it in one row, or around a wheel. */
	layout?: Spot[] | undefined;
	vial: Corners;
	white?: Corners | undefined;
	/** The untreated vial. */
	zero?: Corners | undefined;
}

/** So many pixels of an area tell its colour. */
const MOST_SAMPLES = 800;
/** Half of what is looked at of a patch, in steps from patch to patch and as a share of the strip's breadth. */
const HALF_STEP = 0.2;
const HALF_BREADTH = 0.27;
/** Half of what is looked at of a wheel's window, as a share of the distance to its neighbour. */
const HALF_WINDOW = 0.2;
/** Where paper is looked for beside a patch, as shares of the strip's breadth beyond its rims. */
const BESIDE = [0.08, 0.3] as const;
/** Paper is most of what is bright there, so it is at this quantile of brightness; what is print differs from it by more than the share. */
const PAPER_QUANTILE = 0.7;
const PAPER_WITHIN = 0.1;
/** Paper's own colour is alike beside all patches: in no ratio of two channels further off the middle than this. */
const ALIKE = 0.15;

/**
 * Where the patches of a card lie between its four corners, as shares: in one row down, or around a wheel from the top, clockwise.
 *
 * @example usualLayout('card', 2) // → [{ x: 0.5, y: 0.25 }, { x: 0.5, y: 0.75 }]
 */
export function usualLayout(form: 'card' | 'wheel' | 'block', count: number): Spot[] {
	return Array.from({ length: count }, (_, i) => {
		const turn = (2 * Math.PI * i) / count;
		return form === 'wheel'
			? { x: 0.5 + 0.36 * Math.sin(turn), y: 0.5 - 0.36 * Math.cos(turn) }
			: { x: 0.5, y: (i + 0.5) / count };
	});
}

/** What `colour` is asked, from a photograph and what is marked in it. Corners in one line give nothing. */
export function colourRequest(
	pixels: Pixels,
	marks: CardMarks,
	values: number[],
	form: 'card' | 'wheel' | 'block'
): ColourRequest | undefined {
	const view = perspectiveOf(marks.corners);
	const vial = samplesIn(pixels, marks.vial);
	if (!view || !vial) return undefined;
	const layout = marks.layout ?? usualLayout(form, values.length);
	const step = form === 'wheel' ? (2 * Math.PI * 0.36) / values.length : 1 / values.length;
	const around = ({ x, y }: Spot): Corners => {
		const [w, h] =
			form === 'wheel'
				? [HALF_WINDOW * step * 1.4, HALF_WINDOW * step * 1.4]
				: [HALF_BREADTH, HALF_STEP * step];
		return box(x - w, y - h, x + w, y + h).map((p) => placeIn(view, p)) as Corners;
	};
	const patches = layout.map((spot, i) => ({
		value: values[i]!,
		samples: samplesIn(pixels, around(spot)) ?? [],
		white: form === 'wheel' ? [] : paperBeside(pixels, view, spot, step)
	}));
	const white = marks.white && samplesIn(pixels, marks.white);
	const beside =
		white &&
		arePaper(
			patches.map((p) => p.white),
			white
		);
	const zero = marks.zero && samplesIn(pixels, marks.zero);
	return {
		patches: patches.map(({ value, samples, white: own }) => ({
			value,
			samples,
			...(beside ? { white: own } : {})
		})),
		...(white ? { white } : {}),
		vial: { samples: vial, ...(beside ? { white } : {}) },
		...(zero ? { zero: { samples: zero } } : {})
	};
}

const box = (left: number, top: number, right: number, bottom: number): Corners => [
	{ x: left, y: top },
	{ x: right, y: top },
	{ x: right, y: bottom },
	{ x: left, y: bottom }
];

/** Pixels within four corners, evenly spread. Corners in one line give nothing. */
function samplesIn(pixels: Pixels, corners: Corners): Samples | undefined {
	const view = perspectiveOf(corners);
	if (!view) return undefined;
	const { width, height, data } = pixels;
	const long = (a: Spot, b: Spot) => Math.hypot(a.x - b.x, a.y - b.y);
	const [w, h] = [long(corners[0], corners[1]), long(corners[1], corners[2])];
	const thin = Math.max(1, Math.sqrt((w * h) / MOST_SAMPLES));
	const [across, down] = [Math.max(1, Math.floor(w / thin)), Math.max(1, Math.floor(h / thin))];
	const samples: Samples = [];
	for (let j = 0; j < down; j++)
		for (let i = 0; i < across; i++) {
			const spot = placeIn(view, { x: (i + 0.5) / across, y: (j + 0.5) / down });
			const [x, y] = [Math.floor(spot.x), Math.floor(spot.y)];
			if (x < 0 || y < 0 || x >= width || y >= height) continue;
			const at = 4 * (y * width + x);
			samples.push([data[at]!, data[at + 1]!, data[at + 2]!]);
		}
	return samples.length ? samples : undefined;
}

const sum = ([r, g, b]: readonly number[]) => r! + g! + b!;

/** Paper on both sides of a patch. */
function paperBeside(pixels: Pixels, view: Perspective, { x, y }: Spot, step: number): Samples {
	const [near, far] = BESIDE;
	const sides = (
		[
			[x - 0.5 - far, x - 0.5 - near],
			[x + 0.5 + near, x + 0.5 + far]
		] as const
	).map(
		([left, right]) =>
			samplesIn(
				pixels,
				box(left, y - 0.3 * step, right, y + 0.3 * step).map((p) => placeIn(view, p)) as Corners
			) ?? []
	);
	return sides.flatMap((side) => {
		const bright = side.map(sum).sort((a, b) => a - b);
		const paper = bright[Math.floor(PAPER_QUANTILE * bright.length)] ?? 0;
		return side.filter((p) => Math.abs(sum(p) - paper) < PAPER_WITHIN * paper);
	});
}

/** Whether what lies beside the patches is the same white as the ground beside the vial: then it tells how the light differs there. */
function arePaper(beside: Samples[], ground: Samples): boolean {
	if (beside.some((s) => s.length < 25)) return false;
	const mean = (samples: Samples) =>
		[0, 1, 2].map((c) => samples.reduce((a, p) => a + p[c as 0], 0) / samples.length);
	const reference = mean(ground);
	return beside.every((samples) => {
		const own = mean(samples);
		const ratio = own.map((v, c) => v / Math.max(reference[c]!, 1));
		const middle = (ratio[0]! + ratio[1]! + ratio[2]!) / 3;
		return (
			middle > 0.55 &&
			middle < 1.8 &&
			ratio.every((r, c) => reference[c]! < 12 || Math.abs(r / middle - 1) < ALIKE)
		);
	});
}
