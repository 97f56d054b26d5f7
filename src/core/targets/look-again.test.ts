import { describe, expect, it } from 'vitest';
import { asTrendReading, type KeptReading } from '../trend';
import { HOUR } from '../base';
import type { Judgement } from './judge-schema';
import { isAgainTonight, whyLook } from './look-again';
import { urgencyOf } from './urgency';

describe('what is asked of a tank next', () => {
	const level = { value: 9.6, standardDeviation: 0.1, interval: [9.4, 9.8] as [number, number] };
	const band = { lower: 7.5, upper: 9 };
	const odd = [{ index: 4, chance: 0.9 }];
	const look = (of: object, at = band) =>
		whyLook({ odd: [], moved: null, now: level, ...of } as never, 4, at);

	it('a test that is odd comes before water that moved, that before a level that is out', () => {
		expect(look({ odd, moved: { at: 'then' } })).toBe('odd');
		expect(look({ odd: [{ index: 3 }], moved: { at: 'then' } })).toBe('moved');
		expect(look({})).toBe('out');
		expect(look({}, { lower: 7.5, upper: 11 })).toBe('unsure');
	});

	it('a poison is tested twice on its session, and no third time; a nutrient not', () => {
		const now = Date.parse('2026-05-06T20:00:00Z');
		expect(isAgainTonight('nitrite', 'out', undefined, now)).toBe(true);
		expect(isAgainTonight('nitrite', 'odd', now - 30 * HOUR, now)).toBe(true);
		expect(isAgainTonight('nitrite', 'out', now - HOUR, now)).toBe(false);
		expect(isAgainTonight('nitrite', 'unsure', undefined, now)).toBe(false);
		expect(isAgainTonight('nitrate', 'out', undefined, now)).toBe(false);
	});

	it('one tank in which animals are harmed comes before any with many lesser worries, and those before tests that are due', () => {
		const judged = (...ranks: number[]) => ranks.map((rank) => ({ rank }) as Judgement);
		const order = (ranks: number[], due: number) => urgencyOf(judged(...ranks), due).order;
		const lesser = Array.from({ length: 40 }, () => 1);
		const sorted = [
			order([0], 0),
			order(lesser, 16),
			order([1], 16),
			order([1], 0),
			order([], 16),
			order([3], 0)
		];
		expect(sorted).toEqual([...sorted].sort((a, b) => a - b));
		expect(new Set(sorted).size).toBe(sorted.length);
		expect(urgencyOf(judged(1, 3), 0).worries).toHaveLength(1);
	});
});

describe('a kept reading as an estimate takes it', () => {
	const kept: KeptReading = {
		at: 0,
		qualifier: '=',
		value: 8,
		standardUncertainty: 0.5,
		repeatability: 0.3,
		low: 7.5,
		high: 8.5,
		methodId: 'a'
	};
	it('parts its error, keeps bounds as bounds, and takes a value without an error as an interval', () => {
		const at = '1970-01-01T00:00:00.000Z';
		const error = { standardUncertainty: 0.5, trueness: 0.4 };
		expect(asTrendReading(kept)).toEqual({ at, value: 8, ...error, method: 'a' });
		expect(asTrendReading({ ...kept, qualifier: '>', low: null })).toEqual({
			at,
			above: 0,
			...error,
			method: 'a'
		});
		// Below nothing is nothing, not a bound that says nothing.
		expect(asTrendReading({ ...kept, qualifier: '<', low: 0, high: 0, value: 0 })).toMatchObject({
			interval: [0, 0]
		});
		expect(asTrendReading({ ...kept, standardUncertainty: null })).toEqual({
			at,
			interval: [7.5, 8.5],
			method: 'a'
		});
	});
});
