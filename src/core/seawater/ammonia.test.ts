import { describe, expect, it } from 'vitest';
import { ammonia, pKofAmmonium, unionised } from './ammonia';

const good = (request: Parameters<typeof ammonia>[0]) => {
	const outcome = ammonia(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

describe('un-ionised ammonia', () => {
	it('has the pK of pure water at 25 C, and falls by about 0.03 a degree', () => {
		// Bates and Pinching 1949: 9.245 at 25 C, 10.081 at 0 C.
		expect(pKofAmmonium(25, 0)).toBeCloseTo(9.245, 2);
		expect(pKofAmmonium(0, 0)).toBeCloseTo(10.08, 2);
		expect((pKofAmmonium(20, 35) - pKofAmmonium(25, 35)) / 5).toBeCloseTo(0.0314, 2);
	});

	it('is near what tables by another author give for sea water', () => {
		// Bower and Bidwell 1978 (by Khoo et al. 1977), 32-40 g/kg, NBS: 5.28 % at pH 8.1 and 25 C, 1.39 % at 7.5.
		const beside = (ph: number, table: number) =>
			unionised(1, 'mg/L NH3', { ph, temperatureC: 25, salinity: 35 }) / (table / 100);
		for (const ratio of [beside(8.1, 5.28), beside(7.5, 1.39)])
			expect(Math.abs(ratio - 1)).toBeLessThan(0.06);
	});

	it('carries the error of pH through the slope, and needs no other', () => {
		const base = { total: 1, unit: 'mg/L NH4' as const, ph: 8.2, temperatureC: 25, salinity: 35 };
		const none = { total: 0, ph: 0, temperatureC: 0, salinity: 0 };
		const by = (ph: number) => good({ ...base, ph, standardUncertainty: none }).unionised.value;
		const slope = (by(8.21) - by(8.19)) / 0.02;
		const { unionised: part } = good({ ...base, standardUncertainty: { ...none, ph: 0.05 } });
		expect(part.standardUncertainty).toBeCloseTo(0.05 * slope, 4);
		expect(good({ ...base, standardUncertainty: none }).unionised.standardUncertainty).toBeCloseTo(0, 9);
		// The total scale reads lower than a pen on NBS buffers.
		expect(good({ ...base, scale: 'total' }).unionised.value).toBeGreaterThan(part.value);
	});
});
