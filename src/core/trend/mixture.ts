import { normalBelow, normalQuantile } from '../statistics';

/** One normal among several explanations. Weights of a mixture add up to 1. */
export interface Part {
	weight: number;
	mean: number;
	variance: number;
}

/** What is said of an uncertain quantity: its median, the interval that holds it with 95 %, and the spread that interval stands for. */
export interface Spread {
	mean: number;
	/** Half of the narrowest interval about the median that holds 95 %, over 1.96: of a bell its standard deviation. */
	sd: number;
	/** 2.5 and 97.5 % quantiles. */
	low: number;
	high: number;
}

/** Two-sided 95 % of a normal. */
const Z95 = 1.96;
/** A bell so many standard deviations above its floor is not cut by it. */
const CLEAR = 5;
/** A quantile is found to so much of the chance it is asked for, in at most so many steps. */
const CLOSE = 1e-6;
const MOST_STEPS = 60;

/** Chance that a mixture lies below x, of one that has nothing below `floor`. */
export function below(parts: Part[], x: number, floor = -Infinity): number {
	if (x <= floor) return 0;
	const plain = (at: number) => {
		let sum = 0;
		for (const { weight, mean, variance } of parts)
			sum += weight * normalBelow((at - mean) / Math.sqrt(variance));
		return sum;
	};
	if (floor === -Infinity) return plain(x);
	const cut = plain(floor);
	// All but nothing above the floor: it lies at the floor.
	return cut > 1 - 1e-9 ? 1 : (plain(x) - cut) / (1 - cut);
}

/** Of one bell cut off at a floor, where its narrowest interval about the median reaches down to it; undefined elsewhere. */
function cutBell(mean: number, sd: number, floor: number): Spread | undefined {
	const gone = normalBelow((floor - mean) / sd);
	// Nearly all of it lies below: the tail is lost to rounding.
	if (gone > 1 - 1e-6) return undefined;
	const quantile = (chance: number) =>
		Math.max(floor, mean + sd * normalQuantile(gone + chance * (1 - gone)));
	const median = quantile(0.5);
	const half = quantile(0.95) - median;
	return median - half > floor
		? undefined
		: { mean: median, sd: half / Z95, low: quantile(0.025), high: quantile(0.975) };
}

/** Explanations of less than this chance change no digit that is shown. */
const COUNTS = 0.002;
/** Whether two normals say the same, to a fiftieth of their spread. */
const alike = (a: Part, b: Part): boolean =>
	a === b ||
	((a.mean - b.mean) ** 2 < 4e-4 * b.variance && Math.abs(a.variance - b.variance) < 0.02 * b.variance);

/** Where a rising function between two points is nought: by halves and by chords in turn, so that flat tails cost little. */
function rootOf(from: number, to: number, f: (x: number) => number): number {
	let [a, b] = [from, to];
	let [fa, fb] = [f(a), f(b)];
	if (fa >= 0) return a;
	if (fb <= 0) return b;
	for (let step = 0; step < MOST_STEPS; step++) {
		const x = step % 2 ? (a * fb - b * fa) / (fb - fa) : (a + b) / 2;
		const fx = f(x);
		if (Math.abs(fx) < CLOSE) return x;
		if (fx < 0) [a, fa] = [x, fx];
		else [b, fb] = [x, fx];
	}
	return (a + b) / 2;
}

/** Median and quantiles of a mixture of normals, cut off below `floor` (nothing dissolved is below 0). */
export function spreadOf(all: Part[], floor = -Infinity): Spread {
	const parts = all.filter((p) => p.weight >= COUNTS);
	const [first] = parts;
	if (first && parts.every((p) => alike(p, first))) {
		const { mean, variance } = first;
		const sd = Math.sqrt(variance);
		if (!(sd > 0) || mean - CLEAR * sd > floor)
			return { mean: Math.max(mean, floor), sd, low: mean - Z95 * sd, high: mean + Z95 * sd };
		const cut = cutBell(mean, sd, floor);
		if (cut) return cut;
	}
	let [least, most] = [Infinity, -Infinity];
	for (const { mean, variance } of parts) {
		const sd = Math.sqrt(variance);
		least = Math.min(least, mean - 6 * sd);
		most = Math.max(most, mean + 6 * sd);
	}
	least = Math.max(least, floor);
	most = Math.max(most, least + 1e-12);
	const quantile = (chance: number) => rootOf(least, most, (x) => below(parts, x, floor) - chance);
	const median = quantile(0.5);
	let half = rootOf(
		0,
		most - least,
		(h) => below(parts, median + h, floor) - below(parts, median - h, floor) - 0.95
	);
	let [low, high] = [quantile(0.025), quantile(0.975)];
	for (const { weight, mean, variance } of parts) {
		const reach = Z95 * Math.sqrt(variance);
		if (weight < STANDS || Math.abs(mean - median) < APART * Math.sqrt(variance)) continue;
		[low, high] = [Math.min(low, Math.max(floor, mean - reach)), Math.max(high, mean + reach)];
		half = Math.max(half, Math.abs(mean - median) + reach);
	}
	return { mean: median, sd: half / Z95, low, high };
}

/** An explanation of at least this chance that lies so many of its standard deviations off the median stands in the interval whole. */
const STANDS = 0.05;
const APART = 3;
