import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { normal, uniform } from '../statistics';
import { ewmaOf, ruleAt } from './control';
import { reference } from './reference';
import type { ReferenceRequest, ReferenceResult } from './schema';

const round = (value: number, step: number) => Math.round(value / step) * step;
const DAY = 86_400_000;
const T0 = Date.parse('2026-01-05T18:00:00Z');
const at = (days: number) => new Date(T0 + days * DAY).toISOString();
const of = (request: ReferenceRequest): ReferenceResult => {
	const outcome = reference(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
const KNOWN = { parameter: 'alkalinity', unit: 'dKH', value: 8, standardUncertainty: 0.05 };
const checked = (values: number[], more: { repeatability?: number; trueness?: number; pack?: string } = {}) =>
	of({
		reference: KNOWN,
		tests: values.map((value, i) => ({
			at: at(i * 7),
			value,
			repeatability: more.repeatability ?? 0.1,
			...(more.pack ? { pack: more.pack } : {})
		})),
		prior: { trueness: more.trueness ?? 0.25 }
	});

describe('a kit against a reference', () => {
	it('has the bias and zeta of a sum by hand', () => {
		const { bias, zeta, verdict, trueness } = checked([8.5, 8.6, 8.7, 8.6]);
		expect(bias!.value).toBeCloseTo(0.6, 12);
		// Four tests of 0.1 and a reference of 0.05.
		expect(bias!.standardUncertainty).toBeCloseTo(Math.hypot(0.05, 0.05), 12);
		expect(zeta).toBeCloseTo(0.6 / Math.hypot(0.05, 0.05, 0.25), 12);
		expect(verdict).toBe('reads-high');
		// Prior 0.25, data 0.0707: the mean of both by their weights.
		const u2 = 0.005;
		expect(trueness!.corrected).toBeCloseTo(Math.sqrt(1 / (1 / 0.0625 + 1 / u2)), 12);
		expect(trueness!.bias).toBeCloseTo((0.6 * 0.0625) / (0.0625 + u2), 12);
		// A bias that is left in is worse than not having known: it is in every reading.
		expect(trueness!.after).toBeGreaterThan(trueness!.before);
	});
	it('makes a kit that agrees surer, and says so', () => {
		const { verdict, trueness, testsToTell } = checked([8.02, 7.95, 8.04, 8.0]);
		expect(verdict).toBe('agrees');
		expect(trueness!.after).toBeLessThan(0.1);
		expect(testsToTell).toBe(1);
	});
	it('does not know by one scattered test, and says how many it takes', () => {
		const { verdict, testsToTell } = checked([8.1], { repeatability: 0.3, trueness: 0.2 });
		expect(verdict).toBe('unsure');
		expect(testsToTell).toBe(Math.ceil(0.09 / (((1.96 * 0.2) / (1.96 + 0.842)) ** 2 - 0.0025)));
		// A reference as unsure as the kit tells nothing, however often.
		expect(
			of({
				reference: { ...KNOWN, standardUncertainty: 0.3 },
				tests: [{ at: at(0), value: 8.1, repeatability: 0.1 }],
				prior: { trueness: 0.2 }
			}).testsToTell
		).toBeNull();
	});
	it('calls a right kit wrong once in twenty, and finds a bias with the power it promises', () => {
		const gauss = normal(uniform(11));
		const rounds = tries(2000, 20_000);
		const called = (bias: number, tests: number) => {
			let [wrong, agreed] = [0, 0];
			for (let i = 0; i < rounds; i++) {
				const truth = 8 + 0.05 * gauss();
				const { verdict } = checked(
					Array.from({ length: tests }, () => truth + bias + 0.3 * gauss()),
					{
						repeatability: 0.3,
						trueness: 0.2
					}
				);
				if (verdict === 'reads-high' || verdict === 'reads-low') wrong++;
				if (verdict === 'agrees') agreed++;
			}
			return { wrong: wrong / rounds, agreed: agreed / rounds };
		};
		const none = called(0, 6);
		expect(none.wrong).toBeLessThan(0.07);
		expect(none.wrong).toBeGreaterThan(0.03);
		// As large as the kit allows itself, by as many tests as it said.
		const asMany = checked([8], { repeatability: 0.3, trueness: 0.2 }).testsToTell!;
		const found = called(1.96 * 0.2, asMany);
		expect(found.wrong).toBeGreaterThan(0.77);
		// At the edge of what is allowed it is called right no oftener than once in twenty (two one-sided tests).
		expect(found.agreed).toBeLessThan(0.06);
	});
	it('of a kit far beyond what it allows itself, taken off is what it is off by and not what one would have expected', () => {
		const noise = normal(uniform(5));
		const [prior, repeatability, truth, many] = [0.1, 0.3, 1.7, 2000];
		let held = 0;
		for (let i = 0; i < many; i++) {
			const made = reference({
				reference: { parameter: 'alkalinity', unit: 'dKH', value: 8, standardUncertainty: 0.05 },
				tests: [0, 1, 2, 3].map((n) => ({
					at: `2026-05-06T18:0${n}:00Z`,
					value: 8 + truth + repeatability * noise(),
					repeatability
				})),
				prior: { trueness: prior }
			});
			if (!made.ok) throw new Error();
			const { bias, corrected } = made.value.trueness!;
			if (Math.abs(truth - bias) <= 1.96 * corrected) held++;
		}
		expect(held / many).toBeGreaterThan(0.93);
	});

	it('what is believed afterwards holds what the kit is off by, 95 in 100', () => {
		const gauss = normal(uniform(12));
		const rounds = tries(2000, 20_000);
		let [left, off] = [0, 0];
		for (let i = 0; i < rounds; i++) {
			const bias = 0.2 * gauss();
			const { trueness } = checked(
				[0, 1, 2].map(() => 8 + bias + 0.15 * gauss()),
				{
					repeatability: 0.15,
					trueness: 0.2
				}
			);
			if (Math.abs(bias - trueness!.bias) <= 1.96 * trueness!.corrected) off++;
			if (Math.abs(bias) <= 1.96 * trueness!.after) left++;
		}
		expect(off / rounds).toBeGreaterThan(0.935);
		expect(left / rounds).toBeGreaterThan(0.935);
	});
});

describe('charts of checks', () => {
	it('name the Western Electric rule that a point completes', () => {
		const last = (...z: number[]) => ruleAt(z, z.length - 1);
		expect(last(0.2, -3.2)).toBe('one-beyond-3');
		expect(last(2.3, 0.1, 2.1)).toBe('two-of-three-beyond-2');
		expect(last(2.3, -2.1)).toBeUndefined();
		expect(last(1.2, 1.4, 0.2, 1.1, 1.3)).toBe('four-of-five-beyond-1');
		expect(last(0.2, 0.1, 0.4, 0.9, 0.3, 0.2, 0.6, 0.1)).toBe('eight-on-one-side');
		expect(last(0.2, 0.1, 0.4, 0.9, 0.3, 0.2, 0.6, -0.1)).toBeUndefined();
		expect(last(0)).toBeUndefined();
	});
	it('expect of a check what the water, the kit and the checks before make likely', () => {
		const { control } = checked([8.1, 8.4]);
		// Of the first nothing is known but the water (0.05), the kit (0.25) and one test (0.1).
		const prior = 0.05 ** 2 + 0.25 ** 2;
		expect(control!.points[0]!.z).toBeCloseTo(0.1 / Math.sqrt(prior + 0.01), 12);
		// Of the second, the first beside it.
		const [gain, left] = [prior / (prior + 0.01), (prior * 0.01) / (prior + 0.01)];
		expect(control!.points[1]!.z).toBeCloseTo((0.4 - gain * 0.1) / Math.sqrt(left + 0.01), 12);
		const { centre, sigma, warning, action } = control!;
		expect([warning[1] - centre, centre - action[0]]).toEqual([
			expect.closeTo(2 * sigma, 12),
			expect.closeTo(3 * sigma, 12)
		]);
		expect(centre).toBeGreaterThan(8.2);
	});
	it('of sound kits seldom alarm within twelve checks, whatever the kit is off by; and see one that moves', () => {
		const gauss = normal(uniform(41));
		const rounds = tries(1500, 15_000);
		for (const [trueness, repeatability] of [
			[0.25, 0.1],
			[0.5, 0.05],
			[0.1, 0.2]
		] as const) {
			const [alarms, seen] = [0, 3 * repeatability].map((moved) => {
				let alarmed = 0;
				for (let i = 0; i < rounds; i++) {
					const bias = trueness * gauss() + 0.05 * gauss();
					const { control } = checked(
						Array.from({ length: 12 }, (_, k) => 8 + bias + (k >= 8 ? moved : 0) + repeatability * gauss()),
						{ repeatability, trueness }
					);
					if (control!.points.some((p) => p.rule)) alarmed++;
				}
				return alarmed / rounds;
			});
			// The four rules together alarm once in 92 checks of noise alone (Champ & Woodall 1987, Technometrics 29, 393): 12 % within twelve.
			expect(alarms).toBeLessThan(0.17);
			expect(seen).toBeGreaterThan(0.85);
		}
	});
	it('by a comparator are no surer for the same shade again: a perfect kit is not called wrong for being looked at more often', () => {
		const random = uniform(51);
		const gauss = normal(random);
		const rounds = tries(2000, 20_000);
		// A card of equal steps: a matched shade is as likely anywhere between its neighbours' middles, triangular (GUM 4.3.9).
		const step = 0.5;
		const repeatability = step / 2 / Math.sqrt(6);
		const called = (tests: number, eye: number) => {
			let [wrong, alarmed] = [0, 0];
			for (let i = 0; i < rounds; i++) {
				const truth = 5 + step * random();
				const { verdict, control } = of({
					reference: { parameter: 'nitrate', unit: 'mg/L NO3', value: truth, standardUncertainty: 0.01 },
					tests: Array.from({ length: tests }, (_, k) => ({
						at: at(k),
						value: round(truth + eye * step * gauss(), step),
						repeatability
					})),
					prior: { trueness: 0.1 }
				});
				if (verdict === 'reads-high' || verdict === 'reads-low') wrong++;
				if (control!.points.some((p) => p.rule)) alarmed++;
			}
			return [wrong / rounds, alarmed / rounds] as const;
		};
		for (const eye of [0, 0.1, 0.2, 0.4]) {
			const [once] = called(1, eye);
			for (const tests of [3, 10]) {
				const [wrong, alarmed] = called(tests, eye);
				expect(wrong, `${tests} looks, ${eye}`).toBeLessThan(once + 0.04);
				expect(alarmed, `${tests} looks, ${eye}`).toBeLessThan(0.2);
			}
		}
	});
	it('see creep by EWMA with the run lengths of Lucas and Saccucci: 500 without a shift, ten with one of a sigma', () => {
		const gauss = normal(uniform(7));
		const runLength = (shift: number, runs: number) => {
			let sum = 0;
			for (let i = 0; i < runs; i++) {
				const z: number[] = [];
				// In pieces, so that a long run is not computed anew at each point.
				for (let found = -1; found < 0;) {
					for (let k = 0; k < 100; k++) z.push(shift + gauss());
					found = ewmaOf(z.map((v) => ({ at: '', z: v }))).points.findIndex((p) => p.out);
					if (found >= 0) sum += found + 1;
				}
			}
			return sum / runs;
		};
		const without = runLength(0, tries(300, 3000));
		expect(without).toBeGreaterThan(400);
		expect(without).toBeLessThan(600);
		const shifted = runLength(1, tries(1000, 10_000));
		expect(shifted).toBeGreaterThan(8);
		expect(shifted).toBeLessThan(11.5);
	});
	it('see a batch that ages from its first check to its last, and none where there is none', () => {
		const aged = checked([8.0, 8.1, 8.15, 8.3, 8.35, 8.5], { pack: 'p' }).ageing!;
		expect(aged.value).toBeCloseTo(0.49, 2);
		expect(aged.chance).toBeLessThan(0.01);
		expect(aged.to).toBe(at(35));
		expect(checked([8.0, 8.1, 7.95, 8.05, 8.0, 8.02]).ageing).toBeNull();
		// Too few checks, or too near each other, tell nothing.
		expect(checked([8.0, 8.5, 9.0]).ageing).toBeNull();
		const gauss = normal(uniform(13));
		let called = 0;
		for (let i = 0; i < 1000; i++)
			if (checked(Array.from({ length: 6 }, () => 8 + 0.1 * gauss())).ageing) called++;
		expect(called / 1000).toBeLessThan(0.07);
	});
});

describe('references of one’s own', () => {
	it('are made by weight, with scale, jug and purity in the error', () => {
		// 1.2617 g of KCl (74.548 g/mol) in 2 L: 330.9 mg/L of potassium.
		const made = of({
			reference: { parameter: 'potassium', unit: 'mg/L', weighed: { salt: 'KCl', grams: 1.2617, litres: 2 } },
			tests: [{ at: at(0), value: 331, repeatability: 5 }],
			prior: { trueness: 10 }
		});
		expect(made.known!.value).toBeCloseTo((1.2617 / 2) * (39.0983 / 74.5483) * 1000, 4);
		const relative = made.known!.standardUncertainty / made.known!.value;
		expect(relative).toBeCloseTo(Math.hypot(0.1 / Math.sqrt(12) / 1.2617, 0.01, 0.01 / Math.sqrt(3)), 6);
		// In another unit.
		const soda = of({
			reference: {
				parameter: 'alkalinity',
				unit: 'meq/L',
				weighed: { salt: 'NaHCO3', grams: 0.84, litres: 4, gramsError: 0.001, litresError: 0.004, purity: 1 }
			},
			tests: [{ at: at(0), value: 2.5, repeatability: 0.05 }],
			prior: { trueness: 0.1 }
		});
		expect(soda.known!.value).toBeCloseTo(2.5, 2);
		expect(soda.known!.standardUncertainty / soda.known!.value).toBeCloseTo(
			Math.hypot(0.001 / 0.84, 0.001),
			5
		);
	});
	it('of table salt are a salinity for the instrument they were mixed for', () => {
		// What standards for instruments are mixed at for 35 PSU, in per cent by mass; their densities in kg/L at 20 °C.
		for (const [readsBy, percent, kgPerL] of [
			['refraction', 3.65, 1.0243],
			['density', 3.714, 1.0247],
			['conductivity', 3.29, 1.0217]
		] as const) {
			const made = of({
				reference: {
					parameter: 'salinity',
					unit: 'PSU',
					weighed: { salt: 'NaCl', grams: 10 * percent * kgPerL, litres: 1, readsBy }
				},
				tests: [{ at: at(0), value: 35, repeatability: 0.5 }],
				prior: { trueness: 1 }
			});
			expect(Math.abs(made.known!.value - 35), readsBy).toBeLessThan(0.15);
			// The jug's hundredth is 0.35 PSU, and in specific gravity 0.00026: not all of a number near one.
			expect(made.known!.standardUncertainty).toBeGreaterThan(0.35);
			const gravity = of({
				reference: {
					parameter: 'salinity',
					unit: 'SG 25/25',
					weighed: { salt: 'NaCl', grams: 10 * percent * kgPerL, litres: 1, readsBy }
				},
				tests: [{ at: at(0), value: 1.026, repeatability: 0.0005 }],
				prior: { trueness: 0.001 }
			});
			expect(gravity.known!.value).toBeCloseTo(1.0264, 3);
			expect(gravity.known!.standardUncertainty / made.known!.standardUncertainty).toBeCloseTo(0.00076, 5);
		}
	});
	it('or by an amount that was added: what was found of it', () => {
		const tests = (...values: number[]) => values.map((value) => ({ at: at(0), value, repeatability: 5 }));
		const its = of({
			addition: {
				plain: tests(400, 404),
				spiked: tests(448, 452),
				added: { value: 50, standardUncertainty: 1 }
			}
		});
		expect(its.recovery!.value).toBeCloseTo(0.96, 12);
		expect(its.recovery!.standardUncertainty).toBeCloseTo(Math.hypot(5 / 50, 0.96 / 50), 12);
		expect(its.verdict).toBe('unsure');
	});
	it('say beside the place what is missing', () => {
		const paths = (request: ReferenceRequest) => {
			const made = reference(request);
			return made.ok ? [] : made.problems.map((p) => p.path);
		};
		const tests = [{ at: at(0), value: 8, repeatability: 0.1 }];
		const prior = { trueness: 0.2 };
		expect(paths({ tests, prior })).toEqual(['/reference']);
		expect(paths({ reference: KNOWN, prior })).toEqual(['/tests']);
		expect(paths({ reference: KNOWN, tests })).toEqual(['/prior']);
		expect(paths({ reference: { parameter: 'calcium', unit: 'mg/L' }, tests, prior })).toEqual([
			'/reference'
		]);
		const weighed = { salt: 'KCl', grams: 1, litres: 1 };
		expect(paths({ reference: { parameter: 'calcium', unit: 'mg/L', weighed }, tests, prior })).toEqual([
			'/reference/weighed/salt'
		]);
		expect(paths({ reference: { parameter: 'potassium', unit: 'dKH', weighed }, tests, prior })).toEqual([
			'/reference/unit'
		]);
		expect(
			paths({
				reference: { parameter: 'potassium', unit: 'mg/L', weighed: { ...weighed, salt: 'XyZ' } },
				tests,
				prior
			})
		).toEqual(['/reference/weighed/salt']);
		// A salt that draws water weighs what nobody knows.
		const wet = { parameter: 'calcium', unit: 'mg/L', weighed: { ...weighed, salt: 'CaCl2.2H2O' } };
		expect(paths({ reference: wet, tests, prior })).toEqual(['/reference/weighed/salt']);
		// Table salt is no salinity by itself, and no other salt is one at all.
		const table = { parameter: 'salinity', unit: 'PSU', weighed: { ...weighed, salt: 'NaCl', grams: 37 } };
		expect(paths({ reference: table, tests, prior })).toEqual(['/reference/weighed/readsBy']);
		expect(
			paths({ reference: { ...table, weighed: { ...weighed, readsBy: 'density' } }, tests, prior })
		).toEqual(['/reference/weighed/salt']);
	});
});
