import { el } from './matrix';

/**
 * The middle one, or the mean of the two in the middle; 0 of none.
 * @example median([3, 1, 2, 10]) // 2.5
 */
export function median(values: number[]): number {
	if (!values.length) return 0;
	const sorted = [...values].sort((a, b) => a - b);
	const half = sorted.length >> 1;
	return sorted.length % 2 ? el(sorted, half) : (el(sorted, half - 1) + el(sorted, half)) / 2;
}
