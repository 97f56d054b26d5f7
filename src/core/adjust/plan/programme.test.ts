import { describe, expect, it } from 'vitest';
import { follow } from './follow';
import { waysOfChanging } from './changing';
import { named } from './names';
import { programmeOf } from './programme';
import type { CorrectRequest, PlanStep } from './schema';
import type { Wish } from './wishes';
import { riseMargin } from './level';
import { situationOf, type Situation } from './situation';
import { ONE_SIDED_95, uniform } from '../../statistics';
import { tries } from '../../../../tests/support/length';
import {
	SODA,
	CHLORIDE,
	alkalinity,
	calcium,
	request,
	scoreOf,
	solver
} from '../../../../tests/support/plans';

/**
 * Whether steps keep the rules, said once more from the levels they give: no day over a healthy one with the net volume's error, no far
 * limit passed with 95 %, what waits is held.
 */
function keepsRules(situation: Situation, asked: CorrectRequest, steps: PlanStep[]): boolean {
	const path = follow(situation, asked.change?.water, steps);
	return situation.levels.every((level) => {
		const its = path[level.parameter]!;
		let since = 0;
		return its.slice(1).every(({ mean }, t) => {
			const before = its[t]!.mean;
			const nature = level.natural[t + 1]! - level.natural[t]!;
			const today = steps.filter((s) => s.day === t);
			const poured = today.reduce((sum, s) => sum + (s.changes?.[level.parameter] ?? 0), 0);
			const fraction = today.find((s) => s.kind === 'water-change')?.fraction ?? 0;
			const fresh = asked.change?.water[level.parameter];
			const exchange = fresh === undefined ? 0 : fraction * (fresh - before);
			const slack = 3e-6 * level.scale;
			if (level.pourDays.indexOf(t) % 2 === 1) since = 0;
			since += poured;
			const margin = riseMargin(situation, level);
			const room = Math.max(level.up - margin.always, nature);
			const acts = poured > 0 || fraction > 0;
			if (acts && mean - before + margin.perPour * poured > room + slack) return false;
			if (acts && mean - before < Math.min(-level.down, nature) - slack) return false;
			if (exchange > level.up + slack || exchange < -level.down - slack) return false;
			if (level.mode[t] === 'hold' && poured > Math.max(0, level.use) + slack) return false;
			const a = level.spread[t + 1]!;
			const chord = (Math.hypot(a, situation.volumeError * 2 * level.up) - a) / (2 * level.up);
			const far = Math.max(level.upper - ONE_SIDED_95 * a, level.natural[t + 1]!);
			return since === 0 || mean + ONE_SIDED_95 * chord * since <= far + slack;
		});
	});
}

/** What is free: each day's pour until a level is kept, and one amount for some days from then on. */
function slotsOf(situation: Situation): { s: number; days: number[] }[] {
	return situation.pourables.flatMap((p, s) => {
		const level = situation.levels.find((l) => l.parameter === p.main);
		const days = level?.pourDays.filter((t) => level.mode[t] !== 'none') ?? [];
		const slots = new Map<string, number[]>();
		for (const t of days) {
			const name = named.pour(s, t, level!);
			slots.set(name, [...(slots.get(name) ?? []), t]);
		}
		return [...slots.values()].map((of) => ({ s, days: of }));
	});
}

/** Tries every way of pouring thirds of the most and of changing or not, then all neighbours of the best, ever nearer. */
function searched(situation: Situation, asked: CorrectRequest): number {
	const slots = slotsOf(situation);
	const worth = (fraction: number, shares: number[]): number => {
		if (shares.some((x) => x < 0 || x > 1 + 1e-9)) return Infinity;
		const steps = slots.flatMap(({ s, days }, i) =>
			shares[i] ? days.map((day) => pourOf(situation, s, day, shares[i]!)) : []
		);
		if (fraction) steps.push(changeOf(situation, fraction));
		return keepsRules(situation, asked, steps) ? scoreOf(asked, situation, steps) : Infinity;
	};
	// Whether there is a pour or a change at all is a yes or no: the best of each such pattern is followed.
	const bests = new Map<string, { score: number; fraction: number; shares: number[] }>();
	const look = (key: string, fraction: number, shares: number[]) => {
		const score = worth(fraction, shares);
		if (score < (bests.get(key)?.score ?? Infinity)) bests.set(key, { score, fraction, shares });
	};
	for (const fraction of situation.changeDays.length ? [0, ...situation.fractions] : [0])
		for (let code = 0; code < 4 ** slots.length; code++) {
			const shares = slots.map((_, i) => (Math.floor(code / 4 ** i) % 4) / 3);
			look(`${fraction} ${shares.map((x) => (x ? 1 : 0))}`, fraction, shares);
		}
	const least = () => Math.min(...[...bests.values()].map((b) => b.score));
	const coarse = least();
	for (const [key, { score }] of bests) {
		if (score > coarse + WORTH_A_LOOK) continue;
		for (let by = 1 / 6; by > 1 / 100; by /= 2) {
			const { fraction, shares } = bests.get(key)!;
			for (let code = 0; code < 3 ** slots.length; code++)
				look(
					key,
					fraction,
					shares.map((x, i) => x + by * ((Math.floor(code / 3 ** i) % 3) - 1))
				);
		}
	}
	return least();
}
/** So much a search in thirds may be off. */
const WORTH_A_LOOK = 0.2;

