import { describe, expect, it } from 'vitest';
import { freeTimes, pourTimes } from './free-hands';
import type { Rest } from './remaining';
import type { Run, RunningTest } from './run';

const T0 = Date.parse('2026-05-06T18:00:00Z');
const test = (id: string, done: [number, number][] = []): RunningTest =>
	({
		id,
		steps: [{}, {}, {}],
		done: done.map(([start, end], step) => ({
			step,
			start: T0 + 1000 * start,
			end: T0 + 1000 * end,
			marks: []
		})),
		before: [],
		dropped: false
	}) as unknown as RunningTest;
const run = (tests: RunningTest[], people = 1): Run =>
	({ startedAt: T0, people, tests, inHand: [], order: [], save: 'each', lastAt: T0 }) as Run;
const rest = (...steps: [test: string, step: number, start: number, end: number][]): Rest =>
	({
		plan: { steps: steps.map(([t, step, start, end]) => ({ test: t, step, start, end })) },
		late: []
	}) as unknown as Rest;
const after = (seconds: number) => T0 + 1000 * seconds;
// Potassium waits from 100 to 700 s, and alkalinity is done from 200 to 300.
const REST = rest(['k', 1, 60, 100], ['alk', 0, 200, 240], ['alk', 1, 240, 300], ['k', 2, 700, 800]);
const EVENING = run([test('k', [[0, 60]]), test('alk')]);
const measures = (t: RunningTest) => ({ k: 'potassium', alk: 'alkalinity' })[t.id];

describe('free hands', () => {
	it('are between steps, named by the clock that ends them, and after the last', () => {
		expect(freeTimes(EVENING, REST, after(60))).toEqual([
			{ from: after(100), to: after(200), waiting: 'alk' },
			{ from: after(300), to: after(700), waiting: 'k' },
			{ from: after(800), to: Infinity }
		]);
		// In the middle of a wait it begins now.
		expect(freeTimes(EVENING, REST, after(400))[0]).toEqual({
			from: after(400),
			to: after(700),
			waiting: 'k'
		});
		expect(freeTimes(EVENING, undefined, after(5))).toEqual([{ from: after(5), to: Infinity }]);
	});
	it('are a second pair where two people are at it', () => {
		const two = run(EVENING.tests, 2);
		const both = rest(['k', 1, 0, 100], ['alk', 0, 20, 60], ['k', 2, 700, 800]);
		expect(freeTimes(two, both, after(0))).toEqual([
			{ from: after(0), to: after(20), waiting: 'alk' },
			{ from: after(60), to: Infinity }
		]);
	});
});

describe('a pour at the bench', () => {
	const pours = (...moves: string[][]) => moves.map((m, place) => ({ place, moves: m }));
	it('goes into a wait, each into the time that is left', () => {
		expect(pourTimes(EVENING, REST, after(60), pours(['magnesium'], ['strontium']), measures)).toEqual([
			{ place: 0, at: after(100), waiting: 'alk' },
			{ place: 1, at: after(300), waiting: 'k' }
		]);
	});
	it('waits until the water is drawn of the tests that measure what it moves', () => {
		const [soda] = pourTimes(EVENING, REST, after(60), pours(['alkalinity', 'salinity']), measures);
		expect(soda).toEqual({ place: 0, at: after(300), waiting: 'k' });
		// What was drawn already is not disturbed.
		const [potash] = pourTimes(EVENING, REST, after(60), pours(['potassium']), measures);
		expect(potash).toEqual({ place: 0, at: after(100), waiting: 'alk' });
	});
	it('goes in after the last test where no wait is long enough', () => {
		const busy = rest(['k', 1, 0, 100], ['alk', 0, 130, 240], ['alk', 1, 240, 300], ['k', 2, 300, 800]);
		expect(pourTimes(EVENING, busy, after(0), pours(['magnesium']), measures)).toEqual([
			{ place: 0, at: after(800) }
		]);
	});
});
