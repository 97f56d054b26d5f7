import { parameterOf } from '../catalogue';
import { COVERAGE_95 } from '../statistics';
import { expressedIn } from './express';
import { range95Of } from './range';
import type { Measured, Proved } from './schema';

/** What a reading says, however it is kept. */
type Said = Pick<Measured, 'qualifier' | 'value' | 'standardUncertainty' | 'repeatability' | 'interval'>;

/**
 * A reading with what is known of its kit: what stays with the kit is what checks have taught, a proven bias is off where its keeper
 * said so (GUM F.2.4.5), and what changes from test to test is what repeats scatter by. A bound or a span between two lines stays as it was read. In the parameter's own unit.
 *
 * @example asProved({ qualifier: '=', value: 8.3, standardUncertainty: 0.5, repeatability: 0.3, interval: [7.3, 9.3] }, { trueness: 0.1 }).standardUncertainty // → 0.3162
 */
export function asProved<T extends Said>(said: T, proved: Proved): T {
	if (said.qualifier !== '=' || said.value === null || !said.standardUncertainty || !said.repeatability)
		return said;
	const { takenOff = 0, scatter } = proved;
	const value = said.value - takenOff;
	const repeatability = said.repeatability * (scatter?.ratio ?? 1);
	const trueness =
		proved.trueness ?? Math.sqrt(Math.max(0, said.standardUncertainty ** 2 - said.repeatability ** 2));
	const standardUncertainty = Math.hypot(repeatability, trueness);
	const half = COVERAGE_95 * standardUncertainty;
	const [low, high] = said.interval.map((end) => (end === null ? null : end - takenOff));
	// What it cannot be outside of (two shades, nothing at all) goes along; a kit found worse than it says goes past it.
	const narrower = standardUncertainty <= said.standardUncertainty;
	const floor = (said.interval[0] ?? -1) >= 0 ? 0 : -Infinity;
	const interval: [number, number] = [
		Math.max(floor, value - half, narrower ? (low ?? -Infinity) : -Infinity),
		Math.min(value + half, narrower ? (high ?? Infinity) : Infinity)
	];
	// More taken off than there was: all that is known is that there is little.
	if (value < floor)
		return {
			...said,
			qualifier: '<',
			value: null,
			standardUncertainty: null,
			repeatability: null,
			interval: [0, Math.max(0, value + half)]
		};
	return { ...said, value, standardUncertainty, repeatability, interval };
}

/**
 * The same of a result with its budget, in whatever unit its method has.
 *
 * @example resultAsProved(read({ method: SHIPPED_METHODS[0], reading: { left: 0.48 } }).value, 'alkalinity', { trueness: 0.05, by: 'a reference' }).trueness // → 0.05
 */
export function resultAsProved(result: Measured, parameter: string, proved: Proved): Measured {
	const own = expressedIn(result, parameter, parameterOf(parameter)?.unit ?? result.unit);
	const now = asProved(own, proved);
	if (now === own) return result;
	if (now.value === null)
		return expressedIn(
			{ ...now, trueness: null, budget: [], range95: range95Of(now) },
			parameter,
			result.unit
		);
	const { trueness, by, scatter } = proved;
	const scattered = now.budget.map((e) =>
		scatter && e.kind === 'repeatability'
			? { ...e, standardUncertainty: e.standardUncertainty * scatter.ratio }
			: e
	);
	const budget =
		trueness === undefined
			? scattered
			: [
					...scattered.filter((e) => e.kind === 'repeatability'),
					{
						source: `the kit, checked with ${by ?? 'known water'}`,
						standardUncertainty: trueness,
						kind: 'trueness' as const
					}
				];
	return expressedIn(
		{ ...now, trueness: trueness ?? now.trueness, budget, range95: range95Of(now) },
		parameter,
		result.unit
	);
}
