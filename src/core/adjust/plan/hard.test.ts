import { describe, expect, it } from 'vitest';
import { uniform } from '../../statistics';
import { tries } from '../../../../tests/support/length';
import {
	alkalinity,
	calcium,
	CHLORIDE,
	magnesium,
	MAGNESIUM,
	of,
	plan,
	potassium,
	request,
	salinity,
	SODA,
	solver,
	solution,
	type Parameter
} from '../../../../tests/support/plans';
import { checkedPaths } from './check';
import { correct } from './correct';
import type { CorrectRequest } from './schema';

const nitrate = (mean: number, more: Partial<Parameter> = {}): Parameter => ({
	parameter: 'nitrate',
	unit: 'mg/L NO3',
	now: { mean, standardDeviation: 0.5 },
	usePerDay: { mean: 0.2, standardDeviation: 0.05 },
	band: { lower: 2, upper: 10 },
	alarm: [0, 50],
	healthyPerDay: { up: 2.5, down: Math.max(2.5, mean / 4) },
	...more
});
const uses = (mean: number, standardDeviation = mean / 10) => ({ usePerDay: { mean, standardDeviation } });
const endOf = (its: ReturnType<typeof plan>, parameter: string) => its.path[parameter]!.at(-1)!.mean;
const LIME = solution('Ca(OH)2', 1.5);
const NITRE = solution('KNO3', 100);

