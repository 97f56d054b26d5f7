import type { TrendResult } from '$core/trend';

/** A level as it is known, in the parameter's own unit, and what it does a day with what dosing pumps give. */
export interface WaterLevel {
	parameter: string;
	now: { mean: number; standardDeviation: number };
	netPerDay: TrendResult['netPerDay'] | null;
}
