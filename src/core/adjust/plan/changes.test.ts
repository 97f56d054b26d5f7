import { expect, it } from 'vitest';
import { changesOf } from './changes';
import { NO_PLAN, type CorrectResult, type PlanStep } from './schema';

const resultOf = (more: Partial<CorrectResult>): CorrectResult => ({ ...NO_PLAN, ...more });
const dose = (day: number, supplement: string, amount: number, unit: 'mL' | 'g', by: number): PlanStep => ({
	kind: 'dose',
	why: 'bring-home',
	day,
	parameter: 'alkalinity',
	supplement,
	amount,
	unit,
	changes: { alkalinity: by }
});
const path = { alkalinity: [7, 7.5, 8].map((mean, day) => ({ day, mean, sd: 0.3 })) };
const followed = {
	madeAt: '2026-05-01T08:00:00Z',
	request: { days: 3 },
	result: resultOf({ path, steps: [dose(0, 'soda', 20, 'mL', 0.5), dose(1, 'soda', 20, 'mL', 0.5)] }),
	done: { 0: {} }
};
const known = (mean: number, now = '2026-05-02T20:00:00Z') => ({
	now,
	parameters: [{ parameter: 'alkalinity', unit: 'dKH', now: { mean, standardDeviation: 0.4 } }]
});
const keeps = resultOf({ steps: [dose(0, 'soda', 20, 'mL', 0.5), dose(2, 'soda', 20, 'mL', 0.5)] });

it('says nothing of a level as it was expected, nor of one nobody measured since', () => {
	// 0.3 and 0.4 together are 0.5: within 0.98 of 7.5 it is as expected. What comes after the old plan’s last day is not compared.
	expect(changesOf(followed, known(8.4), keeps, ['alkalinity'])).toEqual([]);
	expect(changesOf(followed, known(9), keeps, [])).toEqual([]);
	expect(changesOf(followed, known(8.5), keeps, ['alkalinity'])).toMatchObject([
		{ expected: 7.5, now: 8.5, beyondNoise: true, before: 0.5, after: 0.5, unit: 'dKH' }
	]);
});

it('weighs what is left by what it does, not by what is in the bottle', () => {
	const other = resultOf({ steps: [dose(0, 'powder', 1.7, 'g', 0.5)] });
	expect(changesOf(followed, known(7.6), other, ['alkalinity'])).toEqual([]);
	const more = resultOf({ steps: [dose(0, 'powder', 1.7, 'g', 0.5), dose(1, 'soda', 10, 'mL', 0.25)] });
	expect(changesOf(followed, known(7.6), more, ['alkalinity'])).toMatchObject([{ before: 0.5, after: 0.75 }]);
});

it('tells where a level may not be poured for any more, and holds a plan that has ended against its last day', () => {
	const refused = resultOf({ refused: [{ parameter: 'alkalinity', why: 'odd' }] });
	expect(changesOf(followed, known(7.5), refused, ['alkalinity'])).toMatchObject([
		{ refusedBefore: null, refusedNow: 'odd', beyondNoise: false }
	]);
	const ended = known(8, '2026-05-20T08:00:00Z');
	expect(changesOf({ ...followed, done: { 0: {}, 1: {} } }, ended, keeps, ['alkalinity'])).toEqual([]);
});
