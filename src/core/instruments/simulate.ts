import { readingAt } from '../statistics';
import type { Table } from './profile-parts';

/** Where chance comes from: uniform numbers in [0, 1) and standard normal ones. */
export interface Chance {
	random: () => number;
	gauss: () => number;
}

/** What stays with one kit and batch: how far it is off, as a fraction, and in the instrument's shown unit; and what of the last drop its chart allows for. */
export interface KitBias {
	relative: number;
	absolute: number;
	allowed: number;
}

/** Where a value stands on a method's scale; past the ends of a chart, at its nearer end. */
export function onScale<T extends { kind: 'linear'; atZero?: number }>(
	scale: T | Table,
	value: number,
	per: (linear: T) => number
): number {
	if (scale.kind === 'linear') return (value - ((scale as T).atZero ?? 0)) / per(scale as T);
	const at = readingAt(scale.points, value);
	if (at !== undefined) return at;
	return scale.points.reduce((best, p) => (Math.abs(p[1] - value) < Math.abs(best[1] - value) ? p : best))[0];
}