describe('a plan in the cases a keeper meets once a year', () => {
	it('makes a plan where no rise is healthy, and refuses a bottle that two pumps are said to give', () => {
		for (const prefer of ['soonest', 'fewest'] as const) {
			const still = plan([alkalinity(7.5, { ...uses(0.2), healthyPerDay: { up: 0, down: 0.5 } })], {
				prefer
			});
			for (const { mean } of still.path['alkalinity']!) expect(mean).toBeLessThanOrEqual(7.5 + 1e-6);
		}
		const pump = { supplement: SODA.id, mlPerDay: 10 };
		const twice = correct(request([alkalinity(8.5)], { dosing: [pump, pump] }), solver);
		expect(!twice.ok && twice.problems[0]!.path).toBe('/dosing/1/supplement');
	});
	it('holds from where there is room: a level in the upper part of its band is not left to fall through it', () => {
		const high = plan([calcium(455, uses(6.5, 0.5))]);
		expect(endOf(high, 'calcium')).toBeGreaterThan(410);
		expect(Math.max(...high.path['calcium']!.map((p) => p.mean))).toBeLessThanOrEqual(460);
		for (const prefer of ['soonest', 'least', 'fewest'] as const)
			expect(endOf(plan([alkalinity(9.6, uses(0.3))], { prefer }), 'alkalinity')).toBeGreaterThan(7.9);
	});
	it('pours against a use that would take everything, and feeds what is at nothing', () => {
		const fast = plan([alkalinity(7.5, uses(2, 0.1))]);
		expect(Math.min(...fast.path['alkalinity']!.map((p) => p.mean))).toBeGreaterThan(7);
		const fed = plan([nitrate(0), potassium(395)], { supplements: [NITRE] });
		expect(endOf(fed, 'nitrate')).toBeGreaterThan(2);
	});
	it('lets what is poured leave its salt where animals need it, and thins it again', () => {
		for (const salt of [salinity(35.6), { ...salinity(35), now: { mean: 35, standardDeviation: 0.8 } }])
			for (const low of [alkalinity(5.5), magnesium(1180)]) {
				const its = plan([salt, low]);
				expect(endOf(its, low.parameter), `${salt.now.mean} ${low.parameter}`).toBeGreaterThan(
					low.band.lower
				);
				for (const { mean } of its.path['salinity']!) expect(mean).toBeLessThan(36.3);
			}
		// What comes beside is weighed where by itself the level would never leave its band.
		const spared = plan([salinity(35.9), magnesium(1255)], { prefer: 'soonest' });
		expect(of(spared.steps, 'fresh-water')).toEqual([]);
		for (const { mean } of spared.path['salinity']!) expect(mean).toBeLessThan(36.05);
		// A tank that creeps: a bottle of salt each day, and salinity at its limit.
		const creeps = plan([salinity(35.95), alkalinity(8.4, uses(1.5, 0.1))]);
		expect(of(creeps.steps, 'fresh-water').length).toBeGreaterThan(0);
		expect(endOf(creeps, 'salinity')).toBeLessThan(36.05);
		expect(endOf(creeps, 'alkalinity')).toBeGreaterThan(8);
		// One bottle moves two levels, one of them at its limit.
		expect(endOf(plan([calcium(340), alkalinity(9.2)], { supplements: [LIME] }), 'calcium')).toBeGreaterThan(
			345
		);
	});
	it('shares a use between its dosing pumps, and sees their bottles run dry', () => {
		const other = { ...SODA, id: 'second' };
		const dosing = [SODA, other].map(({ id }) => ({ supplement: id, mlPerDay: 15 }));
		const two = plan([alkalinity(8.7, uses(0.7, 0.05))], { supplements: [SODA, other], dosing });
		expect(Math.max(...two.path['alkalinity']!.map((p) => p.mean))).toBeLessThanOrEqual(9.5);
		expect(endOf(two, 'alkalinity')).toBeGreaterThan(8);
		const dry = plan([alkalinity(8.7, uses(0.6, 0.03))], {
			supplements: [{ ...SODA, stock: 225 }],
			dosing: [{ supplement: SODA.id, mlPerDay: 45 }]
		});
		expect(dry.risks.find((r) => r.kind === 'stock')).toMatchObject({ day: 5 });
		expect(endOf(dry, 'alkalinity')).toBeLessThan(4);
		expect(dry.safe).toBe(false);
		// Another bottle takes its place.
		const saved = plan([alkalinity(8.7, uses(0.6, 0.03))], {
			supplements: [{ ...SODA, stock: 225 }, other],
			dosing: [{ supplement: SODA.id, mlPerDay: 45 }]
		});
		expect(endOf(saved, 'alkalinity')).toBeGreaterThan(7.9);
		expect(saved.safe).toBe(true);
	});
	it('leaves no dosing pump above use while the level is high, and pours nothing by hand from its bottle', () => {
		const high = plan([alkalinity(9.9, uses(0.3, 0.2))], { dosing: [{ supplement: SODA.id, mlPerDay: 30 }] });
		expect(endOf(high, 'alkalinity')).toBeLessThanOrEqual(9.5);
		expect(of(high.steps, 'dosing-rate').at(-1)!.amount).toBeLessThanOrEqual(22.6);
		expect(of(high.steps, 'dose', 'alkalinity')).toEqual([]);
		// All that a tank uses at once, since its level then stands still: no half measures.
		const low = plan([alkalinity(8.6, uses(1.5, 0.05))], { dosing: [{ supplement: SODA.id, mlPerDay: 10 }] });
		expect(of(low.steps, 'dosing-rate')[0]!.amount).toBeCloseTo(112.5, 0);
	});
	it('changes no water that would carry a level out of its band, but where another is in harm', () => {
		const change = { water: { nitrate: 0, calcium: 560, salinity: 35 }, largestFraction: 0.3, everyDays: 7 };
		const nice = plan([calcium(455, uses(0.5)), nitrate(12)], { change });
		expect(of(nice.steps, 'water-change')).toEqual([]);
		const thin = plan([salinity(35), nitrate(12)], {
			change: { ...change, water: { nitrate: 0, salinity: 30 } }
		});
		for (const { mean } of thin.path['salinity']!) expect(mean).toBeGreaterThanOrEqual(34 - 1e-6);
		const harm = plan([calcium(455, uses(0.5)), nitrate(70)], { change });
		expect(of(harm.steps, 'water-change').length).toBeGreaterThan(0);
		expect(harm.risks.find((r) => r.kind === 'band')).toMatchObject({ parameter: 'calcium' });
		// What new water takes is poured again.
		const soft = plan([alkalinity(8.5, uses(0.05, 0.01)), nitrate(40)], {
			change: { water: { nitrate: 0, alkalinity: 6 }, largestFraction: 0.2, everyDays: 5 }
		});
		expect(of(soft.steps, 'water-change').length).toBeGreaterThan(0);
		for (const { mean } of soft.path['alkalinity']!) expect(mean).toBeGreaterThan(7.9);
	});
	it('pours no more at once than a healthy day, and waits for no empty bottle', () => {
		for (const step of of(plan([alkalinity(7.5, uses(2, 0.1))]).steps, 'dose'))
			expect(step.changes!['alkalinity']! / step.portions!).toBeLessThanOrEqual(0.5 + 1e-9);
		const waits = plan([alkalinity(7.2), magnesium(1130)], {
			supplements: [SODA, { ...MAGNESIUM, stock: 0 }]
		});
		expect(of(waits.steps, 'dose', 'alkalinity')[0]!.changes!['alkalinity']).toBeGreaterThan(0.25);
		expect(waits.refused).toContainEqual({ parameter: 'magnesium', why: 'no-supplement' });
	});
	it('asks for a test, and pours nothing, where level, use and dosing pump cannot all be true', () => {
		const odd = (its: Parameter, more: Partial<CorrectRequest> = {}) => {
			const made = plan([its, potassium(365)], more);
			expect(made.refused).toContainEqual({ parameter: its.parameter, why: 'contradicts' });
			expect(of(made.steps, 'test', its.parameter)[0]).toMatchObject({ day: 0, why: 'contradicts' });
			expect(of(made.steps, 'dose', its.parameter)).toEqual([]);
			// The others go on.
			expect(of(made.steps, 'dose', 'potassium').length).toBeGreaterThan(0);
		};
		// Corals make no alkalinity.
		odd(alkalinity(7.2, uses(-0.6, 0.1)));
		// Three dKH a day over use, and the level lies low all the same.
		odd(alkalinity(7.6, uses(0.2, 0.05)), { dosing: [{ supplement: SODA.id, mlPerDay: 240 }] });
		// Lime water for what evaporates, that nobody wrote down, is no contradiction.
		const hard = plan([alkalinity(7.2, uses(-0.1, 0.01))]);
		expect(hard.refused).toEqual([]);
		expect(of(hard.steps, 'dose', 'alkalinity').length).toBeGreaterThan(0);
	});
	it('pours for a level that is low for certain, though its error is wider than its band', () => {
		const vague = (mean: number) =>
			plan([{ ...alkalinity(mean), now: { mean, standardDeviation: 1 } }], { prefer: 'soonest' });
		expect(vague(8.2).refused).toContainEqual({ parameter: 'alkalinity', why: 'unknown' });
		const low = vague(6.3);
		expect(low.refused).toEqual([]);
		expect(of(low.steps, 'dose', 'alkalinity')[0]!.day).toBe(0);
	});
	it('asks for a test in time where a level is known too badly to say that it stays clear of its alarm', () => {
		const vague = plan([alkalinity(8.7, uses(0.1, 0.25))]);
		const tests = of(vague.steps, 'test', 'alkalinity').map((s) => s.day);
		expect(Math.min(...tests)).toBeLessThan(8);
	});
});

