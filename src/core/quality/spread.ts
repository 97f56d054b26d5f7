import { chiSquareAbove } from '../statistics';

/** Scatter alone makes tests differ as much less often than once in twenty: they scatter more than they say. */
export const DIFFER = 0.05;
/** A power of 80 %: so many standard deviations of a normal lie above on one side a fifth of the time. */
export const Z80 = 0.842;

/** A value with what changes from test to test; `quantisation`: how much of that is the step of its scale (a shade, a drop), where it is known. */
export interface Scattered {
	value: number;
	repeatability: number;
	quantisation?: number | undefined;
}

/**
 * Mean of values with their scatter, weighted (GUM annex H.5, Birge 1932): values that scatter more than they say are worth less than they say, and
 * what rounding to a step does to all of them alike is counted once. `single`: what one of them scatters by; `shared`: what stays however many there are.
 *
 * @example weightedMean([{ value: 8, repeatability: 0.1 }, { value: 8.1, repeatability: 0.1 }]).value // → 8.05
 */
export function weightedMean(values: Scattered[]): {
	value: number;
	standardUncertainty: number;
	single: number;
	shared: number;
} {
	const total = values.reduce((sum, v) => sum + v.repeatability ** -2, 0);
	const value = values.reduce((sum, v) => sum + v.value * v.repeatability ** -2, 0) / total;
	const square = values.reduce((sum, v) => sum + ((v.value - value) / v.repeatability) ** 2, 0);
	const freedom = values.length - 1;
	const more = freedom > 0 && chiSquareAbove(square, freedom) < DIFFER ? Math.sqrt(square / freedom) : 1;
	const shared = sharedByRounding(values, Math.sqrt(values.length / total));
	return {
		value,
		standardUncertainty: Math.hypot(more / Math.sqrt(total), shared),
		single: more * Math.sqrt(values.length / total),
		shared
	};
}

/** Less than this share of a step is nothing. */
const AVERAGED_OUT = 1e-3;
/** Two numbers are one where they differ by less than this share. */
const ALIKE = 1e-9;

/**
 * What rounding does to all of several values alike, as a standard uncertainty. Where noise spreads over a step's width it averages out; where it does not, the
 * same step chosen again says nothing new (Widrow & Kollár 2008, Quantization Noise, ch. 4: for noise of σ the mean's error falls as exp(−2π²σ²/step²)).
 * Where the step is not known it is the least difference between values that repeat; where all are the same, one is as good as all.
 */
function sharedByRounding(values: Scattered[], single: number): number {
	const n = values.length;
	if (n < 2) return 0;
	const sorted = values.map((v) => v.value).sort((a, b) => a - b);
	const gaps = sorted.slice(1).map((v, i) => v - (sorted[i] ?? v));
	const apart = gaps.filter((gap, i) => gap > ALIKE * Math.max(1, Math.abs(sorted[i] ?? 0)));
	const said = values.map((v) => v.quantisation);
	const known = said.every((q) => q !== undefined)
		? Math.sqrt(said.reduce((sum, q) => sum + q ** 2, 0) / n)
		: undefined;
	if (known === undefined && apart.length === n - 1) return 0;
	if (known === undefined && !apart.length) return single * Math.sqrt(1 - 1 / n);
	const rounding = known ?? Math.min(...apart) / Math.sqrt(12);
	if (rounding === 0) return 0;
	const mean = sorted.reduce((sum, v) => sum + v, 0) / n;
	const variance = sorted.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1);
	const noise = Math.max(0, variance - rounding ** 2);
	const left = Math.exp((-2 * Math.PI ** 2 * noise) / (12 * rounding ** 2));
	return left < AVERAGED_OUT ? 0 : rounding * left;
}
