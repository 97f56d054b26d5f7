import { nth } from '../base';
import { median } from '../statistics';
import { smoothed } from './plunger-edge';

/** The scale's lines count where their contrast stands so far above what is seen between them. */
const LINES_STAND_OUT = 3;
/** So many of the comb's teeth lie on something dark where there are lines. */
const MOST_TEETH = 0.7;
/** The marked ends may be so many lines off. */
const LINES_OFF = 9;
/** One way of numbering the lines must be so much better than the next, in contrasts of a line, to be sure of. */
const CLEARLY_NUMBERED = 0.25;
/** So many graduations from its line a mark still means it; each further line costs a numbering so much. */
const AS_MARKED = 1.6;
const NEAR_MARKS = 0.04;

type Fit = [shift: number, stretch: number, slant: number];
const around = (middle: number, half: number, by: number) => {
	const n = Math.round(half / by);
	return Array.from({ length: 2 * n + 1 }, (_, i) => middle + (i - n) * by);
};

/**
 * The scale's lines: a comb is laid over what is dark along the barrel, moved, stretched and foreshortened until it fits best; which tooth is
 * zero follows from where lines end and from every tenth or fifth being longer. The marked ends only say where to look.
 */
export function scaleBy(
	rows: number[][],
	rowOf: (share: number) => number,
	shares: [number, number],
	graduations: number
) {
	const count = Math.round(graduations);
	const whole = rows.map((row) => row.reduce((a, b) => a + b, 0) / row.length);
	const about = smoothed(whole, Math.max(1, Math.round((rowOf(1) - rowOf(0)) / graduations / 2)));
	const dark = whole.map((v, i) => Math.max(-20, Math.min(20, nth(about, i) - v)));
	const read = (row: number) => {
		const i = Math.floor(row);
		return i < 0 || i + 1 >= dark.length ? 0 : nth(dark, i) + (row - i) * (nth(dark, i + 1) - nth(dark, i));
	};
	/** Where a share of the comb is seen, on the scale as it was marked. */
	const seenAt = (t: number, [shift, stretch, slant]: Fit) => shift + t * (1 + stretch) + slant * t * (1 - t);
	const fits = (n: number, fit: Fit, between = 0) => {
		let sum = 0;
		for (let i = 0; i <= n; i++) sum += read(rowOf(seenAt((i + between) / n, fit)));
		return sum / (n + 1);
	};
	let best = { n: count, fit: [0, 0, 0] as Fit, score: -Infinity };
	const look = (n: number, shifts: number[], stretches: number[], slants: number[]) => {
		for (const a of shifts)
			for (const b of stretches)
				for (const c of slants) {
					const score = fits(n, [a, b, c]);
					if (score > best.score) best = { n, fit: [a, b, c], score };
				}
	};
	const off = Math.min(LINES_OFF, Math.floor(count / 4));
	for (let n = count - off; n <= count + off; n++)
		look(n, around(0, 0.5 / n, 0.17 / n), around(0, 0.5 / n, 0.25 / n), around(0, 0.06, 0.4 / n));
	const g = 1 / best.n;
	for (const [half, by] of [
		[0.2 * g, 0.1 * g],
		[0.1 * g, 0.05 * g],
		[0.05 * g, 0.0125 * g]
	] as const) {
		const [a, b, c] = best.fit;
		look(best.n, around(a, half, by), around(b, half, by), around(c, 2 * half, 2 * by));
	}
	const { n, fit, score } = best;
	const between = median([0.3, 0.4, 0.5, 0.6, 0.7].map((x) => fits(n, fit, x)));
	const contrast = score - between;
	const seen = Array.from({ length: n + 1 }, (_, i) => read(rowOf(seenAt(i / n, fit))));
	const most = seen.filter((v) => v > Math.max(0.2 * contrast, 0.4)).length > MOST_TEETH * seen.length;
	const lines = most && contrast > 0.8 && contrast > LINES_STAND_OUT * Math.max(0.15, Math.abs(between) / 2);
	if (!lines) return { lines, numbered: true, ends: [0, 1] as [number, number], shareAt: (at: number) => at };

	/** How dark each tooth is, also beyond the marked ends. */
	const teeth: { i: number; dark: number }[] = [];
	for (let i = -2 * off; i <= n + 2 * off; i++) {
		const at = seenAt(i / n, fit);
		if (at > shares[0] && at < shares[1]) teeth.push({ i, dark: read(rowOf(at)) - between });
	}
	const mean = (of: { dark: number }[]) =>
		of.length
			? of.reduce((a, b) => a + Math.max(-contrast, Math.min(3 * contrast, b.dark)), 0) / of.length
			: 0;
	const numberings = around(0, off + Math.abs(n - count), 1).map((zero) => {
		const inside = teeth.filter(({ i }) => i >= zero && i <= zero + count);
		const outside = teeth.filter(({ i }) => i < zero || i > zero + count);
		const longer = Math.max(
			...[10, 5].map(
				(every) =>
					mean(inside.filter(({ i }) => (i - zero) % every === 0)) -
					mean(inside.filter(({ i }) => (i - zero) % every !== 0))
			)
		);
		const ends = teeth.filter(({ i }) => i === zero || i === zero + count);
		return {
			zero,
			score:
				(mean(inside) - mean(outside) + longer + 0.5 * mean(ends)) / contrast - NEAR_MARKS * Math.abs(zero)
		};
	});
	numberings.sort((a, b) => b.score - a.score);
	const [first, second] = numberings;
	const ends: [number, number] = [seenAt(first!.zero / n, fit), seenAt((first!.zero + count) / n, fit)];
	const asMarked = Math.max(Math.abs(ends[0]), Math.abs(ends[1] - 1)) < AS_MARKED / count;
	return {
		lines,
		ends,
		/** Marks and lines say the same, or the lines alone leave no doubt. */
		numbered: asMarked && (!second || first!.score - second.score > CLEARLY_NUMBERED || first!.zero === 0),
		/** The true share at a place of the scale as it was marked (Newton's method). */
		shareAt(at: number): number {
			let t = at;
			for (let i = 0; i < 6; i++) t -= (seenAt(t, fit) - at) / (1 + fit[1] + fit[2] * (1 - 2 * t));
			return (t * n - first!.zero) / count;
		}
	};
}
