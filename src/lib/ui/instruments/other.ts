import type { Measured } from '$core/methods';

/** A reading that another method takes away: one that is saved, or one of the evening at hand. */
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
