import { DAY } from '../../src/core/base';
import { normal, uniform } from '../../src/core/simulate';
import { trend } from '../../src/core/trend/trend';
import type { TrendRequest, TrendResult } from '../../src/core/trend/schema';

/** Questions to `trend`, for its tests. */

export const solved = (request: TrendRequest): TrendResult => {
	const outcome = trend(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
export const day = (n: number) => new Date(Date.parse('2026-01-01T12:00:00Z') + n * DAY).toISOString();
export const alk = (values: [number, number][], more: Partial<TrendRequest> = {}): TrendRequest => ({
	parameter: 'alkalinity',
	unit: 'dKH',
	readings: values.map(([d, value]) => ({ at: day(d), value, standardUncertainty: 0.15 })),
	now: day(Math.max(...values.map(([d]) => d))),
	...more
});
/** Tests every few days of what a law says, by a hand of that error. */
export const tests = (law: (d: number) => number, days: number[], error: number, seed = 5) => {
	const gauss = normal(uniform(seed));
	return days.map((d) => ({
		at: day(d),
		value: Math.max(0, law(d) + error * gauss()),
		standardUncertainty: error
	}));
};
export const every = (step: number, until: number) =>
	Array.from({ length: until / step + 1 }, (_, i) => i * step);
export const dosing = (from: number, perDay: number) => ({ at: day(from), kind: 'dosing' as const, perDay });
export const DEAD = {
	law: (d: number) => 8.4 - 0.8 * Math.max(0, d - 57),
	days: [...every(3, 57), 58, 60, 62, 63]
};
