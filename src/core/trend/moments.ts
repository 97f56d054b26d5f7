import { normalBelow } from '../probability';

/** What an observation says about a normal quantity it was made of: its chance, and the quantity's new moments. */
export interface Update {
	/** Natural logarithm of the chance (density) of what was seen. */
	logChance: number;
	mean: number;
	variance: number;
	/** Chance that it was an honest reading, not a slip. */
	honest: number;
}

/** One reading in fifty is a slip whose error is ten times its own: see the slips of the bench. */
const SLIP = 0.02;
const SLIP_SPREAD = 10;

const TAU = 2 * Math.PI;
const density = (z: number): number => Math.exp((-z * z) / 2) / Math.sqrt(TAU);

/**
 * A value seen with error of variance `noise`, of a quantity believed to be normal (mean, variance). Errors are normal but
 * for the occasional slip; the two possibilities are collapsed to one normal with their mean and variance.
 */
export function seenValue(mean: number, variance: number, seen: number, noise: number): Update {
	const off = seen - mean;
	const [a, b] = [variance + noise, variance + noise * SLIP_SPREAD * SLIP_SPREAD];
	const honestLog = Math.log(1 - SLIP) - 0.5 * (Math.log(TAU * a) + (off * off) / a);
	const slipLog = Math.log(SLIP) - 0.5 * (Math.log(TAU * b) + (off * off) / b);
	const top = Math.max(honestLog, slipLog);
	const logChance = top + Math.log(Math.exp(honestLog - top) + Math.exp(slipLog - top));
	const honest = Math.exp(honestLog - logChance);
	const [gainA, gainB] = [variance / a, variance / b];
	const [meanA, meanB] = [mean + gainA * off, mean + gainB * off];
	const middle = honest * meanA + (1 - honest) * meanB;
	const spread =
		honest * ((1 - gainA) * variance + (meanA - middle) ** 2) +
		(1 - honest) * ((1 - gainB) * variance + (meanB - middle) ** 2);
	return { logChance, mean: middle, variance: spread, honest };
}

/**
 * Only that a quantity, with error of variance `noise`, lies between two ends (either may be infinite). Moments of what
 * remains of the normal (expectation propagation: derivatives of the logarithm of the chance).
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
	const [pa, pb] = [a === -Infinity ? 0 : density(a), b === Infinity ? 0 : density(b)];
	const inside = between(a, b);
	const total = (1 - SLIP) * inside + SLIP * VAGUE;
	const honest = ((1 - SLIP) * inside) / total;
	if (inside < LEAST_INSIDE) {
		// So far out that only the nearer end matters: as if the end had been read, with half a width of error.
		const end = mean < low ? low : high;
		const width = Number.isFinite(high - low) ? (high - low) / 2 : Math.sqrt(noise) + s / 2;
		return seenValue(mean, variance, end, noise + width * width);
	}
	const first = (pa - pb) / (s * inside);
	const second =
		-first * first + ((a === -Infinity ? 0 : a * pa) - (b === Infinity ? 0 : b * pb)) / (s * s * inside);
	const shifted = mean + variance * first;
	const shrunk = Math.max(variance * 1e-6, variance + variance * variance * second);
	const middle = honest * shifted + (1 - honest) * mean;
	return {
		logChance: Math.log(total),
		mean: middle,
		variance: honest * (shrunk + (shifted - middle) ** 2) + (1 - honest) * (variance + (mean - middle) ** 2),
		honest
	};
}

/** Below this chance the tail is lost to rounding. */
const LEAST_INSIDE = 1e-5;
/** Chance of a slip landing in any given interval: small, and no more is known. */
const VAGUE = 0.05;

/** Chance of a standard normal number between a and b, without losing the tails to rounding. */
function between(a: number, b: number): number {
	if (a > 0) return normalBelow(-a) - (b === Infinity ? 0 : normalBelow(-b));
	return (b === Infinity ? 1 : normalBelow(b)) - (a === -Infinity ? 0 : normalBelow(a));
}

/** Mean and standard deviation of a normal quantity that is known not to be negative. */
export function notNegative(mean: number, sd: number): { mean: number; sd: number } {
	const z = mean / sd;
	if (z > 6 || !(sd > 0)) return { mean: Math.max(0, mean), sd };
	const above = Math.max(normalBelow(z), 1e-12);
	if (z < -4) return { mean: -sd / z, sd: -sd / z };
	const hazard = density(z) / above;
	return { mean: mean + sd * hazard, sd: sd * Math.sqrt(Math.max(1e-6, 1 - hazard * (hazard + z))) };
}
