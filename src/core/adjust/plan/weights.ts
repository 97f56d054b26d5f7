import type { Wish } from './wishes';

/**
 * What a plan is weighed by, in days: a day on which one parameter is a whole band away weighs 1. `inner`: in its band, but not where it
 * is wanted. `end`: where it is left. `pour`: one healthy day's pour; `act`: going to the tank at all; `change`: a water change.
 */
export interface Weights {
	out: number;
	/** In its band, but not with 95 %. */
	unsure: number;
	inner: number;
	end: number;
	pour: number;
	act: number;
	change: number;
	/** mL, g and L by their price, one of the keeper's money. */
	money: number;
}
export const WEIGHTS: Record<Wish, Weights> = {
	soonest: { out: 1, unsure: 0.3, inner: 0.1, end: 1, pour: 0.005, act: 0, change: 1, money: 0.0005 },
	least: { out: 0.25, unsure: 0.1, inner: 0, end: 2, pour: 0.1, act: 0, change: 2, money: 0.02 },
	fewest: { out: 0.25, unsure: 0.1, inner: 0, end: 2, pour: 0.001, act: 0.2, change: 1, money: 0 }
};
/** A healthy day's pour that was moved by hand and is not there: outweighs what the plan would rather do. */
export const MOVED = 20;
/** In the order in which levels are brought home. */
const FIRST: Record<string, number> = { salinity: 1.6, alkalinity: 1.5, magnesium: 1.2, calcium: 1 };
export const importanceOf = (parameter: string): number => FIRST[parameter] ?? 0.7;
