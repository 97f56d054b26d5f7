import fc from 'fast-check';
import { expect, it } from 'vitest';
import { convert } from './convert';
import { levelIn, slopeAt, valueIn } from './levels';
import { UNITS } from './units';

it.each([
	['alkalinity', 8, 'dKH', 'ppm CaCO3', 142.8, 17.85],
	['temperature', 25, 'C', 'F', 77, 1.8],
	['nitrate', 10, 'mg/L NO3', 'mg/L NO3-N', 2.259, 0.2259],
	// EOS-80 at 25 °C: 35 PSU is 1.0264, and 1 PSU there is 0.00075 of it.
	['salinity', 35, 'PSU', 'SG 25/25', 1.0264, 0.00075]
])('%s: %f %s in %s', (parameter, value, from, to, there, slope) => {
	expect(valueIn(parameter, value, from, to) / there).toBeCloseTo(1, 3);
	expect(slopeAt(parameter, value, from, to) / slope).toBeCloseTo(1, 1);
	const level = levelIn(parameter, { value, standardDeviation: 0.1 }, from, to);
	expect(level.standardDeviation / (0.1 * slope)).toBeCloseTo(1, 1);
});

it('comes back as it went, in every unit of every parameter, and leaves what it does not know as it is', () => {
	for (const [quantity, units] of Object.entries(UNITS))
		for (const from of units)
			for (const to of units)
				fc.assert(
					fc.property(fc.double({ min: 0.05, max: 0.95, noNaN: true }), (share) => {
						// Inside what such a unit can say: salinities to 45 PSU, pH to 14.
						const value = from.fromBase(({ salinity: 45, ph: 14 }[quantity] ?? 100) * share);
						const there = valueIn(quantity, value, from.name, to.name);
						expect(valueIn(quantity, there, to.name, from.name)).toBeCloseTo(value, 5);
						const product =
							slopeAt(quantity, value, from.name, to.name) * slopeAt(quantity, there, to.name, from.name);
						expect(product).toBeCloseTo(1, 2);
						expect(convert({ quantity, value, from: from.name, to: to.name }).ok).toBe(true);
					}),
					{ numRuns: 20 }
				);
	expect([valueIn('tea', 3, 'cup', 'pot'), slopeAt('tea', 3, 'cup', 'pot')]).toEqual([3, 1]);
	expect(valueIn('salinity', 900, 'PSU', 'SG 25/25')).toBe(900);
});
