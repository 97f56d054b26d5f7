import { COVERAGE_95, ONE_SIDED_95, normalBelow } from '../statistics';

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

/** A quantile is found to so much of the chance it is asked for, in at most so many steps. */
const CLOSE = 1e-6;
const MOST_STEPS = 60;

/** Chance that a mixture lies below x; what would lie below `floor` lies at it. */
export const below = (parts: Part[], x: number, floor = -Infinity): number =>
	x <= floor ? 0 : upTo(parts, x, floor);

/** Chance that it lies at x or below: its distribution function. */
function upTo(parts: Part[], x: number, floor: number): number {
	if (x < floor) return 0;
	let sum = 0;
	for (const { weight, mean, variance } of parts)
		sum += weight * (variance > 0 ? normalBelow((x - mean) / Math.sqrt(variance)) : Number(x >= mean));
	return sum;
}

/** Of one bell. */
function bell(mean: number, sd: number, floor: number): Spread {
	const [low, middle, high] = [mean - COVERAGE_95 * sd, mean, mean + COVERAGE_95 * sd].map((x) =>
		Math.max(x, floor)
	) as [number, number, number];
	// Once it reaches down to the floor, all that lies at it is inside.
	const above = mean - floor;
	const half =
		above > 0
			? Math.min(COVERAGE_95 * sd, Math.max(ONE_SIDED_95 * sd, above))
			: Math.max(0, above + ONE_SIDED_95 * sd);
	return { mean: middle, sd: half / COVERAGE_95, low, high };
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

/** Parts that count, with their weights made whole again: what is dropped is shared out. */
function whole(all: Part[]): Part[] {
	const total = all.reduce((sum, p) => sum + p.weight, 0);
	const parts = all.filter((p) => p.weight >= COUNTS * total);
	const kept = parts.reduce((sum, p) => sum + p.weight, 0);
	return parts.map((p) => ({ ...p, weight: p.weight / kept }));
}

/** Median and quantiles of a mixture of normals, of which all that would lie below `floor` lies at it (nothing dissolved is below 0). */
export function spreadOf(all: Part[], floor = -Infinity): Spread {
	const parts = whole(all);
	const [first] = parts;
	if (first && parts.every((p) => alike(p, first))) return bell(first.mean, Math.sqrt(first.variance), floor);
	let [least, most] = [Infinity, -Infinity];
	for (const { mean, variance } of parts) {
		const sd = Math.sqrt(variance);
		least = Math.min(least, mean - 6 * sd);
		most = Math.max(most, mean + 6 * sd);
	}
	least = Math.max(least, floor);
	most = Math.max(most, least);
	const quantile = (chance: number) => rootOf(least, most, (x) => upTo(parts, x, floor) - chance);
	const median = quantile(0.5);
	const half = rootOf(
		0,
		most - least,
		(h) => upTo(parts, median + h, floor) - below(parts, median - h, floor) - 0.95
	);
	return { mean: median, sd: half / COVERAGE_95, low: quantile(0.025), high: quantile(0.975) };
}

/** An explanation of at least this chance that lies so many of its standard deviations off the median is not left out. */
const STANDS = 0.05;
const APART = 3;

/** The same where every explanation that is likely enough stands in the interval whole: misreading and move, until a test tells them apart. */
export function spreadHolding(parts: Part[], floor = -Infinity): Spread {
	const spread = spreadOf(parts, floor);
	for (const { weight, mean, variance } of parts) {
		const sd = Math.sqrt(variance);
		if (weight < STANDS || Math.abs(mean - spread.mean) < APART * sd) continue;
		const { low, high } = bell(mean, sd, floor);
		spread.low = Math.min(spread.low, low);
		spread.high = Math.max(spread.high, high);
		spread.sd = Math.max(spread.sd, (spread.mean - low) / COVERAGE_95, (high - spread.mean) / COVERAGE_95);
	}
	return spread;
}
