import { ONE_SIDED_95 } from '../../statistics';
import { describe, expect, it } from 'vitest';
import { correct } from './correct';
import type { CorrectRequest } from './schema';
import type { Wish } from './wishes';
import type { Solver } from './solver';
import {
	solution,
	SODA,
	alkalinity,
	calcium,
	magnesium,
	potassium,
	salinity,
	request,
	plan,
	of,
	solver,
	type Parameter
} from '../../../../tests/support/plans';

describe('a plan', () => {
	it('brings a low level home within what animals take, tests on the way, and holds it', () => {
		const its = plan([alkalinity(6.8)]);
		const pours = of(its.steps, 'dose');
		expect(its.home['alkalinity']).toBeLessThanOrEqual(5);
		expect(its.safe).toBe(true);
		const path = its.path['alkalinity']!;
		for (let t = 1; t < path.length; t++)
			expect(path[t]!.mean - path[t - 1]!.mean).toBeLessThanOrEqual(0.5 + 1e-6);
		expect(Math.max(...path.map((p) => p.mean + ONE_SIDED_95 * p.sd))).toBeLessThanOrEqual(9.6);
		expect(pours.length).toBeGreaterThan(2);
		expect(of(its.steps, 'test', 'alkalinity').length).toBeGreaterThan(0);
	});
	it('tests before each second pour that rests on an unsure number', () => {
		const vague = plan([alkalinity(7, { now: { mean: 7, standardDeviation: 0.35 } })], { days: 10 });
		const pours = of(vague.steps, 'dose').map((s) => s.day);
		const tests = of(vague.steps, 'test').map((s) => s.day);
		expect(pours.length).toBeGreaterThan(2);
		pours.forEach((day, i) => {
			if (i % 2 === 1) expect(tests).toContain(day);
		});
	});
	it('leaves alone what holds by itself', () => {
		const its = plan([
			alkalinity(8.6, { usePerDay: { mean: 0.01, standardDeviation: 0.03 } }),
			potassium(400)
		]);
		expect(of(its.steps, 'dose')).toEqual([]);
		expect(its.steps[0]).toMatchObject({ day: 0, kind: 'wait' });
	});
	it('pours nothing by an odd number, a first one, or one that covers its band; it asks for a test', () => {
		for (const [more, why] of [
			[{ odd: true }, 'odd'],
			[{ unproved: true }, 'unproved'],
			[{ now: { mean: 7, standardDeviation: 1 } }, 'unknown']
		] as const) {
			const its = plan([alkalinity(7, more as Partial<Parameter>), calcium(395)]);
			expect(of(its.steps, 'dose', 'alkalinity')).toEqual([]);
			expect(its.refused).toContainEqual({ parameter: 'alkalinity', why });
			expect(of(its.steps, 'test', 'alkalinity')[0]?.day).toBe(0);
			// What is sure is not held up by it.
			expect(of(its.steps, 'dose', 'calcium').length).toBeGreaterThan(0);
		}
	});
	it('does not move an odd number by a supplement for another', () => {
		const nitre = solution('KNO3', 100);
		const its = plan(
			[
				{ ...potassium(385), odd: true },
				{
					parameter: 'nitrate',
					unit: 'mg/L NO3',
					now: { mean: 1, standardDeviation: 0.5 },
					usePerDay: { mean: 0.2, standardDeviation: 0.05 },
					band: { lower: 2, upper: 10 },
					healthyPerDay: { up: 2.5, down: 2.5 }
				}
			],
			{ supplements: [nitre] }
		);
		expect(of(its.steps, 'dose')).toEqual([]);
	});
	it('brings salinity home first, by salt or by fresh water, and only holds ions until then', () => {
		const low = plan([salinity(31.5), alkalinity(7.2), calcium(390)]);
		const salt = of(low.steps, 'salt');
		expect(salt.length).toBeGreaterThan(1);
		// 1 PSU in 200 L is 206 g of dissolved salt, more of a mix that holds water.
		expect(salt[0]!.amount! / salt[0]!.changes!['salinity']!).toBeCloseTo(228, -1);
		expect(low.refused).toContainEqual({ parameter: 'alkalinity', why: 'salinity-first' });
		const homeOn = salt.at(-1)!.day + 1;
		for (const s of of(low.steps, 'dose', 'alkalinity').filter((step) => step.day < homeOn))
			expect(s.changes!['alkalinity']).toBeLessThanOrEqual(0.2 + 1e-9);
		expect(of(low.steps, 'test', 'alkalinity').map((s) => s.day)).toContain(homeOn);
		const high = plan([salinity(38)]);
		expect(of(high.steps, 'fresh-water').length).toBeGreaterThan(1);
		expect(high.path['salinity']!.at(-1)!.mean).toBeLessThan(36);
	});
	it('brings magnesium home before calcium and alkalinity', () => {
		const its = plan([alkalinity(7.2), calcium(390), magnesium(1130)]);
		const home = its.home['magnesium']!;
		expect(home).toBeGreaterThan(1);
		for (const s of of(its.steps, 'dose').filter((step) => step.day < home && step.parameter !== 'magnesium'))
			expect(s.changes!['alkalinity'] ?? s.changes!['calcium']! / 7.5).toBeLessThanOrEqual(0.2 + 1e-6);
		expect(its.home['alkalinity']!).toBeGreaterThan(home);
	});
	it('does not let alkalinity below its alarm wait for magnesium', () => {
		const its = plan([alkalinity(5.5), magnesium(1130)]);
		expect(of(its.steps, 'dose', 'alkalinity')[0]!.changes!['alkalinity']).toBeGreaterThan(0.3);
	});
	it('pours calcium and alkalinity hours apart', () => {
		const its = plan([alkalinity(7.2), calcium(390)]);
		expect(new Set(of(its.steps, 'dose', 'alkalinity').map((s) => s.when))).toEqual(new Set(['morning']));
		expect(new Set(of(its.steps, 'dose', 'calcium').map((s) => s.when))).toEqual(new Set(['evening']));
	});
	it('tunes a dosing pump by use, only beyond noise, and lets it give less while a level stands too high', () => {
		const soda = { supplement: SODA.id, mlPerDay: 20 };
		// 20 mL are 0.267 dKH a day in 200 L.
		const fine = plan([alkalinity(8.7, { usePerDay: { mean: 0.29, standardDeviation: 0.03 } })], {
			dosing: [soda]
		});
		expect(of(fine.steps, 'dosing-rate')).toEqual([]);
		const little = plan([alkalinity(8.7, { usePerDay: { mean: 0.4, standardDeviation: 0.03 } })], {
			dosing: [soda]
		});
		expect(of(little.steps, 'dosing-rate')[0]).toMatchObject({ day: 0, why: 'tune', unit: 'mL/day' });
		expect(of(little.steps, 'dosing-rate')[0]!.amount).toBeCloseTo((0.4 * 200) / 2.67, 2);
		const high = plan([alkalinity(10, { usePerDay: { mean: 0.27, standardDeviation: 0.03 } })], {
			dosing: [soda]
		});
		const rates = of(high.steps, 'dosing-rate');
		expect(rates[0]!.amount).toBeLessThan(10);
		expect(rates[1]!.amount).toBeCloseTo(20, 4);
		expect(rates[1]!.day).toBeGreaterThan(1);
	});
	it('lowers nutrients by water changes and says where nothing on the shelf helps', () => {
		const nitrate: Parameter = {
			parameter: 'nitrate',
			unit: 'mg/L NO3',
			now: { mean: 24, standardDeviation: 2 },
			usePerDay: { mean: -0.2, standardDeviation: 0.05 },
			band: { lower: 2, upper: 15 },
			healthyPerDay: { up: 2.5, down: 6 }
		};
		const change = { water: { nitrate: 0 }, largestFraction: 0.2, everyDays: 7 };
		const its = plan([nitrate], { change });
		expect(of(its.steps, 'water-change').length).toBeGreaterThan(0);
		expect(its.path['nitrate']!.at(-1)!.mean).toBeLessThan(20);
		const notBefore = plan([nitrate], { change: { ...change, notBefore: 4 } });
		expect(Math.min(...of(notBefore.steps, 'water-change').map((s) => s.day))).toBeGreaterThanOrEqual(4);
		const low = plan([{ ...nitrate, now: { mean: 0.5, standardDeviation: 0.3 } }]);
		expect(low.refused).toContainEqual({ parameter: 'nitrate', why: 'no-supplement' });
	});
	it('does not change so much at once that an animal feels it', () => {
		const its = plan([alkalinity(7), { ...salinity(35), now: { mean: 35, standardDeviation: 0.2 } }], {
			supplements: [],
			change: { water: { alkalinity: 11, salinity: 35 }, largestFraction: 0.5, everyDays: 3 }
		});
		const path = its.path['alkalinity']!;
		expect(of(its.steps, 'water-change').length).toBeGreaterThan(1);
		for (const s of of(its.steps, 'water-change'))
			expect(s.fraction! * (11 - path[s.day]!.mean)).toBeLessThanOrEqual(0.5 + 1e-6);
	});
	it('is not safe where an alarm is left for want of something, and says what it would need', () => {
		const its = plan([alkalinity(8.2, { usePerDay: { mean: 0.6, standardDeviation: 0.05 } })], {
			supplements: []
		});
		expect(its.safe).toBe(false);
		expect(its.risks.find((r) => r.kind === 'alarm')).toMatchObject({
			parameter: 'alkalinity',
			numbers: { alarm: 6, needsPerDay: 0.6 }
		});
	});
	it('is safe where it leads back from an alarm, however slowly, and not where it leads further out', () => {
		const nitrate = (use: number): Parameter => ({
			parameter: 'nitrate',
			unit: 'mg/L NO3',
			now: { mean: 70, standardDeviation: 3 },
			usePerDay: { mean: use, standardDeviation: 0.05 },
			band: { lower: 2, upper: 15 },
			alarm: [0, 50],
			healthyPerDay: { up: 2.5, down: 17 }
		});
		const change = { water: { nitrate: 0 }, largestFraction: 0.1, everyDays: 7 };
		expect(plan([nitrate(0)], { change }).safe).toBe(true);
		expect(plan([nitrate(-3)], { change }).safe).toBe(false);
	});
	it('pours no more than a bottle holds', () => {
		const its = plan([alkalinity(6.8)], { supplements: [{ ...SODA, stock: 60 }] });
		expect(its.cost.amounts['NaHCO3']).toBeLessThanOrEqual(60);
		expect(its.risks.some((r) => r.kind === 'stock')).toBe(true);
	});
	it('costs less or comes sooner, as is wished', () => {
		const by = (prefer: Wish) => plan([alkalinity(7.2), calcium(400)], { prefer }).cost;
		const [soonest, least, fewest] = [by('soonest'), by('least'), by('fewest')];
		expect(soonest.daysOut).toBeLessThanOrEqual(least.daysOut);
		expect(least.amounts['NaHCO3']!).toBeLessThanOrEqual(soonest.amounts['NaHCO3']!);
		expect(fewest.pours).toBeLessThan(soonest.pours);
	});
	it('moves a glass by hand to another day, with what that costs, and no faster than animals take it', () => {
		const before = plan([alkalinity(6.8), calcium(395)]);
		const first = of(before.steps, 'dose', 'alkalinity')[0]!;
		const move = { supplement: 'NaHCO3', from: first.day, to: first.day + 3, amount: first.amount! };
		const after = plan([alkalinity(6.8), calcium(395)], { moves: [move] });
		const days = of(after.steps, 'dose', 'alkalinity').map((s) => s.day);
		expect(days).not.toContain(move.from);
		expect(of(after.steps, 'dose', 'alkalinity').find((s) => s.day === move.to)!.amount).toBeGreaterThan(
			0.97 * move.amount
		);
		expect(after.home['alkalinity']!).toBeGreaterThanOrEqual(before.home['alkalinity']!);
		expect(after.cost.daysOut).toBeGreaterThan(before.cost.daysOut);
		expect(after.risks.map((r) => r.kind)).not.toContain('moved');
		// Twice a healthy day's pour on one day: as much as animals take, and that is said.
		const most = plan([alkalinity(6.8)], { moves: [{ ...move, amount: 3 * move.amount }] });
		const path = most.path['alkalinity']!;
		for (let t = 1; t < path.length; t++)
			expect(path[t]!.mean - path[t - 1]!.mean).toBeLessThanOrEqual(0.5 + 1e-6);
		const short = most.risks.find((r) => r.kind === 'moved')!;
		expect(short.numbers['got']).toBeLessThan(short.numbers['wanted']!);
	});
	it('moves a water change by hand; the one that would follow too soon is left out', () => {
		const change = { water: { alkalinity: 8.6 }, largestFraction: 0.2, everyDays: 7 };
		const low = [alkalinity(7.2)];
		const with7 = (moves: CorrectRequest['moves']) =>
			of(plan(low, { change, supplements: [], ...(moves ? { moves } : {}) }).steps, 'water-change');
		expect(with7(undefined).map((s) => s.day)).toEqual([0, 7]);
		expect(with7([{ from: 0, to: 5 }]).map((s) => s.day)).toEqual([5]);
	});
	it('pours all the same where the search for the fewest finds nothing in its nodes, and says that it is not proved', () => {
		const blind: Solver = {
			solve: (text, options) =>
				text.includes('\nBinary')
					? { Status: 'Unknown', ObjectiveValue: Infinity, Columns: {} }
					: solver.solve(text, options)
		};
		const made = correct(request([alkalinity(6.8)], { prefer: 'fewest' }), blind);
		if (!made.ok) throw new Error();
		expect(of(made.value.steps, 'dose').length).toBeGreaterThan(2);
		expect(made.value.home['alkalinity']).toBeLessThanOrEqual(6);
		expect(made.value.proved).toBe(false);
	});
	it('keeps saturation below its bound', () => {
		const its = plan(
			[
				alkalinity(10.4, { band: { lower: 11.5, upper: 12.5 }, ideal: 12, alarm: [6, 14] }),
				calcium(520, { band: { lower: 540, upper: 600 }, ideal: 570, alarm: [350, 650] })
			],
			{ water: { volumeL: { value: 200, standardUncertainty: 5 }, salinity: 35, temperatureC: 26, ph: 8.35 } }
		);
		expect(its.home).toMatchObject({ alkalinity: null });
	});
	it('says beside the place what cannot be', () => {
		const paths = (parameters: Parameter[], more: Partial<CorrectRequest> = {}) => {
			const made = correct(request(parameters, more), solver);
			return made.ok ? [] : made.problems.map((p) => p.path);
		};
		expect(paths([alkalinity(8), alkalinity(8)])).toEqual(['/parameters/1/parameter']);
		expect(paths([{ ...alkalinity(8), parameter: 'ph' }])).toEqual(['/parameters/0/parameter']);
		expect(paths([alkalinity(8, { band: { lower: 9, upper: 8 } })])).toEqual(['/parameters/0/band']);
		expect(paths([alkalinity(8)], { dosing: [{ supplement: 'none', mlPerDay: 1 }] })).toEqual([
			'/dosing/0/supplement'
		]);
		expect(paths([alkalinity(8)], { moves: [{ supplement: 'none', from: 0, to: 1, amount: 1 }] })).toEqual([
			'/moves/0/supplement'
		]);
		expect(paths([alkalinity(8)], { moves: [{ supplement: 'NaHCO3', from: 0, to: 20, amount: 1 }] })).toEqual(
			['/moves/0']
		);
		expect(paths([alkalinity(8)], { supplements: [solution('NaHCO3', 500)] })).toEqual([
			'/supplements/0/composition/recipe/gramsPerL'
		]);
	});
});
