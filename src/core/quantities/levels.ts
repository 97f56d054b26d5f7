import { convert } from './convert';
import { isQuantity } from './units';

/**
 * A value in another unit; as it came where the parameter is the keeper's own, or no water can have that.
 *
 * @example valueIn('alkalinity', 8, 'dKH', 'meq/L') // → 2.853
 */
export function valueIn(parameter: string, value: number, from: string, to: string): number {
	if (from === to || !isQuantity(parameter)) return value;
	const there = convert({ quantity: parameter, value, from, to });
	return there.ok ? there.value.value : value;
}

/** A step small against any value and large against rounding, as a share. */
const STEP = 1e-5;

/**
 * What one more in `from` is in `to`, at a value: the slope of the change of unit, which is curved for specific gravity (GUM 5.1.3).
 *
 * @example slopeAt('temperature', 25, 'C', 'F') // → 1.8
 */
export function slopeAt(parameter: string, value: number, from: string, to: string): number {
	if (from === to || !isQuantity(parameter)) return 1;
	const step = Math.max(Math.abs(value), 1) * STEP;
	const [here, there] = [valueIn(parameter, value, from, to), valueIn(parameter, value + step, from, to)];
	return (there - here) / step;
}

/**
 * An estimate in another unit, its standard deviation by the slope where it stands.
 *
 * @example levelIn('temperature', { value: 25, standardDeviation: 0.5 }, 'C', 'F') // → { value: 77, standardDeviation: 0.9 }
 */
export const levelIn = <T extends { value: number; standardDeviation: number }>(
	parameter: string,
	level: T,
	from: string,
	to: string
): T => ({
	...level,
	value: valueIn(parameter, level.value, from, to),
	standardDeviation: level.standardDeviation * Math.abs(slopeAt(parameter, level.value, from, to))
});
