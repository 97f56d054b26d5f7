import { nth } from '../base';
import { addAt, addToCell, cell, el, normalBelow, scaleCell, zeros } from '../statistics';

/**
 * The Kalman filter (Kalman 1960): what a test, a dose and a water change do to a state. A state is of each parameter its level and its
 * drift without dosing, and one offset for each kit; covariances row by row. Times in days. See `water.ts` for how it goes on in time.
 */

/** How much the level, and its drift, stray: variances that one day adds. */
export interface Noise {
	level: number;
	drift: number;
}

/** A stretch in which so much is dosed a day. */
export interface Dosing {
	from: number;
	perDay: number;
}

/** What a tank usually does where it is not tested for long: mean and standard deviation of the level, and after how many days. */
export interface Usual {
	level: number;
	sd: number;
	days: number;
}

export interface State {
	mean: number[];
	cov: number[];
}

export const copyOf = ({ mean, cov }: State): State => ({ mean: mean.slice(), cov: cov.slice() });

/** What is dosed a day at a moment. */
export function rateAt(dosing: Dosing[], at: number): number {
	let rate = 0;
	for (const d of dosing) if (d.from <= at) rate = d.perDay;
	return rate;
}

/** What is dosed between two moments. */
export function dosedBetween(dosing: Dosing[], from: number, to: number): number {
	let sum = 0;
	for (let i = 0; i < dosing.length; i++) {
		const begin = Math.max(from, nth(dosing, i).from);
		const end = Math.min(to, dosing[i + 1]?.from ?? Infinity);
		if (end > begin) sum += nth(dosing, i).perDay * (end - begin);
	}
	return sum;
}

/** Mean and variance of what a test of a level sees by the kit with this offset (0: a kit without). */
export const seenBy = (
	{ mean, cov }: State,
	offset: number,
	level = 0
): { mean: number; variance: number } => {
	const size = mean.length;
	const own = cell(cov, size, level, level);
	return offset
		? {
				mean: el(mean, level) + el(mean, offset),
				variance: own + 2 * cell(cov, size, level, offset) + cell(cov, size, offset, offset)
			}
		: { mean: el(mean, level), variance: own };
};

/** Takes in, in place, that what is seen (`before`, of {@link seenBy}) has new moments. */
export function update(
	{ mean, cov }: State,
	offset: number,
	before: { mean: number; variance: number },
	after: { mean: number; variance: number },
	level = 0
): void {
	const size = mean.length;
	// z = H·x + v: H is 1 at the level and at the kit's offset, R the test's own variance; `before.variance` is H·P·Hᵀ.
	// K = P·Hᵀ·(H·P·Hᵀ + R)⁻¹; `gain` is P·Hᵀ, and R stands in `after`, which any kind of observation can give (`moments.ts`).
	const gain = zeros(size);
	for (let i = 0; i < size; i++) gain[i] = cov[i * size + level]! + (offset ? cov[i * size + offset]! : 0);
	const shift = (after.mean - before.mean) / before.variance;
	const shrink = (after.variance - before.variance) / (before.variance * before.variance);
	for (let i = 0; i < size; i++) mean[i]! += gain[i]! * shift;
	for (let i = 0; i < size; i++) {
		const by = gain[i]! * shrink;
		if (by !== 0) for (let j = 0; j < size; j++) cov[i * size + j]! += by * gain[j]!;
	}
}

/** A level so many standard deviations above its floor is not touched by it. */
const CLEAR = 4;

/**
 * What would lie below the floor lies at it, in place: moments of the greater of a normal quantity and a constant (Clark 1961). Gives the
 * share of the level's covariances that is left.
 */
export function clamp({ mean, cov }: State, floor: number, level = 0): number {
	const size = mean.length;
	const variance = cell(cov, size, level, level);
	const above = el(mean, level) - floor;
	if (above * above > CLEAR * CLEAR * variance && above >= 0) return 1;
	const sd = Math.sqrt(Math.max(variance, 0));
	const kept = sd > 0 ? normalBelow(above / sd) : 0;
	const edge = sd > 0 ? (sd * Math.exp((-above * above) / (2 * variance))) / Math.sqrt(2 * Math.PI) : 0;
	const first = above * kept + edge;
	const second = (above * above + variance) * kept + above * edge;
	mean[level] = floor + first;
	for (let i = 0; i < size; i++) {
		scaleCell(cov, size, level, i, kept);
		scaleCell(cov, size, i, level, kept);
	}
	cov[level * (size + 1)] = Math.max(second - first * first, LEAST_SHARE * variance);
	return kept;
}
/** However little of it is left above the floor, so much of the variance stays: numbers need some. */
const LEAST_SHARE = 1e-6;

/** A dose, in place. */
export function dosed({ mean, cov }: State, change: number, variance: number, level = 0): void {
	// x' = x + u; P' = P + Q, Q the dose's variance.
	addAt(mean, level, change);
	addToCell(cov, mean.length, level, level, variance);
}

/** A water change of a fraction of the tank, in place. */
export function changed(
	{ mean, cov }: State,
	fraction: number,
	newWater: number,
	variance: number,
	level = 0
): void {
	const size = mean.length;
	// x' = F·x + (1 − F)·n: F is `rest` at the level and 1 elsewhere, n the new water.
	// P' = F·P·Fᵀ + Q: Q is the new water's variance, thinned.
	const rest = 1 - fraction;
	mean[level] = rest * el(mean, level) + fraction * newWater;
	for (let j = 0; j < size; j++) scaleCell(cov, size, level, j, rest);
	for (let i = 0; i < size; i++) scaleCell(cov, size, i, level, rest);
	addToCell(cov, size, level, level, fraction * fraction * variance);
}