/** A tank of hard numbers: levels anywhere between their alarms, uses from none to a healthy day, bottles that lack or are nearly empty. */
function hardCase(seed: number): CorrectRequest {
	const random = uniform(seed);
	const between = (low: number, high: number) => low + (high - low) * random();
	const chosen = [
		alkalinity(between(6.2, 11), uses(between(0, 1.5), between(0.02, 0.15))),
		calcium(between(355, 500), uses(between(0, 10), between(0.2, 1))),
		magnesium(between(1120, 1500)),
		salinity(between(33, 36.8)),
		nitrate(between(0, 20))
	].filter((_, i) => i === 0 || random() < 0.6);
	const bottles = [SODA, CHLORIDE, MAGNESIUM, NITRE, LIME].filter(() => random() < 0.75);
	const supplements = bottles.map((b) => (random() < 0.2 ? { ...b, stock: between(0, 800) } : b));
	const pumped = supplements.filter((b) => ['NaHCO3', 'CaCl2.2H2O'].includes(b.id) && random() < 0.4);
	return request(chosen, {
		days: 14,
		supplements: supplements.length ? supplements : [SODA],
		dosing: pumped.map((b) => ({ supplement: b.id, mlPerDay: between(0, 60) })),
		water: { volumeL: { value: 200, standardUncertainty: between(4, 20) }, salinity: 35, temperatureC: 25 },
		// Each search for the fewest pours takes as long as ten of the others.
		prefer: seed % 10 === 0 ? 'fewest' : seed % 2 ? 'soonest' : 'least',
		...(random() < 0.4
			? {
					change: {
						water: {
							alkalinity: between(6, 11),
							calcium: between(380, 520),
							magnesium: 1300,
							salinity: between(33, 36),
							nitrate: 0
						},
						largestFraction: 0.25,
						everyDays: 5
					}
				}
			: {})
	});
}

