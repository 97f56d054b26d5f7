import type { TrendResult } from '$core/trend';

/** A level as it is known, in the parameter's own unit, and what it does a day with what dosing pumps give. */
export interface WaterLevel {
	parameter: string;
	now: { mean: number; standardDeviation: number };
	/** Scatter of one test by the kit that tested it last; of a kit by whose error alone it is known nothing. Standard deviation. */
	scatter: number | null;
	netPerDay: TrendResult['netPerDay'] | null;
}
