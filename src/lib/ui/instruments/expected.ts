import type { Expected, Method } from '$core/methods';
import { convert, isQuantity } from '$core/quantities';
import { expectation } from '$core/trend';
import type { Reading } from '$lib/api/readings';

/** What to expect of a method now, in its own unit, from earlier readings of the same water in the parameter's unit. */
export function expectedFor(
	method: Method,
	parameter: string,
	unit: string,
	earlier: Reading[],
	now: string
): Expected | undefined {
	const known = earlier
		.filter((r) => r.value !== null && r.standardUncertainty !== null)
		.map((r) => ({
			at: Date.parse(r.takenAt),
			value: r.value!,
			standardUncertainty: r.standardUncertainty!
		}));
	const there = expectation(known, Date.parse(now));
	if (!there || !isQuantity(parameter) || method.unit === unit) return there;
	const to = (value: number) => {
		const result = convert({ quantity: parameter, value, from: unit, to: method.unit });
		return result.ok ? result.value.value : NaN;
	};
	const spread = Math.abs(to(there.mean + there.standardDeviation) - to(there.mean));
	return Number.isFinite(spread) && spread > 0
		? { mean: to(there.mean), standardDeviation: spread }
		: undefined;
}
