import { el } from './matrix';

/** A point with a standard error on each axis. */
interface MeasuredPoint {
	x: number;
	y: number;
	ux: number;
	uy: number;
}
/** y = a + b·x, with standard errors, their covariance, and the weighted sum of squares about it. */
interface MeasuredLine {
	a: number;
	b: number;
	ua: number;
	ub: number;
	covariance: number;
	square: number;
}

/** The slope is settled when it changes by no more than this share. */
const SETTLED = 1e-12;
const MOST_ROUNDS = 200;

/**
 * The straight line through points with errors on both axes (York, Evensen, Martínez & De Basabe Delgado 2004, Am. J. Phys. 72, 367; errors uncorrelated).
 * Undefined of fewer than two points, or where no slope settles.
 *
 * @example yorkLine([{ x: 0, y: 1, ux: 0.1, uy: 0.1 }, { x: 1, y: 3, ux: 0.1, uy: 0.1 }, { x: 2, y: 5, ux: 0.1, uy: 0.1 }]).b // → 2
 */
export function yorkLine(points: MeasuredPoint[]): MeasuredLine | undefined {
	if (points.length < 2) return undefined;
	const mean = (of: (p: MeasuredPoint) => number) =>
		points.reduce((sum, p) => sum + of(p), 0) / points.length;
	const [mx, my] = [mean((p) => p.x), mean((p) => p.y)];
	const sxx = points.reduce((sum, p) => sum + (p.x - mx) ** 2, 0);
	let b = points.reduce((sum, p) => sum + (p.x - mx) * (p.y - my), 0) / sxx;
	for (let round = 0; round < MOST_ROUNDS && Number.isFinite(b); round++) {
		const weights = points.map((p) => 1 / (p.uy ** 2 + b * b * p.ux ** 2));
		const total = weights.reduce((sum, w) => sum + w, 0);
		const weighted = (of: (p: MeasuredPoint, i: number) => number) =>
			points.reduce((sum, p, i) => sum + el(weights, i) * of(p, i), 0);
		const [x, y] = [weighted((p) => p.x) / total, weighted((p) => p.y) / total];
		// β: where each point lies along the line, from the middle.
		const beta = points.map((p, i) => el(weights, i) * ((p.x - x) * p.uy ** 2 + b * (p.y - y) * p.ux ** 2));
		const next = weighted((p, i) => el(beta, i) * (p.y - y)) / weighted((p, i) => el(beta, i) * (p.x - x));
		const settled = Math.abs(next - b) <= SETTLED * Math.abs(next) || next === b;
		b = next;
		if (!settled) continue;
		const a = y - b * x;
		const adjusted = weighted((_, i) => x + el(beta, i)) / total;
		const ub = 1 / Math.sqrt(weighted((_, i) => (x + el(beta, i) - adjusted) ** 2));
		const ua = Math.sqrt(1 / total + (adjusted * ub) ** 2);
		return {
			a,
			b,
			ua,
			ub,
			covariance: -adjusted * ub ** 2,
			square: weighted((p) => (p.y - a - b * p.x) ** 2)
		};
	}
	return undefined;
}
