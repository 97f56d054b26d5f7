import { describe, expect, it } from 'vitest';
import { type Method } from '../instruments';
import { SHIPPED_METHODS, checkMethod, expressedIn, read, type Measured } from '.';
import { SYRINGE, TABLE, run, paths } from '../../../tests/support/readings';

describe('other instruments', () => {
	const shades = (values: number[]): Method => ({
		format: 'tevrik.method/1',
		id: 'no3-card',
		name: 'Nitrate card',
		parameter: 'nitrate',
		unit: 'mg/L NO3',
		reads: 'shades',
		shades: values
	});
	it('counts drops, with or without the confirming one', () => {
		const kit = (countConfirming: boolean): Method => ({
			format: 'tevrik.method/1',
			id: 'ca-drops',
			name: 'Calcium drops',
			parameter: 'calcium',
			unit: 'mg/L',
			reads: 'drops',
			countConfirming,
			scale: { kind: 'linear', perDrop: 15 }
		});
		expect(run(kit(true), { drops: 28, confirming: 1 }).value).toBeCloseTo(28 * 15, 9);
		expect(run(kit(false), { drops: 28, confirming: 1 }).value).toBeCloseTo(27 * 15, 9);
		expect(run({ ...kit(true), endPoint: 'mid-drop' } as Method, { drops: 28 }).value).toBeCloseTo(412.5, 9);
		// A doubtful drop is anything between none and whole.
		expect(run(kit(true), { drops: 28, doubtful: 2 }).value).toBeCloseTo(27 * 15, 9);
		const sure = run(kit(true), { drops: 28 });
		const doubtful = run(kit(true), { drops: 28, doubtful: 1 });
		expect(doubtful.standardUncertainty).toBeGreaterThan(sure.standardUncertainty!);
		expect(paths({ method: kit(true), reading: { drops: 2, confirming: 3 } })).toEqual([
			'/reading/confirming'
		]);
	});
	it('matches shades, between them, below and above them', () => {
		const card = shades([0, 1, 3, 6, 12]);
		expect(run(card, { shade: 3 }).value).toBe(3);
		expect(run(card, { between: [1, 3], position: 0.5 })).toMatchObject({ value: 2, qualifier: '=' });
		expect(run(card, { between: [1, 3] })).toMatchObject({
			value: 2,
			qualifier: 'between',
			interval: [1, 3]
		});
		expect(run(card, { below: 1 })).toMatchObject({ value: null, qualifier: '<', interval: [0, 1] });
		expect(run(card, { above: 12, dilution: { sampleMl: 1, waterMl: 15 } })).toMatchObject({
			qualifier: '>',
			interval: [192, null]
		});
		// Symmetric triangle of half-width 2, the whole gap, has variance 4/6; half of it stays with the eye.
		const matched = run(shades([0, 2, 4]), { shade: 2 });
		expect(matched.standardUncertainty).toBeCloseTo(Math.sqrt(4 / 6), 12);
		expect(matched.trueness).toBeCloseTo(Math.sqrt(2 / 6), 12);
		// A place between two shades is never outside them.
		expect(run(card, { between: [1, 3], position: 0.9 }).interval).toEqual([expect.any(Number), 3]);
		expect(paths({ method: card, reading: { shade: 4 } })).toEqual(['/reading/shade']);
		expect(paths({ method: shades([0, 3, 1]), reading: { shade: 3 } })).toEqual(['/method/shades/2']);
	});
	it('counts a dilution once: not again beside a column that is of the diluted sample', () => {
		const card = SHIPPED_METHODS.find((m) => m.id === 'no3-card')! as Extract<Method, { reads: 'shades' }>;
		const [high] = card.columns!;
		const dilution = { sampleMl: 1, waterMl: 9 };
		const shade = high!.shades[3]!;
		expect(run(card, { shade, column: high!.name }).value).toBe(shade);
		expect(paths({ method: card, reading: { shade, column: high!.name, dilution } })).toEqual([
			'/reading/dilution'
		]);
		expect(run(card, { shade: card.shades[3]!, dilution }).value).toBeCloseTo(10 * card.shades[3]!, 9);
	});
	it('converts what a meter shows and carries its errors over', () => {
		const meter: Method = {
			format: 'tevrik.method/1',
			id: 'alk-meter',
			name: 'Alkalinity meter',
			parameter: 'alkalinity',
			unit: 'dKH',
			reads: 'display',
			display: { resolution: 1, absolute: 5, relative: 0.05, unit: 'ppm CaCO3' }
		};
		const r = run(meter, { shown: 143 });
		const perDegree = (10 * 100.086) / 56.077;
		expect(r.value).toBeCloseTo(143 / perDegree, 9);
		expect(r.trueness).toBeCloseTo(Math.hypot(5, 0.05 * 143) / Math.sqrt(3) / perDegree, 6);
	});
	it('scatters by half of a meter’s promise where each test takes a new vial and reagent, and by the last digit where none does', () => {
		const meter = SHIPPED_METHODS.find((m) => m.id === 'po4-meter')! as Extract<Method, { reads: 'display' }>;
		const its = { ...meter, display: { ...meter.display, absolute: 20, relative: 0 } };
		const [one, other] = [21, 23].map((shown) => run(its, { shown }));
		// Two tests of one water, 21 and 23 of ± 20: less apart than noise makes them.
		expect(
			Math.abs(other!.value! - one!.value!) / Math.hypot(one!.repeatability!, other!.repeatability!)
		).toBeLessThan(1);
		expect(one!.repeatability! / one!.trueness!).toBeCloseTo(1, 2);
		const dry = run({ ...its, steps: [] }, { shown: 21 });
		expect(dry.standardUncertainty).toBeCloseTo(one!.standardUncertainty!, 6);
		expect(dry.repeatability).toBeLessThan(0.1 * one!.repeatability!);
	});
	it('takes one answer away from another, and says so when nothing is left', () => {
		const difference: Method = {
			format: 'tevrik.method/1',
			id: 'mg',
			name: 'Magnesium by difference',
			parameter: 'magnesium',
			unit: 'mg/L',
			reads: 'syringe',
			syringe: { fillMl: 1, graduationMl: 0.01, readAs: 'used' },
			scale: { kind: 'linear', perMl: 3000 },
			takeAway: { parameter: 'calcium', times: 0.6 }
		};
		const other = { calcium: { value: 420, standardUncertainty: 8 } };
		const r = run(difference, { used: 0.5 }, { other });
		expect(r.value).toBeCloseTo(1500 - 252, 9);
		const taken = (m: Measured, kind: 'repeatability' | 'trueness') =>
			m.budget.find((b) => b.source.startsWith('calcium taken away') && b.kind === kind)?.standardUncertainty;
		// Half by variance stays with the calcium kit, or as much as is said.
		expect(taken(r, 'trueness')).toBeCloseTo(4.8 / Math.SQRT2, 9);
		const known = { calcium: { ...other.calcium, trueness: 6 } };
		expect(taken(run(difference, { used: 0.5 }, { other: known }), 'trueness')).toBeCloseTo(3.6, 9);
		expect(taken(run(difference, { used: 0.5 }, { other: known }), 'repeatability')).toBeCloseTo(
			Math.sqrt(4.8 ** 2 - 3.6 ** 2),
			9
		);
		// Around nothing it is a bound; further below it is a problem, not an interval of nothing.
		expect(run(difference, { used: 0.082 }, { other })).toMatchObject({ value: null, qualifier: '<' });
		const none = read({ method: difference, reading: { used: 0.05 }, other });
		expect(!none.ok && none.problems[0]!.message).toContain('leaves less than nothing');
		// One sample and one titrant for both: what those are off by counts for the difference alone.
		const own: Method = {
			...difference,
			samples: [{ id: 'full', ml: 5, times: 1 }],
			uncertainty: { sampleRelative: 0.03, titrantRelative: 0.02 }
		};
		const apart = run(own, { used: 0.5 }, { other: { calcium: { value: 2000, standardUncertainty: 80 } } });
		const shared = run(
			own,
			{ used: 0.5 },
			{ other: { calcium: { value: 2000, standardUncertainty: 80, shared: true } } }
		);
		expect(shared.standardUncertainty).toBeLessThan(0.5 * apart.standardUncertainty!);
	});
	it('carries errors of sample and titrant along the chart, however it bends', () => {
		const curve: Method = {
			...TABLE,
			scale: {
				kind: 'table',
				by: 'used',
				points: [
					[0, 0],
					[0.5, 8],
					[1, 20]
				]
			}
		};
		const part = (m: Measured, source: string) =>
			m.budget.find((b) => b.source === source)!.standardUncertainty;
		// At 0.75 mL a dKH is 1/24 mL: a hundredth of 0.75 mL is 0.18 dKH, more than a hundredth of 14.
		expect(part(run(curve, { used: 0.75 }), 'titrant strength')).toBeCloseTo(0.01 * 0.75 * 24, 9);
		// Titrated back, little titrant means much: its strength weighs on what was used, the sample on what was missing.
		const back: Method = {
			...TABLE,
			scale: {
				kind: 'table',
				by: 'used',
				points: [
					[0, 20],
					[1, 0]
				]
			}
		};
		const r = run(back, { used: 0.2 });
		expect(part(r, 'titrant strength')).toBeCloseTo(0.01 * 0.2 * 20, 9);
		expect(part(r, 'sample volume')).toBeCloseTo((0.015 * 0.8 * 20) / Math.SQRT2, 9);
	});
	it('knows that small volumes are off by more, in the sample and in a dilution', () => {
		const drawn = (ml: number, uncertainty: Method['uncertainty']): number => {
			const m: Method = {
				...SYRINGE,
				samples: [{ id: 'full', ml, times: 1 }],
				...(uncertainty ? { uncertainty } : {})
			};
			const r = run(m, { used: 0.5 });
			return r.budget.find((b) => b.source === 'sample volume')!.standardUncertainty / r.value!;
		};
		expect(drawn(1, {})).toBeCloseTo(0.01 / Math.SQRT2, 6);
		expect(drawn(5, {})).toBeCloseTo(0.06 / 5 / Math.SQRT2, 6);
		expect(drawn(5, { volumeMl: 0.1, sampleRelative: 0.01 })).toBeCloseTo(
			Math.hypot(0.02, 0.01) / Math.SQRT2,
			6
		);
		// 1 mL with 15 mL, drawn with anything: 0.05 mL once and three times, through 1 + 15/1.
		const diluted = run(SYRINGE, { used: 0.2, dilution: { sampleMl: 1, waterMl: 15 } });
		const share =
			diluted.budget.find((b) => b.source === 'diluting the sample')!.standardUncertainty / diluted.value!;
		expect(share).toBeCloseTo((15 / 16) * Math.hypot(0.05, (0.05 * Math.sqrt(3)) / 15), 6);
	});
});

