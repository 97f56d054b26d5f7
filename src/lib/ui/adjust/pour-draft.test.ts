import { expect, it } from 'vitest';
import type { ShelfSupplement } from '$lib/api/supplements';
import { LABELLED } from '../../../../tests/support/plans';
import { pourOf, pourableOf, type PourAsked } from './pour-draft';

const soda: ShelfSupplement = { id: 'b', left: 500, lastsDays: 50, profile: LABELLED };
const into = {
	water: { volumeL: { value: 200, standardUncertainty: 10 }, salinity: 35, temperatureC: 25 },
	levels: { alkalinity: 7 },
	planned: [{ parameter: 'alkalinity', healthyPerDay: { up: 0.5, down: 0.5 } }]
};
const poured = (of: PourAsked['of'], text: string) => pourOf({ of, text }, pourableOf([soda])[0]!, into);

it('says the amount for a change and the change for an amount, the same both ways', () => {
	const change = poured('change', '1,5');
	if (!change || 'problem' in change) throw new Error('no pour');
	expect(change.amount.value).toBeCloseTo(60, 6);
	// At half a dKH a day.
	expect(change.days).toBe(3);
	const amount = poured('amount', '60 mL');
	expect(amount && !('problem' in amount) && amount.change.value).toBeCloseTo(1.5, 6);
	expect(change.lastsDays).toBeCloseTo(50, 6);
});

it('says what is wrong with what was typed, and nothing of an empty field', () => {
	expect(poured('change', ' ')).toBeUndefined();
	expect(poured('amount', 'x')).toHaveProperty('problem');
	for (const text of ['0', '-1']) expect(poured('change', text)).toEqual({ problem: expect.any(String) });
});

it('takes no bottle that says nothing of what it brings', () => {
	const nothing = {
		...soda,
		profile: { ...soda.profile, composition: { recipe: { salt: 'Xx9', gramsPerL: 80 } } }
	};
	expect(pourableOf([nothing])).toEqual([]);
});
