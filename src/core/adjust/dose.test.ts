import { describe, expect, it } from 'vitest';
import { healthyOf, dose } from './dose';
import type { Supplement } from './supplement';

const solution = (salt: string, gramsPerL: number): Supplement => ({
	format: 'tevrik.supplement/1',
	id: salt,
	name: salt,
	kind: 'solution',
	composition: { recipe: { salt, gramsPerL, purity: 1 } },
	pricePerUnit: 0.01
});
const volume = { value: 200, standardUncertainty: 10 };

describe('dose', () => {
	it('weighs what a hand weighs: 3 g of bicarbonate for half a dKH in 100 L twice over', () => {
		const its = dose({
			supplement: solution('NaHCO3', 80),
			volume,
			change: { parameter: 'alkalinity', value: 0.5, unit: 'dKH' }
		});
		if (!its.ok) throw new Error();
		// 0.5 dKH · 200 L / 2.8039 dKH per meq/L · 84.007 mg/meq = 2996 mg; 80 mg in a mL.
		expect(its.value.amount.value).toBeCloseTo(2996 / 80, 2);
		// Strength 2 %, volume 5 %.
		expect(its.value.amount.standardUncertainty / its.value.amount.value).toBeCloseTo(
			Math.hypot(0.02, 0.05),
			6
		);
		expect(its.value.days).toBe(1);
		expect(its.value.cost).toBeCloseTo(0.3745, 3);
	});
	it('goes both ways, in any unit', () => {
		const there = dose({
			supplement: solution('CaCl2.2H2O', 150),
			volume,
			change: { parameter: 'calcium', value: 1, unit: 'mmol/L' }
		});
		if (!there.ok) throw new Error();
		const back = dose({ supplement: solution('CaCl2.2H2O', 150), volume, amount: there.value.amount.value });
		expect(back.ok && back.value.change.value).toBeCloseTo(40.078, 6);
		expect(there.value.days).toBe(Math.ceil(40.078 / 20));
	});
	it('takes as many days as the slowest of all that it moves', () => {
		const its = dose({
			supplement: solution('Ca(OH)2', 1.5),
			volume,
			change: { parameter: 'calcium', value: 20, unit: 'mg/L' }
		});
		if (!its.ok) throw new Error();
		// A healthy day of calcium comes with 2 · 20 / 40.078 meq/L, 2.8 dKH.
		expect(its.value.days).toBe(Math.ceil((((2 * 20) / 40.078) * 2.8039) / healthyOf('alkalinity')!));
		expect(its.value.days).toBeGreaterThan(3);
	});
	it('tells what it leaves behind', () => {
		const its = dose({ supplement: solution('CaCl2.2H2O', 150), volume, amount: 1000 });
		if (!its.ok) throw new Error();
		const of = (name: string) => its.value.sideEffects.find((e) => e.parameter === name)?.value;
		// 150 g in 200 L: 0.75 g/L, of it 48.2 % chloride.
		expect(of('chloride')).toBeCloseTo(750 * (70.9 / 147.01), 1);
		expect(of('salinity')).toBeCloseTo((0.75 * (110.98 / 147.01)) / 1.02813, 2);
	});
	it('portions what falls out or swings pH: bicarbonate at once, hydroxide in parts, lime by drip', () => {
		const portionsOf = (supplement: Supplement, value: number) => {
			const its = dose({ supplement, volume, change: { parameter: 'alkalinity', value, unit: 'dKH' } });
			return its.ok ? its.value.portions : NaN;
		};
		expect(portionsOf(solution('NaHCO3', 80), 0.5)).toBe(1);
		const hydroxide = portionsOf(solution('NaOH', 40), 0.5);
		expect(hydroxide).toBeGreaterThanOrEqual(3);
		// More water to pour into needs fewer; a whole dKH is poured over two days anyway.
		expect(portionsOf(solution('NaOH', 40), 1)).toBe(hydroxide);
	});
	it('lowers pH by bicarbonate and raises it by carbonate and most by hydroxide', () => {
		const after = (salt: string, gramsPerL: number) => {
			const its = dose({
				supplement: solution(salt, gramsPerL),
				volume,
				change: { parameter: 'alkalinity', value: 0.2, unit: 'dKH' }
			});
			return (its.ok && its.value.afterPortion?.ph) || NaN;
		};
		const [bicarbonate, carbonate, hydroxide] = [
			after('NaHCO3', 80),
			after('Na2CO3', 100),
			after('NaOH', 40)
		];
		expect(bicarbonate).toBeLessThan(8.1);
		expect(carbonate).toBeGreaterThan(8.1);
		expect(hydroxide).toBeGreaterThan(carbonate);
	});
	it('lasts as long as stock and use say', () => {
		const its = dose({ supplement: solution('KCl', 100), volume, amount: 10, stock: 500, usedPerDay: 20 });
		expect(its.ok && its.value.lastsDays).toBe(25);
	});
	it('refuses what it cannot do, beside its place', () => {
		const supplement = solution('KCl', 100);
		const paths = (request: object) => {
			const its = dose({ supplement, volume, ...request } as never);
			return its.ok ? 'ok' : its.problems[0]?.path;
		};
		expect(paths({})).toBe('');
		expect(paths({ amount: 1, change: { parameter: 'potassium', value: 1, unit: 'mg/L' } })).toBe('');
		expect(paths({ change: { parameter: 'calcium', value: 1, unit: 'mg/L' } })).toBe('/change/parameter');
		expect(paths({ change: { parameter: 'potassium', value: 1, unit: 'dKH' } })).toBe('/change/unit');
		expect(paths({ amount: 1, supplement: solution('KCl', 900) })).toBe(
			'/supplement/composition/recipe/gramsPerL'
		);
	});
});
