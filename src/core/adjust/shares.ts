import { lastOf } from '../base';
import { addAt, addToCell, el, solveRight, zeros } from '../statistics';

/** One thing that is wanted of a blend: what each water has of it, in a common scale. */
export interface Wanted {
	of: number[];
	wanted: number;
}

/** Keeps the equations solvable where waters are alike: against 1, the scale of all rows. */
const RIDGE = 1e-9;

/**
 * Shares of waters, each from nought to its `most`, one in all, whose mixture comes nearest to what is wanted: least squares under bounds,
 * by trying which waters stand at a bound (Lawson & Hanson 1974, ch. 23; for up to six waters all 3ⁿ are tried, so that the best is
 * known to be the best).
 */
export function nearestShares(rows: Wanted[], most: number[]): number[] {
	const count = most.length;
	let best: { shares: number[]; off: number } | undefined;
	for (let code = 0; code < 3 ** count; code++) {
		const state = most.map((_, i) => Math.floor(code / 3 ** i) % 3);
		const free = state.flatMap((s, i) => (s === 0 ? [i] : []));
		const shares = most.map((m, i) => (state[i] === 2 ? m : 0));
		const left = 1 - shares.reduce((a, b) => a + b, 0);
		if (!free.length) {
			if (Math.abs(left) > 1e-9) continue;
		} else {
			const solved = freeShares(rows, free, shares, left);
			free.forEach((i, k) => (shares[i] = el(solved, k)));
		}
		if (shares.some((s, i) => s < -1e-9 || s > el(most, i) + 1e-9)) continue;
		const off = rows.reduce((sum, row) => {
			const has = row.of.reduce((a, x, i) => a + x * el(shares, i), 0);
			return sum + (has - row.wanted) ** 2;
		}, 0);
		// Of two as good the one with fewer waters: it is found with fewer free ones, and kept unless beaten.
		if (!best || off < best.off - 1e-12) best = { shares: shares.map((s) => Math.max(0, s)), off };
	}
	return best?.shares ?? most.map(() => 1 / count);
}

/** Least squares over the free waters whose shares sum to what is left: the last follows from the others, and normal equations give those. */
function freeShares(rows: Wanted[], free: number[], fixed: number[], left: number): number[] {
	const size = free.length - 1;
	const last = lastOf(free);
	if (!size) return [left];
	const a = zeros(size * size);
	// As many right-hand sides as `solveRight` takes; the first is asked for.
	const b = zeros(size * size);
	for (const row of rows) {
		const rest =
			row.wanted - el(row.of, last) * left - row.of.reduce((sum, x, i) => sum + x * el(fixed, i), 0);
		const more = (k: number) => el(row.of, el(free, k)) - el(row.of, last);
		for (let i = 0; i < size; i++) {
			addAt(b, i, more(i) * rest);
			for (let j = 0; j < size; j++) addToCell(a, size, i, j, more(i) * more(j));
		}
	}
	for (let i = 0; i < size; i++) addToCell(a, size, i, i, RIDGE);
	const shares = solveRight(a, b, size).slice(0, size);
	return [...shares, left - shares.reduce((sum, x) => sum + x, 0)];
}
