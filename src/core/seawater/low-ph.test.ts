import { expect, it } from 'vitest';
import { carbonateSystem } from './seawater';
import { phOf } from './carbon';
import { lowPh } from './low-ph';

const water = { salinity: 35, temperatureC: 25 };
const verdict = (ph: number, alkalinity: number, u = 0.06) => {
	const its = lowPh({ ...water, ph, alkalinity, standardUncertainty: { ph: u } });
	return its.ok ? its.value.verdict : its.problems;
};

it('finds back the pH from what a pH says of carbon, over all waters', () => {
	for (const s of [20, 30, 35, 42])
		for (const ph of [7.4, 7.9, 8.2, 8.6, 9.2])
			for (const dkh of [4, 7, 12]) {
				const its = carbonateSystem({ s, t: 25, ph, dkh, calcium: undefined })!;
				expect(phOf({ s, t: 25, dkh }, 'dic', its.dic)).toBeCloseTo(ph, 6);
				expect(phOf({ s, t: 25, dkh }, 'pco2', its.pco2)).toBeCloseTo(ph, 6);
			}
});

it('low pH with fine alkalinity is the room’s air; with little alkalinity it is that', () => {
	expect(verdict(8.15, 8)).toBe('not-low');
	expect(verdict(7.7, 8)).toBe('carbon-dioxide');
	expect(verdict(7.75, 3, 0.02)).toBe('alkalinity');
	expect(verdict(7.4, 3)).toBe('both');
});

it('is unsure where a pen can be so far off', () => {
	expect(verdict(7.79, 5, 0.4)).not.toBe('carbon-dioxide');
	const its = lowPh({ ...water, ph: 7.75, alkalinity: 8 });
	// A water of that alkalinity in fresh air has about 8.1 on the total scale, 8.2 to a pen.
	expect(its.ok && its.value.inFreshAir).toBeCloseTo(8.22, 2);
});