describe('a hydrometer', () => {
	const hydrometer = SHIPPED_METHODS.find((m) => m.id === 'sg-hydrometer')!;
	it('is right at its own temperature and corrected elsewhere, and by its last check', () => {
		const at = (temperatureC: number) => run(hydrometer, { shown: 1.0264, temperatureC }).value!;
		expect(at(25)).toBeCloseTo(run(hydrometer, { shown: 1.0264 }).value!, 6);
		// Sea water of 35 PSU at 20 °C weighs 1024.763 kg/m³ (EOS-80), over 997.048 of pure water at 25 °C.
		expect(run(hydrometer, { shown: 1024.763 / 997.048, temperatureC: 20 }).value).toBeCloseTo(35, 2);
		expect(at(20)).toBeLessThan(at(25));
		const checked = run(hydrometer, { shown: 1.0244, calibration: { standard: 1.0264, shown: 1.0244 } });
		expect(checked.value).toBeCloseTo(run(hydrometer, { shown: 1.0264 }).value!, 6);
		expect(checked.standardUncertainty).toBeLessThan(run(hydrometer, { shown: 1.0264 }).standardUncertainty!);
	});
});

describe('expressedIn', () => {
	it('carries the error through a curved unit', () => {
		const sg = run(
			{
				format: 'tevrik.method/1',
				id: 'sg',
				name: 'Refractometer',
				parameter: 'salinity',
				unit: 'SG 25/25',
				reads: 'scale-line',
				display: { graduation: 0.001, unit: 'SG 25/25' }
			},
			{ shown: 1.0264 }
		);
		const psu = expressedIn(sg, 'salinity', 'PSU');
		expect(psu.value).toBeCloseTo(35.03, 1);
		// About 1325 PSU for a unit of specific gravity there.
		expect(psu.standardUncertainty! / sg.standardUncertainty!).toBeCloseTo(1325, -2);
	});
});

it('every method that ships can be read', () => {
	for (const method of SHIPPED_METHODS) expect(checkMethod(method), method.id).toEqual([]);
	expect(new Set(SHIPPED_METHODS.map((m) => m.id)).size).toBe(SHIPPED_METHODS.length);
});
