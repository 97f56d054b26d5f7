import { parameterOf } from '../catalogue';
import { COVERAGE_95 } from '../statistics';
import { blend } from './blend';

/** A level in the parameter's own unit. */
interface Known {
	value: number;
	standardDeviation: number;
}
/** A tank's level, the new water's, and how changes are made. */
export interface ChangedWater {
	parameter: string;
	now: number;
	newWater: number;
	/** What the level does a day without changes; null where that is not known. */
	netPerDay: Known | null;
	/** Of the water, and every how many days. */
	fraction: number;
	everyDays: number;
}

/**
 * What one change brings, for each of some sizes, and where changes of `fraction` every `everyDays` settle, just after one; null where
 * that is known no better than half of what is plausible. New water counts as exactly known. Mass balance: a change of f leaves 1 − f of
 * what was there; a drift that is off by d a day moves the end of the series by d · days · (1 − f) / f.
 *
 * @example afterChange({ parameter: 'nitrate', now: 40, newWater: 0, netPerDay: { value: 1, standardDeviation: 0.1 }, fraction: 0.2, everyDays: 7 }, [0.5]) // → { after: [20], settles: { value: 28, standardDeviation: 2.8 } }
 */
export function afterChange(
	{ parameter, now, newWater, netPerDay, fraction, everyDays }: ChangedWater,
	sizes: number[]
): { after: number[]; settles: Known | null } {
	const after = sizes.map((f) => now + f * (newWater - now));
	const series = blend({
		series: {
			now: { [parameter]: now },
			newWater: { [parameter]: newWater },
			fraction,
			everyDays,
			netPerDay: { [parameter]: netPerDay?.value ?? 0 }
		}
	});
	const value = series.ok ? series.value.series?.[parameter]?.steady.after : undefined;
	const standardDeviation =
		((netPerDay?.standardDeviation ?? Infinity) * everyDays * (1 - fraction)) / fraction;
	const [low, high] = parameterOf(parameter)?.plausible ?? [0, 0];
	const isKnown = COVERAGE_95 * standardDeviation < (high - low) / 2;
	return { after, settles: value !== undefined && isKnown ? { value, standardDeviation } : null };
}
