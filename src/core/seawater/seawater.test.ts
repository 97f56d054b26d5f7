import { describe, expect, it } from 'vitest';
import { k0, k1, k2, kb, kspAragonite, kspCalcite, kw, totalBoron } from './constants';
import { seawater, type SeawaterRequest } from '.';

const run = (request: SeawaterRequest) => {
	const result = seawater(request);
	if (!result.ok) throw new Error(JSON.stringify(result.problems));
	return result.value;
};
const STANDARD: SeawaterRequest = {
	salinity: { value: 35, unit: 'PSU' },
	temperatureC: 25,
	ph: 8.1,
	// 2300 µmol/kg and 412 mg/kg at 1.02334 kg/L.
	alkalinity: { value: 2.3 * 1.02334306, unit: 'meq/L' },
	calcium: 412 * 1.02334306
};

describe('seawater', () => {
	it('meets the printed check values at 35 PSU and 25 °C', () => {
		expect(Math.log10(k1(35, 25))).toBeCloseTo(-5.8472, 4);
		expect(Math.log10(k2(35, 25))).toBeCloseTo(-8.966, 4);
		expect(Math.log(kb(35, 25))).toBeCloseTo(-19.7964, 4);
		expect(Math.log(kw(35, 25))).toBeCloseTo(-30.434, 3);
		expect(Math.log(k0(35, 25))).toBeCloseTo(-3.5617, 4);
		expect(Math.log10(kspAragonite(35, 25))).toBeCloseTo(-6.1883, 3);
		expect(Math.log10(kspCalcite(35, 25))).toBeCloseTo(-6.3693, 3);
		expect(totalBoron(35)).toBeCloseTo(0.000416, 6);
	});

	it('describes standard sea water', () => {
		const r = run(STANDARD);
		expect(r.densityKgM3).toBeCloseTo(1023.343, 3);
		expect(r.sg['25/25']).toBeCloseTo(1.02637, 5);
		expect(r.conductivity25).toBeCloseTo(53.06, 2);
		// By hand from the constants above: borate 97.4, OH 5.6 µmol/kg at pH 8.1.
		const h = 10 ** -8.1;
		const carbonate = 2300e-6 - (totalBoron(35) * kb(35, 25)) / (kb(35, 25) + h) - kw(35, 25) / h + h;
		const co3 = carbonate / (h / k2(35, 25) + 2);
		expect(r.carbonate!.co3).toBeCloseTo(co3 * 1e6, 2);
		expect(r.carbonate!.dic).toBeGreaterThan(1900);
		expect(r.carbonate!.dic).toBeLessThan(2100);
		expect(r.carbonate!.omegaAragonite).toBeCloseTo(((412 / 40.078 / 1000) * co3) / kspAragonite(35, 25), 4);
		expect(r.carbonate!.pco2).toBeGreaterThan(300);
		expect(r.carbonate!.pco2).toBeLessThan(450);
	});

	it('scales ions to 35 PSU, whatever the unit salinity came in', () => {
		const low = run({
			salinity: { value: 1.0226, unit: 'SG 25/25' },
			temperatureC: 25,
			calcium: 360,
			magnesium: 1100
		});
		expect(low.practicalSalinity).toBeCloseTo(30.06, 1);
		expect(low.at35['calcium']).toBeCloseTo((360 * 35) / low.practicalSalinity, 9);
		expect(run({ salinity: { value: 0, unit: 'PSU' }, temperatureC: 20, calcium: 40 }).at35).toEqual({});
	});

	it.each<[Partial<SeawaterRequest>, string]>([
		[{ salinity: { value: 51, unit: 'PSU' } }, '/salinity/value'],
		[{ salinity: { value: 35, unit: 'spoons' } }, '/salinity/unit'],
		[{ calcium: { value: 8, unit: 'dKH' } }, '/calcium/unit'],
		[{ salinity: { value: 10, unit: 'PSU' } }, '/salinity'],
		[{ ph: 10.8, alkalinity: 0.5 }, '/ph']
	])('says what is wrong with %j', (part, path) => {
		const result = seawater({ ...STANDARD, ...part });
		expect(result.ok ? [] : result.problems.map((p) => p.path)).toEqual([path]);
	});
});

it('carries the errors of a pen and two kits into saturation and carbon dioxide', () => {
	const water = {
		salinity: { value: 35, unit: 'PSU' },
		temperatureC: 25,
		ph: 8.1,
		alkalinity: 8,
		calcium: 420
	};
	const of = (more: object) => {
		const outcome = seawater({ ...water, ...more });
		if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
		return outcome.value.carbonate!;
	};
	const none = { ph: 0, alkalinity: 0, calcium: 0, salinity: 0, temperatureC: 0 };
	const { standardUncertainty: u } = of({ standardUncertainty: { ...none, ph: 0.05 } });
	const slope = (name: 'omegaAragonite' | 'pco2') =>
		Math.abs(of({ ph: 8.11 })[name]! - of({ ph: 8.09 })[name]!) / 0.02;
	expect(u!['omegaAragonite']! / (0.05 * slope('omegaAragonite'))).toBeCloseTo(1, 2);
	expect(u!['pco2']! / (0.05 * slope('pco2'))).toBeCloseTo(1, 2);
	// Calcium goes straight into saturation: a fortieth of one is a fortieth of the other.
	const calcium = of({ standardUncertainty: { ...none, calcium: 10.5 } });
	expect(calcium.standardUncertainty!['omegaAragonite']! / calcium.omegaAragonite!).toBeCloseTo(0.025, 4);
	expect(of({ phScale: 'NBS', ph: 8.23 }).pco2).toBeCloseTo(of({}).pco2, 6);
});
