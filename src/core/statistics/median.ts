import { el } from './matrix';

/**
 * The middle one, or the mean of the two in the middle; NaN of none, which is neither more nor less than anything.
 * @example median([3, 1, 2, 10]) // 2.5
 */
export function median(values: number[]): number {
	if (!values.length) return NaN;
	const sorted = [...values].sort((a, b) => a - b);
	const half = sorted.length >> 1;
	return sorted.length % 2 ? el(sorted, half) : (el(sorted, half - 1) + el(sorted, half)) / 2;
}