function pourOf(situation: Situation, s: number, day: number, share: number): PlanStep {
	const pourable = situation.pourables[s]!;
	const amount = share * pourable.most;
	const changes = Object.fromEntries(Object.entries(pourable.effect).map(([p, e]) => [p, e * amount]));
	return {
		day,
		kind: 'dose',
		parameter: pourable.main,
		supplement: pourable.id,
		amount,
		changes,
		why: 'hold'
	};
}
const changeOf = (situation: Situation, fraction: number): PlanStep => ({
	day: situation.changeDays[0]!,
	kind: 'water-change',
	fraction,
	amount: fraction * situation.litres,
	why: 'hold'
});

describe('the programme', () => {
	it('finds what a search of every way finds, or better, on small tanks, and its worth is what following it gives', () => {
		const random = uniform(3);
		let met = 0;
		const SMALL = tries(60, 200);
		for (let i = 0; i < SMALL; i++) {
			const two = i % 2 === 1;
			const parameters = [
				alkalinity(6.6 + 2.6 * random(), {
					usePerDay: { mean: 0.5 * random(), standardDeviation: 0.05 * random() }
				}),
				...(two ? [calcium(390 + 60 * random())] : [])
			];
			const asked = request(parameters, {
				days: two ? 3 : 4,
				supplements: two ? [SODA, CHLORIDE] : [SODA],
				prefer: (['soonest', 'least', 'fewest'] as Wish[])[i % 3]!,
				water: {
					volumeL: { value: 200, standardUncertainty: 25 * random() },
					salinity: 35,
					temperatureC: 25
				},
				...(random() < 0.5
					? {
							change: {
								water: { alkalinity: 7 + 3 * random(), calcium: 430 },
								largestFraction: 0.3,
								everyDays: 30,
								costPerL: random() / 10
							}
						}
					: {}),
				// A glass is moved by hand, some further than they can go.
				...(i % 5 === 0
					? { moves: [{ supplement: 'NaHCO3', from: 0, to: 1 + (i % 2), amount: 10 + 25 * (i % 3) }] }
					: {})
			});
			const prepared = situationOf(asked);
			if (!prepared.ok) throw new Error();
			const situation = prepared.value;
			const all = waysOfChanging(situation, asked.change).map((way) => ({
				way,
				its: solver.solve(programmeOf(asked, situation, way), { mip_rel_gap: 1e-7, output_flag: false })
			}));
			expect(all[0]!.its.Status).toBe('Optimal');
			const { way, its: found } = all
				.filter(({ its }) => its.Status === 'Optimal')
				.reduce((a, b) => (b.its.ObjectiveValue < a.its.ObjectiveValue ? b : a));
			const value = (name: string) => found.Columns[name]?.Primal ?? 0;
			const steps = situation.pourables.flatMap((p, s) => {
				const level = situation.levels.find((l) => l.parameter === p.main)!;
				return level.pourDays.flatMap((t) => {
					const share = value(named.pour(s, t, level));
					return share > 1e-9 ? [pourOf(situation, s, t, share)] : [];
				});
			});
			if (way.first > 0) steps.push(changeOf(situation, way.first));
			// Independent of the programme: mass balance gives the same worth, and the same rules hold.
			expect(keepsRules(situation, asked, steps), `case ${i}`).toBe(true);
			expect(scoreOf(asked, situation, steps)).toBeCloseTo(found.ObjectiveValue, 4);
			const best = searched(situation, asked);
			expect(found.ObjectiveValue, `case ${i}`).toBeLessThanOrEqual(best + 1e-6);
			if (found.ObjectiveValue > 0.98 * best - 0.01) met++;
		}
		// The search goes in steps and is caught in corners now and then; where it is not, it ends where the programme does.
		expect(met).toBeGreaterThan(0.85 * SMALL);
	}, 120_000);
});
