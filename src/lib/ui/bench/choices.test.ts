import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS } from '$core/methods';
import type { Pack } from '$lib/api/methods';
import {
	addedTest,
	clockTime,
	inMinutes,
	minutesAndSeconds,
	needsVial,
	requestOf,
	shortName,
	testsOf,
	titlesOf,
	type Choice
} from './choices';

const profileOf = (id: string) => SHIPPED_METHODS.find((m) => m.id === id)!;
const choice = (id: string): Choice => ({ id: `m-${id}`, versionId: id, profile: profileOf(id) });
const chosen = (...ids: string[]) => ids.map((id) => ({ choice: choice(id) }));
const packs = [{ methodId: 'm-ca-syringe-5', label: 'B' }] as Pack[];

describe('tests of a session', () => {
	it('stand in vials of their own, with the letter of their kit', () => {
		expect(testsOf(chosen('alk-drops', 'ca-syringe-5'), packs)).toEqual([
			{ id: 't1', methodVersionId: 'alk-drops', vial: 1 },
			{ id: 't2', methodVersionId: 'ca-syringe-5', vial: 2, letter: 'B' }
		]);
	});

	it('wait for what they go on from or take away, in whatever order they were chosen', () => {
		const goesOn = testsOf(chosen('mg-same-vial', 'alk-drops', 'ca-syringe-5'), []);
		expect(goesOn.map((t) => [t.methodVersionId, t.vial, t.after])).toEqual([
			['alk-drops', 1, undefined],
			['ca-syringe-5', 2, undefined],
			['mg-same-vial', 2, ['t2']]
		]);
		const byDifference = testsOf(chosen('mg-after-ca', 'ca-drops'), []);
		expect(byDifference.map((t) => [t.methodVersionId, t.vial, t.after])).toEqual([
			['ca-drops', 1, undefined],
			['mg-after-ca', 2, ['t1']]
		]);
		// Without calcium in the session there is nothing to wait for.
		expect(testsOf(chosen('mg-after-ca'), [])[0]).not.toHaveProperty('after');
	});

	it('are added under way in a new vial, or in the one they go on in', () => {
		const tests = testsOf(chosen('alk-drops', 'ca-drops'), []);
		const add = (id: string, thinned?: { sampleMl: number; waterMl: number }) =>
			addedTest(tests, profileOf, choice(id), packs, 'new', thinned);
		expect(add('no3-card', { sampleMl: 1, waterMl: 9 })).toEqual({
			id: 'new',
			methodVersionId: 'no3-card',
			vial: 3,
			thinned: { sampleMl: 1, waterMl: 9 }
		});
		expect(add('mg-same-vial')).toMatchObject({ vial: 2, after: ['t2'] });
		expect(add('mg-after-ca')).toMatchObject({ vial: 3, after: ['t2'] });
	});

	it('ask the planner for what their methods say, thinning first', () => {
		const [plain] = requestOf(testsOf(chosen('no3-card'), []), profileOf, 1, []).tests;
		const thinned = testsOf([{ choice: choice('no3-card'), thinned: { sampleMl: 1, waterMl: 9 } }], []);
		const [longer] = requestOf(thinned, profileOf, 2, ['t1']).tests;
		expect(longer!.steps).toHaveLength(plain!.steps.length + 1);
		expect(longer!.steps[0]!.label).toContain('Mix 1 mL of the water with 9 mL');
		// Shaken, then five minutes to stand and two to look.
		expect(plain!.steps.at(-2)).toMatchObject({ hands: 15, then: { wait: 300, within: 120 } });
		expect(requestOf(thinned, profileOf, 2, ['t1'])).toMatchObject({ people: 2, order: ['t1'] });
	});

	it('are called by what they measure, and by their method where that says too little', () => {
		const test = (id: string, method: string) => ({ id, profile: profileOf(method) });
		expect(
			titlesOf([
				test('a', 'no3-card'),
				{ ...test('b', 'no3-card'), thinned: { sampleMl: 1, waterMl: 9 } },
				test('c', 'ca-drops'),
				test('d', 'ca-syringe-5')
			])
		).toEqual({ a: 'Nitrate', b: 'Nitrate, diluted', c: 'Calcium, drops', d: 'Calcium, syringe, 5 mL' });
		expect(shortName(profileOf('ca-syringe-5'))).toBe('syringe, 5 mL');
	});

	it('have a vial unless they are only dipped or dripped on', () => {
		expect(needsVial([{ act: 'read' }])).toBe(false);
		expect(needsVial([{ act: 'measure' }, { act: 'read' }])).toBe(true);
	});
});

it.each([
	[0, '0:00'],
	[59_499, '0:59'],
	[-61_000, '1:01'],
	[3_600_000, '60:00']
])('%d ms is %s on a clock', (ms, words) => expect(minutesAndSeconds(ms)).toBe(words));
it.each([
	[40, '40 s'],
	[89, '89 s'],
	[90, '2 min'],
	[3540, '59 min'],
	[3900, '1 h 5 min']
])('%d s are %s', (seconds, words) => expect(inMinutes(seconds)).toBe(words));

it('tells the time of the tank on the night the clocks change', () => {
	// At 01:00 UTC on 25 October 2026 Dublin goes back from two to one o'clock.
	expect(clockTime(Date.parse('2026-10-25T00:59:00Z'), 'Europe/Dublin')).toBe('01:59');
	expect(clockTime(Date.parse('2026-10-25T01:00:00Z'), 'Europe/Dublin')).toBe('01:00');
});
