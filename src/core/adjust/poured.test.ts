import { describe, expect, it } from 'vitest';
import { dosingEvents, pourEvents, saltEvents } from './poured';
import type { Supplement } from './supplement';

const bottle = (
	composition: Supplement['composition'],
	kind: Supplement['kind'] = 'solution'
): Supplement => ({
	format: 'tevrik.supplement/1',
	id: 'b',
	name: 'Bottle',
	kind,
	composition
});
const LITRES = 100;

describe('a pour as events', () => {
	it('moves its own level first, with what was poured', () => {
		// 147.01 g of CaCl2·2H2O are a mole: 40.078 g of calcium in a litre, 10 mL of it in 100 L bring 4.0 mg/L.
		const [calcium, ...beside] = pourEvents(
			bottle({ recipe: { salt: 'CaCl2.2H2O', gramsPerL: 147.01, purity: 1 } }),
			10,
			LITRES
		);
		expect(calcium).toMatchObject({ kind: 'dose', parameter: 'calcium', amountMl: 10, supplementId: 'b' });
		expect((calcium as { change: number }).change).toBeCloseTo(4.0, 1);
		expect(beside).toEqual([]);
	});
	it('names what else it moves where that is worth a line, with no amount of its own', () => {
		// Sea salt would be another case: potassium by its nitrate moves nitrate, and that is more than its healthy day.
		const events = pourEvents(bottle({ recipe: { salt: 'KNO3', gramsPerL: 100 } }), 20, LITRES);
		expect(events.map((e) => (e as { parameter: string }).parameter).sort()).toEqual([
			'nitrate',
			'potassium'
		]);
		expect(events.filter((e) => 'amountMl' in e)).toHaveLength(1);
	});
	it('of salt raises salinity, and the ions with it as the sea has them', () => {
		// 100 g of mix hold 90 g; a PSU is 1.0281 g in a litre: 0.875 PSU in 100 L, a fortieth of the sea’s 35.
		const changes = Object.fromEntries(
			saltEvents(100, LITRES).map((e) => (e.kind === 'dose' ? [e.parameter, e.change] : []))
		);
		expect(changes['salinity']).toBeCloseTo(0.875, 2);
		expect(changes['calcium']).toBeCloseTo((412 * 1.0233) / 40, 1);
		expect(changes['magnesium']).toBeCloseTo((1284 * 1.0233) / 40, 1);
		expect(changes['alkalinity']).toBeCloseTo(6.6 / 40, 2);
	});
	it('counts a powder by weight', () => {
		const [soda] = pourEvents(bottle({ recipe: { salt: 'NaHCO3' } }, 'powder'), 3, LITRES);
		expect(soda).toMatchObject({ parameter: 'alkalinity', amountG: 3 });
	});
	it('is nothing where the bottle cannot be read', () => {
		expect(pourEvents(bottle({ recipe: { salt: 'NaHCO3', gramsPerL: 900 } }), 3, LITRES)).toEqual([]);
	});
});

describe('a dosing pump’s rate as events', () => {
	const nitre = bottle({ recipe: { salt: 'KNO3', gramsPerL: 100 } });
	it('names the same levels at every rate, so that a lower one or none ends what a higher one began', () => {
		const of = (rate: number) =>
			dosingEvents(nitre, rate, LITRES).map((e) => (e as { parameter: string }).parameter);
		expect(of(50)).toEqual(of(0.001));
		expect(of(0)).toEqual(of(50));
		expect(dosingEvents(nitre, 0, LITRES).every((e) => e.kind === 'dosing' && e.perDay === 0)).toBe(true);
	});
	it('carries the rate once, so that the bottle is counted once', () => {
		const rates = dosingEvents(nitre, 12, LITRES).flatMap((e) => ('mlPerDay' in e ? [e.mlPerDay] : []));
		expect(rates).toEqual([12]);
	});
});
