import { nth } from '../base';
import { median } from '../statistics';

/** Edges of brightness along a barrel: the seal's, however it is made, and the liquid's. Places are rows from the tip. */

/** An edge is a step of brightness of at least so much, of 255. */
export const LEAST_STEP = 28;
/** A seal has ribs: of edges nearly as strong as the strongest, the one nearest to the tip is its end. */
export const AS_STRONG = 0.62;
/** Past the seal's edge the liquid's is a step of so much at least. */
const LIQUID_STEP = 7;

/** A ring of a seal is at least so long, mL a mL of the syringe; thin ones part by gaps that let light through. */
export const THIN_RING = 0.012;
/** A seal is no longer than this, mL a mL of the syringe. */
const LONGEST_SEAL = 0.12;
/** A thin ring's edge is a step of at least this share of the strongest. */
const RING_STEP = 0.4;

/** The edge of a thin ring that stands before the edge found: it is the seal's end, however pale the gap behind it. */
export function ringBefore(soft: number[], found: number, ring: number, ground: number): number {
	const step = (row: number) => {
		const tip = median(soft.slice(Math.max(0, row - ring), Math.max(1, row - Math.round(ring * 0.3))));
		// A ring is dark for more than half of that; a line of the scale is not.
		const back = median(soft.slice(row + 1, row + ring));
		return tip - back;
	};
	const reach = Math.round((LONGEST_SEAL / THIN_RING) * ring);
	const from = Math.max(2, found - reach);
	const rows = Array.from({ length: found + Math.round(ground / 2) - from }, (_, i) => from + i).filter(
		(row) => row + ring < soft.length
	);
	const steps = rows.map(step);
	const strongest = Math.max(0, ...steps);
	const [place] = peaksOf(steps, Math.round(ring * 0.7)).filter(
		(i) => nth(steps, i) >= Math.max(LEAST_STEP, RING_STEP * strongest)
	);
	const row = place === undefined ? found : nth(rows, place);
	return row < found - ring ? row : found;
}

/** Parts of the bore whose edge is looked at by itself, from one wall to the other. */
const PARTS = 7;
/** An edge that is further on at the walls than in the middle by so many graduations is that of a cone or of a view at a slant: it is read at its ring. */
const UNEVEN = 0.6;
/** How far off the middle the walls are, in half-widths of what is looked at, and how well that is known. */
const [WALL, WALL_KNOWN] = [1.1, 0.12];

/** Where the edge stands at the walls, in rows beyond where it stands in the middle; its error so; and whether that is more than lines and noise make. */
export function edgeAcross(
	rows: number[][],
	middle: number,
	ground: number,
	graduation: number
): { wall: number; error: number; uneven: boolean } {
	const across = rows[0]?.length ?? 0;
	const size = across / PARTS;
	const level = { wall: 0, error: 0, uneven: false };
	const [from, to] = [
		Math.max(0, Math.round(middle - 2.5 * ground)),
		Math.min(rows.length, Math.round(middle + 3.5 * ground))
	];
	const short = Math.max(2, Math.round(ground / 3));
	const found = Array.from({ length: PARTS }, (_, part) => {
		const its = smoothed(
			rows
				.slice(from, to)
				.map((row) => median(row.slice(Math.floor(part * size), Math.ceil((part + 1) * size)))),
			Math.max(1, Math.round(0.12 * graduation))
		);
		const step = (i: number) =>
			i < short || i + short >= its.length
				? 0
				: median(its.slice(i - short, i)) - median(its.slice(i + 1, i + 1 + short));
		const steps = its.map((_, i) => step(i));
		const strongest = Math.max(...steps);
		// Beside the scale the long lines are steps too; the edge is the first of the strong ones that stays dark.
		const at = peaksOf(steps, short).find((i) => nth(steps, i) >= AS_STRONG * strongest);
		if (at === undefined || strongest < LEAST_STEP) return undefined;
		const off = ((part + 0.5) / PARTS) * 2 - 1;
		return { off: Math.abs(off), row: from + halfway(its, at, ground, short * 2).row - middle };
	}).filter((p) => p !== undefined);
	if (found.length < 5) return level;
	// Median of slopes over pairs (Theil 1950, Sen 1968): a part that a line spoils does not count.
	const slopes = found.flatMap((p, i) =>
		found
			.slice(i + 1)
			.flatMap((q) => (Math.abs(p.off - q.off) > 0.2 ? [(p.row - q.row) / (p.off - q.off)] : []))
	);
	const slope = slopes.length ? median(slopes) : 0;
	const centre = median(found.map((p) => p.row - slope * p.off));
	const scatter = median(found.map((p) => Math.abs(p.row - centre - slope * p.off)));
	const uneven = Math.abs(slope) > UNEVEN * graduation && Math.abs(slope) > 2 * scatter;
	if (!uneven) return level;
	return { wall: centre + WALL * slope, error: Math.hypot(WALL_KNOWN * slope, 2 * scatter), uneven };
}

