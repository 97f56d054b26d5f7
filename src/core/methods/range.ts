import { COVERAGE_95 } from '../statistics';
import type { Measured } from './schema';

/**
 * What the ends of a span, or of a bound, are off by, as a standard uncertainty: of the whole less what the span itself leaves open (a
 * rectangle, GUM 4.3.7).
 *
 * @example endsError({ interval: [8, 8.2], standardUncertainty: 0.1 }) // → 0.08165
 */
export function endsError({
	interval: [low, high],
	standardUncertainty
}: Pick<Measured, 'interval' | 'standardUncertainty'>): number {
	const open = low === null || high === null ? 0 : (high - low) ** 2 / 12;
	return Math.sqrt(Math.max(0, (standardUncertainty ?? 0) ** 2 - open));
}

/**
 * What holds the true value with 95 %: ends of a span or a bound go as far as the kit's other errors do.
 *
 * @example range95Of({ qualifier: 'between', interval: [8, 8.2], standardUncertainty: 0.1 }) // → [7.84, 8.36]
 */
export function range95Of(
	said: Pick<Measured, 'qualifier' | 'interval' | 'standardUncertainty'>
): Measured['interval'] {
	const [low, high] = said.interval;
	if (said.qualifier === '=') return [low, high];
	const reach =
		COVERAGE_95 * (said.qualifier === 'between' ? endsError(said) : (said.standardUncertainty ?? 0));
	// What was not below nothing before is not now.
	const floor = low !== null && low >= 0 ? 0 : -Infinity;
	const least = said.qualifier === '<' || low === null ? low : Math.max(floor, low - reach);
	return [least, said.qualifier === '>' || high === null ? high : high + reach];
}
