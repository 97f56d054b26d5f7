import { nth } from '../base';

/** y = a + b·x. */
export interface Line {
	a: number;
	b: number;
}
export type Point = { x: number; y: number; index: number };

/** @example residual({ a: 1, b: 2 }, { x: 1, y: 3.5, index: 0 }) // → 0.5 */
export const residual = (line: Line, p: Point): number => p.y - line.a - line.b * p.x;

/**
 * Whether one straight line passes all points within a tolerance (Fourier and Motzkin: every pair bounds the slope).
 *
 * @example oneLineFits([{ x: 0, y: 0, index: 0 }, { x: 1, y: 1.1, index: 1 }, { x: 2, y: 2, index: 2 }], 0.1) // → true
 */
export function oneLineFits(points: Point[], tolerance: number): boolean {
	let [least, most] = [-Infinity, Infinity];
	for (const [i, p] of points.entries())
		for (const q of points.slice(0, i)) {
			const [low, high] = p.x < q.x ? [p, q] : [q, p];
			const width = high.x - low.x;
			least = Math.max(least, (high.y - low.y - 2 * tolerance) / width);
			most = Math.min(most, (high.y - low.y + 2 * tolerance) / width);
		}
	return least <= most;
}

/**
 * Least squares; undefined where all x are one.
 *
 * @example leastSquares([{ x: 0, y: 1, index: 0 }, { x: 1, y: 3, index: 1 }]) // → { a: 1, b: 2 }
 */
export function leastSquares(points: Point[]): Line | undefined {
	const n = points.length;
	const mx = points.reduce((sum, p) => sum + p.x, 0) / n;
	const my = points.reduce((sum, p) => sum + p.y, 0) / n;
	const sxx = points.reduce((sum, p) => sum + (p.x - mx) ** 2, 0);
	if (sxx === 0) return undefined;
	const b = points.reduce((sum, p) => sum + (p.x - mx) * (p.y - my), 0) / sxx;
	return { a: my - b * mx, b };
}

/**
 * Least squares through the origin.
 *
 * @example throughOrigin([{ x: 1, y: 2, index: 0 }, { x: 2, y: 4, index: 1 }]) // → { a: 0, b: 2 }
 */
export function throughOrigin(points: Point[]): Line | undefined {
	const sxx = points.reduce((sum, p) => sum + p.x * p.x, 0);
	return sxx === 0 ? undefined : { a: 0, b: points.reduce((sum, p) => sum + p.x * p.y, 0) / sxx };
}

/**
 * The line that most points lie on within a tolerance: tried through every pair, then fitted to what lies on it until
 * that no longer changes. A few wrong points do not move it.
 *
 * @example lineOfMost([{ x: 0, y: 0, index: 0 }, { x: 1, y: 9, index: 1 }, { x: 2, y: 2, index: 2 }, { x: 3, y: 3, index: 3 }], 0.05).on.map((p) => p.index) // → [0, 2, 3]
 */
export function lineOfMost(points: Point[], tolerance: number): { line: Line; on: Point[] } | undefined {
	let best: { line: Line; on: Point[] } | undefined;
	const on = (line: Line, slack: number) => points.filter((p) => Math.abs(residual(line, p)) <= slack);
	for (let i = 0; i < points.length; i++)
		for (let j = i + 1; j < points.length; j++) {
			const [p, q] = [nth(points, i), nth(points, j)];
			if (p.x === q.x) continue;
			const b = (q.y - p.y) / (q.x - p.x);
			const line = { a: p.y - b * p.x, b };
			// Both ends are rounded themselves: twice the tolerance, before the fit.
			const found = on(line, 2 * tolerance);
			if (found.length > (best?.on.length ?? 2)) best = { line, on: found };
			if (found.length === points.length) i = j = points.length;
		}
	for (let round = 0; best && round < 5; round++) {
		const line = leastSquares(best.on);
		if (!line) return undefined;
		best = { line, on: on(line, tolerance) };
		if (best.on.length < 3) return undefined;
	}
	return best;
}
