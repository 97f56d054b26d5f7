import type { Expected } from '../methods';

/** One earlier answer, newest first in a list of them. */
export interface Earlier {
	/** Milliseconds since 1970. */
	at: number;
	value: number;
	standardUncertainty: number;
}

const DAY = 86_400_000;
/** Median of absolute differences to standard deviation, for normal noise. */
const FROM_MEDIAN = 1.4826;
/** With fewer tests a tank is not known. */
const LEAST = 4;

/**
 * What the next test should show, from the last ones: the level of the newest three, spread as successive tests differ,
 * wider the longer ago the last one is. Undefined with fewer than four tests. A stand-in for the forecast of the
 * state-space model, with the same result type. Values and errors in one unit.
 */
export function expectation(earlier: Earlier[], now: number): Expected | undefined {
	if (earlier.length < LEAST) return undefined;
	const level = median(earlier.slice(0, 3).map((e) => e.value));
	const steps = earlier.slice(1).map((e, i) => Math.abs(earlier[i]!.value - e.value));
	const gaps = earlier.slice(1).map((e, i) => (earlier[i]!.at - e.at) / DAY);
	const usualGap = Math.max(0.25, median(gaps));
	const since = Math.max(0, (now - earlier[0]!.at) / DAY);
	const error = median(earlier.map((e) => e.standardUncertainty));
	const spread = Math.max(FROM_MEDIAN * median(steps), error / 2);
	return { mean: level, standardDeviation: spread * Math.sqrt(Math.max(1, since / usualGap)) };
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
