import { chiSquareAbove } from '../statistics';

/** Scatter alone makes tests differ as much less often than once in twenty: they scatter more than they say. */
export const DIFFER = 0.05;
/** One side of a normal at 95 %, and a power of 80 %. */
export const Z95_ONE = 1.645;
export const Z80 = 0.842;

/**
 * Mean of values with their scatter, weighted (GUM annex H.5, Birge 1932): values that scatter more than they say are worth less than they say.
 * `single`: what one of them scatters by.
 *
 * @example weightedMean([{ value: 8, repeatability: 0.1 }, { value: 8.1, repeatability: 0.1 }]).value // → 8.05
 */
export function weightedMean(values: { value: number; repeatability: number }[]): {
	value: number;
	standardUncertainty: number;
	single: number;
} {
	const total = values.reduce((sum, v) => sum + v.repeatability ** -2, 0);
	const value = values.reduce((sum, v) => sum + v.value * v.repeatability ** -2, 0) / total;
	const square = values.reduce((sum, v) => sum + ((v.value - value) / v.repeatability) ** 2, 0);
	const freedom = values.length - 1;
	const more = freedom > 0 && chiSquareAbove(square, freedom) < DIFFER ? Math.sqrt(square / freedom) : 1;
	return {
		value,
		standardUncertainty: more / Math.sqrt(total),
		single: more * Math.sqrt(values.length / total)
	};
}
