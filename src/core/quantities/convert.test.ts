import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { density, salinityFromConductivity, specificGravity } from '../catalogue';
import { QUANTITIES, UNITS, convert } from '.';

const value = (quantity: string, v: number, from: string, to: string) => {
	const result = convert({ quantity, value: v, from, to });
	if (!result.ok) throw new Error(JSON.stringify(result.problems));
	return result.value.value;
};

describe('convert', () => {
	// By hand, from CaO 56.077, CaCO3 100.086, NO3 62.004, PO4 94.970 g/mol.
	it.each([
		['alkalinity', 1, 'dKH', 'meq/L', 20 / 56.077],
		['alkalinity', 8, 'dKH', 'ppm CaCO3', (80 * 100.086) / 56.077],
		['calcium', 10, 'mmol/L', 'mg/L', 400.78],
		['nitrate', 1, 'mg/L NO3-N', 'mg/L NO3', 62.004 / 14.007],
		['phosphate', 38, 'ug/L P', 'mg/L PO4', (0.038 * 94.97) / 30.974],
		['ammonia', 1, 'mg/L NH-N', 'mg/L NH3', 17.031 / 14.007],
		['temperature', 77, 'F', 'C', 25],
		['volume', 1, 'US gal', 'L', 3.785411784],
		['mass', 1, 'lb', 'g', 453.59237]
	])('%s: %d %s', (quantity, v, from, to, expected) => {
		expect(value(quantity, v, from, to)).toBeCloseTo(expected, 9);
	});

	it('meets the printed check values of UNESCO 44 at one atmosphere', () => {
		expect(density(35, 5)).toBeCloseTo(1027.67547, 4);
		expect(density(35, 25)).toBeCloseTo(1023.34306, 4);
		expect(density(0, 25)).toBeCloseTo(997.04796, 4);
		expect(density(0, 5)).toBeCloseTo(999.96675, 4);
		expect(salinityFromConductivity(42.914, 15)).toBeCloseTo(35, 6);
		expect(specificGravity(35, 25)).toBeCloseTo(1.0264, 4);
		expect(value('salinity', 0, 'mS/cm 25C', 'PSU')).toBeCloseTo(0, 6);
	});

	it('goes there and back in every unit', () => {
		for (const quantity of QUANTITIES)
			for (const a of UNITS[quantity])
				for (const b of UNITS[quantity])
					fc.assert(
						fc.property(fc.double({ min: 1, max: 14, noNaN: true }), (base) => {
							const v = a.fromBase(base);
							const back = value(quantity, value(quantity, v, a.name, b.name), b.name, a.name);
							expect(Math.abs(back - v)).toBeLessThan(1e-6 * Math.max(1, Math.abs(v)));
						}),
						{ numRuns: 20 }
					);
	});

	it.each([
		['tea', 1, 'L', 'mL', '/quantity'],
		['calcium', 1, 'dKH', 'mg/L', '/from'],
		['calcium', 1, 'mg/L', 'dKH', '/to'],
		['calcium', -1, 'mg/L', 'mmol/L', '/value'],
		['salinity', 51, 'PSU', 'SG 25/25', '/value'],
		['salinity', NaN, 'PSU', 'SG 25/25', '/value']
	])('says what is wrong with %s %d %s to %s', (quantity, v, from, to, path) => {
		const result = convert({ quantity, value: v, from, to });
		expect(result.ok ? [] : result.problems.map((p) => p.path)).toEqual([path]);
	});
});
