import type { Method } from '$core/instruments';
import type { Expected } from '$core/methods';
import { convert, isQuantity } from '$core/quantities';

/** What to expect of a method now, in its own unit, from the level the water is estimated to have, in the parameter's unit. */
export function expectedFor(
	method: Method,
	parameter: string,
	unit: string,
	level: { value: number; standardDeviation: number } | undefined
): Expected | undefined {
	if (!level || !(level.standardDeviation > 0)) return undefined;
	const mean = level.value;
	const { standardDeviation } = level;
	if (method.unit === unit) return { mean, standardDeviation };
	if (!isQuantity(parameter)) return undefined;
	const to = (value: number) => {
		const result = convert({ quantity: parameter, value, from: unit, to: method.unit });
		return result.ok ? result.value.value : NaN;
	};
	const spread = Math.abs(to(mean + standardDeviation) - to(mean));
	return Number.isFinite(spread) && spread > 0 ? { mean: to(mean), standardDeviation: spread } : undefined;
}
