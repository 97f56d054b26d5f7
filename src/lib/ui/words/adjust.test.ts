import { describe, expect, it } from 'vitest';
import type { CorrectResult, PlanStep } from '$core/adjust';
import { CAUTIONS, REFUSALS } from '$core/adjust';
import { queryOf, withMove, wishSince } from '$lib/api/plan-query';
import { wishOf } from '$lib/api/plans';
import {
	cautionInWords,
	mannerInWords,
	notHomeInWords,
	planChangeInWords,
	priceOfMoveInWords,
	reasonInWords,
	refusalInWords,
	riskInWords,
	stepInWords
} from './adjust';

const step = (more: Partial<PlanStep>): PlanStep => ({ day: 0, kind: 'dose', why: 'hold', ...more });

describe('every kind has its sentence', () => {
	it('of refusals and cautions', () => {
		for (const why of REFUSALS) {
			const said = refusalInWords({ parameter: 'calcium', why });
			expect(said, why).toMatch(/^Calcium: .*\.$/);
			expect(said).not.toMatch(/undefined|NaN/);
		}
		for (const caution of CAUTIONS) expect(cautionInWords(caution)).toMatch(/^It |^Never /);
	});
	it('of risks', () => {
		const risk = (kind: string, numbers: Record<string, number>, more = {}) =>
			riskInWords({ kind, day: 2, numbers, ...more } as CorrectResult['risks'][number], {
				a: { name: 'Soda', unit: 'mL' }
			});
		expect(risk('alarm', { level: 13, alarm: 12, needsPerDay: -1 }, { parameter: 'alkalinity' })).toMatch(
			/^Do not follow this plan\. Alkalinity would reach 13 dKH on day 3; the safe limit is 12 dKH\./
		);
		expect(risk('stock', { needs: 100, has: 60 }, { supplement: 'a' })).toMatch(
			/^Soda will run out: 100 mL needed, 60 mL left\.$/
		);
		expect(risk('stock', { needs: 58, has: 60 }, { supplement: 'a' })).toMatch(
			/^Soda will be nearly empty: 58 mL of 60 mL/
		);
		expect(risk('pour', { portions: 25 }, { supplement: 'a' })).toMatch(/drip in overnight/);
		expect(risk('saturation', { omega: 6.6 })).toMatch(/reach 6\.6 on day 3/);
		expect(risk('volume', { relative: 0.09 })).toMatch(/9 %/);
		expect(risk('salt-creep', { psu: 0.6 })).toMatch(/0.6 PSU/);
		expect(risk('band', { level: 7.4, edge: 8, bottles: 1 }, { parameter: 'alkalinity' })).toMatch(
			/^Alkalinity would fall to 7\.4 dKH on day 3, below your limit of 8 dKH\. .*update the plan\.$/
		);
		expect(risk('band', { level: 7.4, edge: 8, bottles: 0 }, { parameter: 'alkalinity' })).toMatch(
			/Nothing in this plan raises it\.$/
		);
		expect(risk('band', { level: 480, edge: 460 }, { parameter: 'calcium' })).toMatch(
			/above your limit of 460 mg\/L/
		);
		expect(risk('moved', { wanted: 20, got: 12 }, { supplement: 'a' })).toMatch(
			/^Soda on day 3: 12 mL of 20 mL are dosed\./
		);
		expect(risk('moved', { wanted: 1, got: 0 })).toMatch(/^No water change on day 3/);
	});
	it('of steps and why they stand there', () => {
		expect(stepInWords(step({ amount: 12.3, unit: 'mL' }), { name: 'Soda' })).toBe('12.3 mL of Soda');
		expect(stepInWords(step({ amount: 20, unit: 'g' }), { name: 'Salt', spoonG: 14 })).toBe(
			'1.5 level spoons (20 g) of Salt'
		);
		expect(stepInWords(step({ amount: 2, unit: 'g' }), { name: 'Salt', spoonG: 14 })).toMatch(
			/^0.5 level spoons/
		);
		expect(stepInWords(step({ kind: 'dosing-rate', amount: 0, unit: 'mL/day' }), { name: 'Soda' })).toBe(
			'Stop the dosing pump of Soda'
		);
		expect(stepInWords(step({ kind: 'fresh-water', amount: 7, unit: 'L' }), undefined)).toMatch(
			/purified water/
		);
		expect(stepInWords(step({ kind: 'salt', amount: 300, unit: 'g' }), undefined)).toMatch(
			/^300 g of salt mix/
		);
		for (const why of ['odd', 'unproved', 'salinity-first', 'before-acting', 'check', 'unsure'] as const)
			expect(reasonInWords(step({ kind: 'test', parameter: 'calcium', why })).length).toBeGreaterThan(10);
		expect(reasonInWords(step({ kind: 'dosing-rate', parameter: 'calcium', why: 'tune' }))).toMatch(
			/^matches consumption of calcium$/
		);
	});
	it('of portions and hours', () => {
		const said = (more: Partial<PlanStep>, late = false, both = false) =>
			mannerInWords(step(more), 24, late, both);
		expect(said({ portions: 3, when: 'morning' })).toBe('in 3 portions, hours apart, in the morning');
		expect(said({ portions: 24, when: 'morning' })).toBe('overnight, by drip or dosing pump');
		expect(said({ when: 'evening' }, true)).toBe('tonight');
		expect(said({ when: 'evening' }, true, true)).toMatch(/hours after it/);
		expect(said({ kind: 'test' })).toBe('');
	});
	it('of what changed, and of what does not come home', () => {
		const change = {
			parameter: 'alkalinity',
			expected: 8,
			now: 8.6,
			standardDeviation: 0.1,
			beyondNoise: true,
			before: 0.8,
			after: 0.2,
			unit: 'dKH',
			refusedBefore: null,
			refusedNow: null
		};
		expect(planChangeInWords(change)).toMatch(
			/^Alkalinity is at 8\.6 dKH; 8 dKH was expected\..* Less to dose: \+0\.2 dKH instead of \+0\.8 dKH\.$/
		);
		expect(planChangeInWords({ ...change, beyondNoise: false, after: 1.2 })).toMatch(
			/as expected.*More to dose/
		);
		expect(planChangeInWords({ ...change, refusedNow: 'odd' })).toMatch(
			/more than the errors\. The result is unexpected: the plan waits for another test\.$/
		);
		for (const why of REFUSALS)
			expect(planChangeInWords({ ...change, refusedNow: why }), why).toMatch(/the plan waits (until|for) /i);
		expect(planChangeInWords({ ...change, refusedBefore: 'odd' })).toMatch(/certain enough now to act on/);
		expect(planChangeInWords({ ...change, after: 0.8 })).toMatch(/more than the errors\.$/);
		expect(notHomeInWords('calcium', true, 14)).toMatch(
			/^Calcium needs more than 14 days\. No supplement lowers it/
		);
		expect(notHomeInWords('calcium', false, 1)).toMatch(/^Calcium needs more than 1 day\. Faster/);
	});
});

