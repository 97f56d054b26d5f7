import type { Measured } from '$core/methods';
import { slopeAt, valueIn } from '$core/quantities';
import { parameterOf } from '$core/catalogue';

/** A reading that another method takes away: one that is saved, or one of the session at hand. */
export type OtherReading = Pick<
	Measured,
	'value' | 'standardUncertainty' | 'repeatability' | 'qualifier' | 'interval' | 'unit'
> & {
	id: string;
	parameter: string;
	takenAt: string;
	/** Whether it was read by a chart of the keeper's own. */
	ownChart: boolean;
};

/** What is taken away, in the parameter's own unit, as methods take it. */
export function inOwnUnit(other: OtherReading): OtherReading {
	const unit = parameterOf(other.parameter)?.unit ?? other.unit;
	if (unit === other.unit || other.value === null) return other;
	const slope = Math.abs(slopeAt(other.parameter, other.value, other.unit, unit));
	const error = (u: number | null) => (u === null ? null : u * slope);
	return {
		...other,
		unit,
		value: valueIn(other.parameter, other.value, other.unit, unit),
		standardUncertainty: error(other.standardUncertainty),
		repeatability: error(other.repeatability)
	};
}
