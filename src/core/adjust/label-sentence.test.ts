import { expect, it } from 'vitest';
import { label, labelIn } from './label-sentence';

it.each([
	['1 mL in 100 L raises alkalinity by 0.25 dKH', 1, 'mL', 100, 'alkalinity', 0.25, 'dKH'],
	['10 ml per 25 gal raises calcium by 3,5 mg/L', 10, 'mL', 94.64, 'calcium', 3.5, 'mg/L'],
	['5 ml to 50 litres increases magnesium 10 ppm', 5, 'mL', 50, 'magnesium', 10, 'mg/L'],
	['2,5 g in 100 l: 1 dKH', 2.5, 'g', 100, 'alkalinity', 1, 'dKH'],
	['1 g for 100 L adds 0.5 meq/L', 1, 'g', 100, 'alkalinity', 0.5, 'meq/L'],
	['1 mL in 100 L raises alkalinity by 4.5 ppm', 1, 'mL', 100, 'alkalinity', 4.5, 'ppm CaCO3'],
	['1 mL in 10 L raises nitrate by 1 ppm', 1, 'mL', 10, 'nitrate', 1, 'mg/L NO3'],
	// A thousand of water, however it is marked.
	['10 mL in 1,000 L raises calcium by 2 mg/L', 10, 'mL', 1000, 'calcium', 2, 'mg/L'],
	['10 mL in 1.000 L raises calcium by 2 mg/L', 10, 'mL', 1000, 'calcium', 2, 'mg/L'],
	['10 mL in 1 000 litres raises calcium by 2 mg/L', 10, 'mL', 1000, 'calcium', 2, 'mg/L'],
	['1.250,5 g in 2,000 L: 3.25 dKH', 1250.5, 'g', 2000, 'alkalinity', 3.25, 'dKH'],
	// Numbers that are none of it.
	['5 mL per 100 L (26 gal) raises Mg2+ by 4 ppm', 5, 'mL', 100, 'magnesium', 4, 'mg/L'],
	['At 25 C 1 mL in 50 L raises NO3 by 2 ppm, every 2 days', 1, 'mL', 50, 'nitrate', 2, 'mg/L NO3'],
	['2 % solution: 1 mL in 50 L raises K+ by 5 mg/L', 1, 'mL', 50, 'potassium', 5, 'mg/L'],
	['1 mL in 40 L raises pH by 0.1 and alkalinity by 0.3 dKH', 1, 'mL', 40, 'alkalinity', 0.3, 'dKH'],
	// The water first; the unit as it is written.
	['Per 100 L, 5 mL raise phosphate by 50 ppb P', 5, 'mL', 100, 'phosphate', 50, 'ug/L P'],
	['1 mL in 10 L adds 0.5 ppm NO3-N', 1, 'mL', 10, 'nitrate', 0.5, 'mg/L NO3-N'],
	['1 mL in 10 L adds 2 mg/l (NO3)', 1, 'mL', 10, 'nitrate', 2, 'mg/L NO3'],
	['1 mL in 10 L raises calcium by 2 mg per litre', 1, 'mL', 10, 'calcium', 2, 'mg/L'],
	['1 mL in 10 L raises alkalinity by 18 ppm CaCO3', 1, 'mL', 10, 'alkalinity', 18, 'ppm CaCO3'],
	['1 mL in 10 L raises calcium by 0.5 mmol/L', 1, 'mL', 10, 'calcium', 0.5, 'mmol/L']
])('%s', (text, amount, unit, waterL, parameter, value, its) => {
	expect(label({ sentence: text })).toMatchObject({
		ok: true,
		value: {
			label: {
				amount,
				unit,
				waterL: expect.closeTo(waterL, 2) as number,
				raises: { parameter, value, unit: its }
			}
		}
	});
});

it('asks for what a sentence does not say, or takes it from beside', () => {
	expect(labelIn('1 mL in 100 L raises 2 mg/L').ok).toBe(false);
	expect(labelIn('1 mL in 100 L raises 2 mg/L', 'potassium')).toMatchObject({
		ok: true,
		value: { raises: { parameter: 'potassium', unit: 'mg/L' } }
	});
	for (const wrong of ['', 'a drop in the ocean', '1 mL raises 2 dKH', '0 mL in 100 L raises 1 dKH'])
		expect(labelIn(wrong).ok, wrong).toBe(false);
});

