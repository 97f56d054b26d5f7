import { normalBelow } from '../statistics';

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
	return Math.log(Math.max(between((low - mean) / s, (high - mean) / s), TINY));
};
const TINY = 1e-12;

/**
 * Only that a quantity, with error of variance `noise`, lies between two ends (either may be infinite). Moments of what
 * remains of the normal (expectation propagation: derivatives of the logarithm of the chance; Minka 2001).
 */
export function seenBetween(
	mean: number,
	variance: number,
	low: number,
	high: number,
	noise: number
): Update {
	const s = Math.sqrt(variance + noise);
	const [a, b] = [(low - mean) / s, (high - mean) / s];
	const inside = between(a, b);
	if (inside < LEAST_INSIDE) {
		// So far out that only the nearer end matters: as if the end had been read, with half a width of error.
		const end = mean < low ? low : high;
		const width = Number.isFinite(high - low) ? (high - low) / 2 : Math.sqrt(noise) + s / 2;
		return seenValue(mean, variance, end, noise + width * width);
	}
	const [pa, pb] = [a === -Infinity ? 0 : density(a), b === Infinity ? 0 : density(b)];
	const first = (pa - pb) / (s * inside);
	const second =
		-first * first + ((a === -Infinity ? 0 : a * pa) - (b === Infinity ? 0 : b * pb)) / (s * s * inside);
	return {
		logChance: Math.log(inside),
		mean: mean + variance * first,
		variance: Math.max(variance * 1e-6, variance + variance * variance * second)
	};
}

/** Below this chance the tail is lost to rounding. */
const LEAST_INSIDE = 1e-5;

/** Chance of a standard normal number between a and b, without losing the tails to rounding. */
function between(a: number, b: number): number {
	if (a > 0) return normalBelow(-a) - (b === Infinity ? 0 : normalBelow(-b));
	return (b === Infinity ? 1 : normalBelow(b)) - (a === -Infinity ? 0 : normalBelow(a));
}
