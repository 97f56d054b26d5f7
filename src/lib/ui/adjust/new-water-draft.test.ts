import { expect, it } from 'vitest';
import { changeShown, newWaterKept, waterChangeOf, waterOf, type NewWaterDraft } from './new-water-draft';

const draft = (more: Partial<NewWaterDraft>): NewWaterDraft => ({
	water: { alkalinity: '7,8', calcium: '430 ppm', magnesium: ' ' },
	largest: '15',
	every: '10',
	cost: '0.2',
	...more
});

it('is saved in own units, without what was not typed', () => {
	expect(waterChangeOf(draft({}))).toEqual({
		ok: true,
		value: { water: { alkalinity: 7.8, calcium: 430 }, largestFraction: 0.15, everyDays: 10, costPerL: 0.2 }
	});
	expect(waterChangeOf(draft({ cost: '' }))).not.toHaveProperty('value.costPerL');
	const kept = { water: { alkalinity: 7.8 }, largestFraction: 0.15, everyDays: 10, costPerL: 0.2 };
	expect(waterChangeOf(newWaterKept(kept))).toEqual({ ok: true, value: kept });
});

it.each([
	['/water/calcium', { water: { calcium: 'much' } }],
	['/largest', { largest: '91' }],
	['/largest', { largest: '' }],
	['/every', { every: '2.5' }],
	['/every', { every: '61' }],
	['/water/calcium', { water: { calcium: '-1' } }],
	['/cost', { cost: '-1' }],
	['/cost', { cost: '5000' }],
	['/cost', { cost: 'x' }]
])('says at %s what is wrong with %j', (path, more) => {
	const made = waterChangeOf(draft(more));
	expect(made.ok ? [] : made.problems.map((p) => p.path)).toEqual([path]);
});

it('says all that is wrong at once, and shows the usual change until it is mended', () => {
	const wrong = draft({ water: { alkalinity: '-' }, largest: 'x', every: '0', cost: '-1' });
	const made = waterChangeOf(wrong);
	expect(made.ok ? [] : made.problems.map((p) => p.path)).toEqual([
		'/water/alkalinity',
		'/largest',
		'/every',
		'/cost'
	]);
	expect(changeShown(wrong)).toEqual({ percent: 20, everyDays: 7 });
	expect(changeShown(draft({}))).toEqual({ percent: 15, everyDays: 10 });
	expect(waterOf({ alkalinity: '7.8', calcium: 'x' })).toMatchObject({
		water: { alkalinity: 7.8 },
		wrong: [{}]
	});
});