it('understands capfuls by what they hold, and water that is named after what rises', () => {
	const said = (text: string) => {
		const found = labelIn(text);
		return found.ok
			? [found.value.amount, found.value.unit, found.value.waterL, found.value.raises.value]
			: found.problems[0]!.message;
	};
	expect(said('5 ml raises the alkalinity of 100 litres by 0.5 dKH')).toEqual([5, 'mL', 100, 0.5]);
	expect(said('One capful (5 mL) raises the alkalinity of 100 litres by 0.5 dKH')).toEqual([
		5,
		'mL',
		100,
		0.5
	]);
	expect(said('2 capfuls (10 ml) in 200 L raise calcium by 8 mg/L')).toEqual([10, 'mL', 200, 8]);
	expect(said('2 capfuls (5 ml each) in 200 L raise calcium by 8 mg/L')).toEqual([10, 'mL', 200, 8]);
	expect(said('1 level scoop (about 6 g) per 100 L raises magnesium by 12 ppm')).toEqual([6, 'g', 100, 12]);
	expect(said('1 capful raises the alkalinity of 100 litres by 0.5 dKH')).toMatch(/what a capful holds/);
	expect(said('a drop in the ocean')).toMatch(/^must say how much is poured, into how much water/);
});

it('gives both readings where there are two', () => {
	const made = (sentence: string, parameter?: string) => {
		const outcome = label({ sentence, ...(parameter ? { parameter } : {}) });
		if (!outcome.ok) throw new Error(outcome.problems[0]!.message);
		return outcome.value;
	};
	const thousands = made('1,500 mL in 100 L raises magnesium by 10 ppm');
	expect(thousands.asks).toEqual([
		{
			kind: 'number',
			readings: [1500, 1.5].map((amount) => expect.objectContaining({ amount, waterL: 100 }) as object)
		}
	]);
	const both = '10 mL in 100 L raises calcium by 10 mg/L and magnesium by 3 mg/L';
	expect(made(both).asks?.[0]).toMatchObject({
		kind: 'parameter',
		readings: [
			{ raises: { parameter: 'calcium', value: 10 } },
			{ raises: { parameter: 'magnesium', value: 3 } }
		]
	});
	expect(made(both, 'magnesium')).toMatchObject({ label: { raises: { value: 3 } } });
	expect(made(both, 'magnesium').asks).toBeUndefined();
});

it('asks where a sentence could be read in two ways, or says what is no rise', () => {
	const said = (text: string, parameter?: string) => {
		const found = labelIn(text, parameter);
		return found.ok ? found.value.raises : found.problems[0]!.message;
	};
	expect(said('1,500 mL in 100 L raises magnesium by 10 ppm')).toMatch(/1500 or 1.5/);
	expect(said('1 mL in 100 L lowers nitrate by 2 ppm')).toMatch(/lowers/);
	expect(said('1 mL in 100 L raises pH by 0.2')).toMatch(/in which unit/);
	expect(said('1 mL in 100 L raises calcium by 2 %')).toMatch(/in which unit/);
	expect(said('1 mL in 100 L raises calcium by 20 dKH', 'calcium')).toMatchObject({
		parameter: 'alkalinity'
	});
	// Each number belongs to the name beside it.
	const both = '10 mL in 100 L raises calcium by 10 mg/L and magnesium by 3 mg/L';
	expect(said(both)).toMatch(/choose one of them, calcium, magnesium/);
	expect(said(both, 'magnesium')).toEqual({ parameter: 'magnesium', value: 3, unit: 'mg/L' });
	expect(said(both, 'calcium')).toEqual({ parameter: 'calcium', value: 10, unit: 'mg/L' });
	expect(said('10 mL in 100 L: +10 ppm Ca, +3 ppm Mg', 'magnesium')).toMatchObject({ value: 3 });
});
