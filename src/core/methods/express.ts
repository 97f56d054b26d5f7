import { convert, isQuantity } from '../quantities';
import { scaledError } from '../instruments';
import type { Measured } from './schema';

/**
 * A measured value in another unit of its parameter; a curved change of unit (specific gravity) carries the error by
 * its slope. Back as it came where the parameter is the keeper's own or the value is outside the unit's range.
 *
 * @example expressedIn(read({ method: SHIPPED_METHODS[0], reading: { left: 0.5 } }).value, 'alkalinity', 'meq/L').value // → 3
 */
export function expressedIn(measured: Measured, parameter: string, unit: string): Measured {
	if (measured.unit === unit || !isQuantity(parameter)) return measured;
	const to = (value: number | null): number | null => {
		if (value === null) return null;
		const result = convert({ quantity: parameter, value, from: measured.unit, to: unit });
		return result.ok ? result.value.value : null;
	};
	const value = to(measured.value);
	const both = ([low, high]: Measured['interval']): Measured['interval'] => [to(low), to(high)];
	const interval = both(measured.interval);
	if (measured.value !== null && value === null) return measured;
	const width = (measured.interval[1] ?? 0) - (measured.interval[0] ?? 0);
	const end = measured.interval[0] ?? measured.interval[1] ?? 0;
	const beside = to(end * (1 + 1e-6) + 1e-9);
	const slope =
		interval[0] !== null && interval[1] !== null && width > 0
			? (interval[1] - interval[0]) / width
			: beside === null
				? 1
				: (beside - to(end)!) / (end * 1e-6 + 1e-9);
	const scale = (error: number | null) => (error === null ? null : error * Math.abs(slope));
	return {
		...measured,
		value,
		unit,
		interval,
		range95: both(measured.range95),
		standardUncertainty: scale(measured.standardUncertainty),
		repeatability: scale(measured.repeatability),
		trueness: scale(measured.trueness),
		budget: measured.budget.map((e) => scaledError(e, slope))
	};
}