it('a wish goes into an address and comes back', () => {
	for (const wish of [
		{},
		{ prefer: 'fewest' as const },
		{ prefer: 'least' as const, days: 28, without: ['a', 'b'], noChangeBefore: 5 },
		{ noChangeBefore: 'never' as const },
		{
			moves: [
				{ supplement: '85a40443-b2e9', from: 0, to: 3, amount: 4.4302 },
				{ from: 7, to: 6 }
			]
		}
	])
		expect(wishOf(Object.fromEntries(new URLSearchParams(queryOf(wish))) as never)).toEqual(wish);
	expect(queryOf({ prefer: 'soonest', days: 14 })).toBe('');
});

it('a wish that is taken up again days later waits no longer than it was to wait', () => {
	expect(wishSince({ prefer: 'least', noChangeBefore: 5 }, 3)).toEqual({
		prefer: 'least',
		noChangeBefore: 2
	});
	expect(wishSince({ noChangeBefore: 5 }, 9)).toEqual({});
	expect(wishSince({ noChangeBefore: 'never', days: 28 }, 9)).toEqual({ noChangeBefore: 'never', days: 28 });
});

describe('a glass moved by hand', () => {
	const soda = { supplement: 'soda', amount: 5 };
	it('goes on from where it stands, and back to its own day is no move', () => {
		const once = withMove([], { ...soda, from: 1, to: 4 });
		expect(once).toEqual([{ ...soda, from: 1, to: 4 }]);
		expect(withMove(once, { ...soda, from: 4, to: 6 })).toEqual([{ ...soda, from: 1, to: 6 }]);
		expect(withMove(once, { ...soda, from: 4, to: 1 })).toEqual([]);
		// Another bottle's glass on that day is another.
		expect(withMove(once, { supplement: 'lime', amount: 2, from: 4, to: 5 })).toHaveLength(2);
	});
	it('stands on its day however many days later it is asked for', () => {
		const wish = {
			moves: [
				{ ...soda, from: 1, to: 4 },
				{ from: 0, to: 2 }
			]
		};
		expect(wishSince(wish, 3)).toEqual({ moves: [{ ...soda, from: 1, to: 1 }] });
		expect(wishSince(wish, 1).moves).toEqual([
			{ ...soda, from: 0, to: 3 },
			{ from: 1, to: 1 }
		]);
		expect(wishSince(wish, 5)).toEqual({});
	});
	it('has its price in words', () => {
		const plan = { home: 4, daysOut: 4, pours: 6, safe: true };
		const price = (after: Partial<typeof plan> | { home: null }) =>
			priceOfMoveInWords(plan, { ...plan, ...after });
		expect(price({})).toBe('no cost');
		expect(price({ safe: false })).toBe('not safe');
		expect(price({ home: 6, daysOut: 6, pours: 5 })).toBe('in range 2 days later · 1 dose fewer');
		expect(price({ daysOut: 5 })).toBe('1 more day out of range');
		expect(price({ home: null })).toBe('not all in range');
		expect(priceOfMoveInWords({ ...plan, home: null }, plan)).toBe('all in range');
	});
});
