import { expect, it } from 'vitest';
import { labelIn } from './label-sentence';

it.each([
	['1 mL in 100 L raises alkalinity by 0.25 dKH', 1, 'mL', 100, 'alkalinity', 0.25, 'dKH'],
	['10 ml per 25 gal raises calcium by 3,5 mg/L', 10, 'mL', 94.64, 'calcium', 3.5, 'mg/L'],
	['5 ml to 50 litres increases magnesium 10 ppm', 5, 'mL', 50, 'magnesium', 10, 'mg/L'],
	['2,5 g in 100 l: 1 dKH', 2.5, 'g', 100, 'alkalinity', 1, 'dKH'],
	['1 g for 100 L adds 0.5 meq/L', 1, 'g', 100, 'alkalinity', 0.5, 'meq/L'],
	['1 mL in 100 L raises alkalinity by 4.5 ppm', 1, 'mL', 100, 'alkalinity', 4.5, 'ppm CaCO3'],
	['1 mL in 10 L raises nitrate by 1 ppm', 1, 'mL', 10, 'nitrate', 1, 'mg/L NO3']
])('%s', (text, amount, unit, waterL, parameter, value, its) => {
	const label = labelIn(text);
	expect(label).toMatchObject({
		ok: true,
		value: {
			amount,
			unit,
			waterL: expect.closeTo(waterL, 2) as number,
			raises: { parameter, value, unit: its }
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