it('does no harm in hard cases, nor is silent where a level is left to it', () => {
	const faults: string[] = [];
	for (let seed = 1; seed <= tries(60, 1000); seed++) {
		const asked = hardCase(seed);
		const its = plan(asked.parameters, asked);
		const paths = checkedPaths(asked, its.steps);
		for (const p of asked.parameters) {
			const { parameter, band, healthyPerDay } = p;
			const [low, high] = p.alarm!;
			const { mean } = paths[parameter]!;
			const told =
				its.risks.some((r) => r.parameter === parameter) ||
				its.refused.some((r) => r.parameter === parameter);
			const say = (what: string) =>
				faults.push(`${seed} ${parameter}: ${what} (${mean.map((m) => m.toFixed(1)).join(' ')})`);
			const slack = 2e-3 * (band.upper - band.lower);
			// Two mass balances agree.
			its.path[parameter]!.forEach(({ mean: other }, day) => {
				if (Math.abs(other - mean[day]!) > 0.02 * (band.upper - band.lower))
					say(`is ${other} by the plan on day ${day}`);
			});
			const bottle = asked.supplements.some(
				(s) => (s.stock ?? Infinity) > 0 && mains[s.id]?.includes(parameter)
			);
			if (mean.at(-1)! < band.lower - slack && band.lower > 0 && bottle && !told)
				say('is left low beside a bottle, without a word');
			// Whoever pours what is used and four fifths of a healthy day, by this parameter alone, keeps it: so does the plan.
			const own = asked.supplements.find((s) => s.stock === undefined && mains[s.id]?.join() === parameter);
			const refused = its.refused.some((r) => r.parameter === parameter);
			const sure = 1.645 * asked.days * p.usePerDay.standardDeviation < (band.upper - band.lower) / 2;
			if (own && sure && !refused && !asked.dosing.length) {
				let alone = mean[0]!;
				let kept = true;
				for (let day = 0; day < asked.days; day++) {
					alone += Math.min(0.8 * healthyPerDay.up, Math.max(0, p.ideal! - alone));
					kept &&= alone >= low;
				}
				if (kept && mean.some((level) => level < low - slack))
					say('is left to its alarm beside a full bottle');
				if (alone >= band.lower && mean.at(-1)! < band.lower - 50 * slack)
					say('is left below its band beside a full bottle');
			}
			const harmed = mean.some((level) => level < low - slack || level > high + slack);
			if (harmed && !told) say('is left to its alarm, without a word');
			if (harmed && its.safe && mean[0]! >= low && mean[0]! <= high)
				say('is led into its alarm, and called safe');
			// Nothing is carried up faster than animals take, and nothing over its band by what is poured for it.
			const nothing = checkedPaths({ ...asked, dosing: asked.dosing }, [])[parameter]!.mean;
			mean.slice(1).forEach((level, day) => {
				const before = mean[day]!;
				const alone = nothing[day + 1]! - nothing[day]!;
				if (level - before > Math.max(healthyPerDay.up, alone) + slack)
					say(`rises by ${level - before} on day ${day}`);
			});
			// By more than a twentieth of it.
			const top = Math.max(...mean);
			if (top > Math.max(band.upper, mean[0]!, ...nothing) + 25 * slack && !told)
				say('is carried over its band, without a word');
		}
	}
	expect(faults).toEqual([]);
}, 600_000);
const mains: Record<string, string[]> = {
	NaHCO3: ['alkalinity'],
	'CaCl2.2H2O': ['calcium'],
	'MgCl2.6H2O': ['magnesium'],
	KNO3: ['nitrate'],
	'Ca(OH)2': ['alkalinity', 'calcium']
};
