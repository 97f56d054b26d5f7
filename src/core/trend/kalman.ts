import { nth } from '../nth';
import { addAt, addToCell, cell, el, normalBelow, scaleCell, solveRight, zeros } from '../statistics';

/**
 * The Kalman filter of level and drift in continuous time, and the smoother (Kalman 1960; Rauch, Tung and Striebel 1965).
 * A state is level, drift without dosing, and one offset for each kit; covariances row by row. Times in days.
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

/** Longer steps are taken in parts, days: within one the share that is remembered changes little. */
const PART = 4;
/** Below this the tests are young and all of them is remembered. */
const YOUNG = 0.25;

/** What is left of what was known, over some days that begin `since` days after the last test: 1 at first, then less and less. */
function remembered(since: number, days: number, usual: Usual): number {
	if (since + days < YOUNG * usual.days) return 1;
	return Math.exp((since / usual.days) ** 4 - ((since + days) / usual.days) ** 4);
}

/** Days of a step, how long ago the last test was at its beginning, and what is dosed in it altogether. */
export interface Step {
	days: number;
	since: number;
	dosed: number;
}

/**
 * Moves a state on, in place; gives the share that is remembered. dL = (d + dosing) dt + level noise, dd = drift noise; far
 * from the last test both are drawn to what is usual: the level to its usual mean and spread, its net change to nothing.
 */
export function predict(
	{ mean, cov }: State,
	{ days, since, dosed }: Step,
	noise: Noise,
	usual: Usual
): number {
	if (!(days > 0)) return 1;
	const size = mean.length;
	const parts = since + days < YOUNG * usual.days ? 1 : Math.ceil(days / PART);
	const part = days / parts;
	const rate = dosed / days;
	let all = 1;
	for (let p = 0; p < parts; p++) {
		const kept = remembered(since + p * part, part, usual);
		all *= kept;
		const net = kept * (el(mean, 1) + rate);
		mean[0] = usual.level + kept * (el(mean, 0) - usual.level) + part * net;
		mean[1] = net - rate;
		for (let j = 0; j < size; j++) cov[j] = kept * (el(cov, j) + part * cell(cov, size, 1, j));
		for (let j = 0; j < size; j++) scaleCell(cov, size, 1, j, kept);
		for (let i = 0; i < size; i++)
			cov[i * size] = kept * (cell(cov, size, i, 0) + part * cell(cov, size, i, 1));
		for (let i = 0; i < size; i++) scaleCell(cov, size, i, 1, kept);
		// What the water strayed is forgotten like all else (the mean of kept² over the part); what is usual takes its place.
		const strays = kept === 1 ? part : (part * (1 - kept * kept)) / (-2 * Math.log(kept));
		addAt(
			cov,
			0,
			noise.level * strays + (noise.drift * part * part * strays) / 3 + usual.sd ** 2 * (1 - kept * kept)
		);
		addAt(cov, 1, (noise.drift * part * strays) / 2);
		addToCell(cov, size, 1, 0, (noise.drift * part * strays) / 2);
		addToCell(cov, size, 1, 1, noise.drift * strays);
	}
	return all;
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
	const gain = zeros(size);
	for (let i = 0; i < size; i++)
		gain[i] = cell(cov, size, i, level) + (offset ? cell(cov, size, i, offset) : 0);
	const shift = (after.mean - before.mean) / before.variance;
	const shrink = (after.variance - before.variance) / (before.variance * before.variance);
	for (let i = 0; i < size; i++) addAt(mean, i, el(gain, i) * shift);
	for (let i = 0; i < size; i++) {
		const by = el(gain, i) * shrink;
		if (by !== 0) for (let j = 0; j < size; j++) addToCell(cov, size, i, j, by * el(gain, j));
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
	const rest = 1 - fraction;
	mean[level] = rest * el(mean, level) + fraction * newWater;
	for (let j = 0; j < size; j++) scaleCell(cov, size, level, j, rest);
	for (let i = 0; i < size; i++) scaleCell(cov, size, i, level, rest);
	addToCell(cov, size, level, level, fraction * fraction * variance);
}

/** How a state came from the one before: x = F·x + …, where F scales and shears level and drift alone. */
export interface Transition {
	/** Share of level and drift that is kept. */
	kept: number;
	/** Days over which the drift acts on the level. */
	days: number;
	/** Share of the level (and of all that goes with it) that stays in the tank at a water change; 1 where there is none. */
	rest: number;
}

/** A state between two transitions: as predicted from the one before, and with what was then seen. */
export interface Moment {
	by: Transition;
	predicted: State;
	seen: State;
}

/** The way back (Rauch, Tung and Striebel 1965): the state at every moment, given all that was seen. */
export function smooth(moments: Moment[]): State[] {
	const count = moments.length;
	const states = Array.from<State>({ length: count });
	if (!count) return [];
	let next = nth(moments, count - 1).seen;
	states[count - 1] = next;
	for (let k = count - 2; k >= 0; k--) {
		const { by, predicted } = nth(moments, k + 1);
		const state = copyOf(nth(moments, k).seen);
		stepBack(state, by, predicted, next);
		states[k] = state;
		next = state;
	}
	return states;
}

/** `state` with what `next` knows beyond `predicted`, in place. */
function stepBack(state: State, by: Transition, predicted: State, next: State): void {
	const size = state.mean.length;
	const gain = solveRight(predicted.cov, crossOf(state.cov, size, by), size);
	const off = next.mean.map((x, i) => x - el(predicted.mean, i));
	const more = next.cov.map((x, i) => x - el(predicted.cov, i));
	const half = zeros(size * size);
	for (let i = 0; i < size; i++)
		for (let j = 0; j < size; j++) {
			addAt(state.mean, i, cell(gain, size, i, j) * el(off, j));
			let sum = 0;
			for (let a = 0; a < size; a++) sum += cell(gain, size, i, a) * cell(more, size, a, j);
			half[i * size + j] = sum;
		}
	for (let i = 0; i < size; i++)
		for (let j = 0; j < size; j++) {
			let sum = 0;
			for (let b = 0; b < size; b++) sum += cell(half, size, i, b) * cell(gain, size, j, b);
			addToCell(state.cov, size, i, j, sum);
		}
}

/** Covariance of a state with what is predicted from it: cov · Fᵀ. */
function crossOf(cov: number[], size: number, { kept, days, rest }: Transition): number[] {
	const cross = cov.slice();
	for (let i = 0; i < size; i++) {
		cross[i * size] = rest * kept * (cell(cov, size, i, 0) + days * cell(cov, size, i, 1));
		cross[i * size + 1] = kept * cell(cov, size, i, 1);
	}
	return cross;
}