export function smoothed(values: number[], radius: number): number[] {
	return values.map((_, i) => {
		let sum = 0;
		let count = 0;
		for (let j = Math.max(0, i - radius); j <= Math.min(values.length - 1, i + radius); j++) {
			sum += nth(values, j);
			count++;
		}
		return sum / count;
	});
}

/** Places that are higher than all within a distance, lowest place first. */
export function peaksOf(values: number[], within: number): number[] {
	const peaks: number[] = [];
	for (let i = 0; i < values.length; i++) {
		const v = nth(values, i);
		let top = v > 0;
		for (let j = Math.max(0, i - within); top && j <= Math.min(values.length - 1, i + within); j++)
			if (nth(values, j) > v || (nth(values, j) === v && j < i)) top = false;
		if (top) peaks.push(i);
	}
	return peaks;
}

/** Where brightness crosses the middle between air and seal, between rows, and over how many rows it goes from a tenth to nine. */
export function halfway(
	values: number[],
	edge: number,
	ground: number,
	seal: number
): { row: number; width: number } {
	const bright = median(
		values.slice(Math.max(0, edge - ground), Math.max(1, edge - Math.round(ground * 0.4)))
	);
	const dark = median(values.slice(edge + Math.round(seal * 0.3), edge + seal));
	const level = (share: number) => dark + share * (bright - dark);
	const crossing = (share: number) => {
		let best = edge;
		let distance = Infinity;
		for (let i = Math.max(0, edge - ground); i < Math.min(values.length - 1, edge + seal); i++) {
			const [a, b] = [nth(values, i) - level(share), nth(values, i + 1) - level(share)];
			if (a >= 0 !== b >= 0) {
				const at = i + a / (a - b);
				if (Math.abs(at - edge) < distance) [best, distance] = [at, Math.abs(at - edge)];
			}
		}
		return best;
	};
	return { row: crossing(0.5), width: Math.abs(crossing(0.1) - crossing(0.9)) };
}

/** The first step past the air below the seal, towards the tip; nothing where the barrel looks alike. */
export function liquidEdge(
	values: number[],
	plungerRow: number,
	ground: number,
	zeroRow: number
): number | undefined {
	const half = Math.max(2, Math.round(ground / 3));
	const change = (row: number) =>
		Math.abs(
			median(values.slice(Math.max(0, row - half), row)) - median(values.slice(row + 1, row + 1 + half))
		);
	const places: number[] = [];
	for (let row = Math.round(plungerRow - ground * 0.5 - half); row > Math.max(half, zeroRow); row--)
		places.push(row);
	const peak = peaksOf(
		places.map((row) => change(row)),
		half
	).find((i) => change(nth(places, i)) >= LIQUID_STEP);
	return peak === undefined ? undefined : nth(places, peak);
}
