import { el, normalBelow } from '../statistics';

/** What an observation says about a normal quantity it was made of: its chance, and the quantity's new moments. */
export interface Update {
	/** Natural logarithm of the chance (density) of what was seen. */
	logChance: number;
	mean: number;
	variance: number;
}

const TAU = 2 * Math.PI;
const density = (z: number): number => Math.exp((-z * z) / 2) / Math.sqrt(TAU);

/** Logarithm of the chance (density) of a value, of a normal quantity. */
export const logDensity = (off: number, variance: number): number =>
	-0.5 * (Math.log(TAU * variance) + (off * off) / variance);

/** A value seen with error of variance `noise`, of a quantity believed to be normal (mean, variance). */
export function seenValue(mean: number, variance: number, seen: number, noise: number): Update {
	const off = seen - mean;
	const all = variance + noise;
	const gain = variance / all;
	return { logChance: logDensity(off, all), mean: mean + gain * off, variance: gain * noise };
}

/** Logarithm of the chance that a normal quantity lies between two ends. */
export const logInside = (mean: number, variance: number, low: number, high: number): number => {
	const s = Math.sqrt(variance);
	return standardBetween((low - mean) / s, (high - mean) / s).logChance;
};

/**
 * Only that a quantity, with error of variance `noise`, lies between two ends (either may be infinite). Moments of what
 * remains of the normal (Johnson, Kotz and Balakrishnan 1994, 10.1).
 */
export function seenBetween(
	mean: number,
	variance: number,
	low: number,
	high: number,
	noise: number
): Update {
	const all = variance + noise;
	const s = Math.sqrt(all);
	const seen = standardBetween((low - mean) / s, (high - mean) / s);
	const gain = variance / all;
	return {
		logChance: seen.logChance,
		mean: mean + gain * s * seen.mean,
		variance: gain * noise + gain * gain * all * seen.variance
	};
}

/** Gauss and Legendre's rule of eight points: nodes of one half, and their weights (Abramowitz & Stegun 25.4.30). */
const NODES = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const WEIGHTS = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];
/** The rule is exact enough where the density changes by no more than e to this over the window. */
const SMOOTH = 3;
/** So far out the tail is an exponential one. */
const FAR = 1e3;

/** A standard normal number of which is known that it lies between a and b: right in far tails and narrow windows. */
export function standardBetween(a: number, b: number): Update {
	if (a + b < 0) {
		const { logChance, mean, variance } = standardBetween(-b, -a);
		return { logChance, mean: -mean, variance };
	}
	if (a === -Infinity) return { logChance: 0, mean: 0, variance: 1 };
	const middle = (a + b) / 2;
	const half = (b - a) / 2;
	if (2 * half * Math.max(middle, 1) < SMOOTH) return bySlices(middle, half);
	if (a > FAR) return { logChance: logDensity(a, 1) - Math.log(a), mean: a + 1 / a, variance: 1 / (a * a) };
	const [atA, atB] = [density(a), b === Infinity ? 0 : density(b)];
	if (a <= 0) {
		const inside = 1 - normalBelow(a) - (b === Infinity ? 0 : normalBelow(-b));
		const mean = (atA - atB) / inside;
		const turn = (a * atA - (atB && b * atB)) / inside;
		return { logChance: Math.log(inside), mean, variance: 1 + turn - mean * mean };
	}
	// All in units of the density at a, which may be too small for a number.
	const far = b === Infinity ? 0 : Math.exp(-2 * middle * half);
	const inside = millsRatio(a) - (far && far * millsRatio(b));
	const mean = (1 - far) / inside;
	const turn = (a - (far && b * far)) / inside;
	return { logChance: logDensity(a, 1) + Math.log(inside), mean, variance: 1 + turn - mean * mean };
}

/** The same of a window that is narrow for where it lies; one without a width is a value. */
function bySlices(middle: number, half: number): Update {
	let [sum, first, second] = [0, 0, 0];
	for (const [n, node] of NODES.entries())
		for (const x of [-half * node, half * node]) {
			const weight = el(WEIGHTS, n) * Math.exp(-middle * x - (x * x) / 2);
			sum += weight;
			first += weight * x;
			second += weight * x * x;
		}
	const off = first / sum;
	return {
		logChance: logDensity(middle, 1) + Math.log(half > 0 ? half * sum : 1),
		mean: middle + off,
		variance: second / sum - off * off
	};
}

/** Terms of the continued fraction: at 1 it is right to nine digits. */
const TERMS = 60;
/** Chance that a standard normal number lies above x, over its density there (Abramowitz & Stegun 26.2.14). */
function millsRatio(x: number): number {
	if (x < 1) return normalBelow(-x) / density(x);
	let below = x;
	for (let n = TERMS; n > 0; n--) below = x + n / below;
	return 1 / below;
}
