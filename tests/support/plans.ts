import type { Supplement } from '../../src/core/adjust/supplement';
import { nth } from '../../src/core/base';
import { correct } from '../../src/core/adjust/plan/correct';
import { follow } from '../../src/core/adjust/plan/follow';
import { shortOf } from '../../src/core/adjust/plan/risks';
import type { Situation } from '../../src/core/adjust/plan/situation';
import { importanceOf, MOVED, WEIGHTS } from '../../src/core/adjust/plan/weights';
import type { CorrectRequest, CorrectResult, PlanStep } from '../../src/core/adjust/plan/schema';
import { loadSolver } from '../../src/core/adjust/plan/solver';

/** Tanks, bottles and plans, for the planner's tests. */

export const solver = await loadSolver();

export const solution = (salt: string, gramsPerL: number): Supplement => ({
	format: 'tevrik.supplement/1',
	id: salt,
	name: salt,
	kind: 'solution',
	composition: { recipe: { salt, gramsPerL } }
});
export const SODA = solution('NaHCO3', 80);
/** A bottle of which 20 mL in 100 L raise alkalinity by a dKH, by its label. */
export const LABELLED: Supplement = {
	format: 'tevrik.supplement/1',
	id: 'soda',
	name: 'Soda',
	kind: 'solution',
	composition: {
		label: { amount: 20, unit: 'mL', waterL: 100, raises: { parameter: 'alkalinity', value: 1, unit: 'dKH' } }
	}
};
export const CHLORIDE = solution('CaCl2.2H2O', 150);
export const MAGNESIUM = solution('MgCl2.6H2O', 300);
const POTASH = solution('KCl', 100);

export type Parameter = CorrectRequest['parameters'][number];
export const alkalinity = (mean: number, more: Partial<Parameter> = {}): Parameter => ({
	parameter: 'alkalinity',
	unit: 'dKH',
	now: { mean, standardDeviation: 0.12 },
	usePerDay: { mean: 0.2, standardDeviation: 0.03 },
	band: { lower: 8, upper: 9.5 },
	ideal: 8.7,
	alarm: [6, 12],
	healthyPerDay: { up: 0.5, down: 0.5 },
	...more
});
export const calcium = (mean: number, more: Partial<Parameter> = {}): Parameter => ({
	parameter: 'calcium',
	unit: 'mg/L',
	now: { mean, standardDeviation: 7 },
	usePerDay: { mean: 1.5, standardDeviation: 0.3 },
	band: { lower: 410, upper: 460 },
	ideal: 430,
	alarm: [350, 520],
	healthyPerDay: { up: 20, down: 20 },
	...more
});
export const magnesium = (mean: number): Parameter => ({
	parameter: 'magnesium',
	unit: 'mg/L',
	now: { mean, standardDeviation: 20 },
	usePerDay: { mean: 1, standardDeviation: 0.5 },
	band: { lower: 1250, upper: 1400 },
	ideal: 1330,
	alarm: [1100, 1600],
	healthyPerDay: { up: 50, down: 50 }
});
export const potassium = (mean: number): Parameter => ({
	parameter: 'potassium',
	unit: 'mg/L',
	now: { mean, standardDeviation: 4 },
	usePerDay: { mean: 0.5, standardDeviation: 0.1 },
	band: { lower: 380, upper: 420 },
	healthyPerDay: { up: 10, down: 10 }
});
export const salinity = (mean: number): Parameter => ({
	parameter: 'salinity',
	unit: 'PSU',
	now: { mean, standardDeviation: 0.2 },
	usePerDay: { mean: 0, standardDeviation: 0.02 },
	band: { lower: 34, upper: 36 },
	ideal: 35,
	alarm: [30, 39],
	healthyPerDay: { up: 1.3, down: 1.3 }
});
export const request = (parameters: Parameter[], more: Partial<CorrectRequest> = {}): CorrectRequest => ({
	now: '2026-05-06T20:00:00Z',
	days: 14,
	water: { volumeL: { value: 200, standardUncertainty: 10 }, salinity: 35, temperatureC: 25 },
	parameters,
	dosing: [],
	supplements: [SODA, CHLORIDE, MAGNESIUM, POTASH],
	prefer: 'soonest',
	...more
});
export function plan(parameters: Parameter[], more: Partial<CorrectRequest> = {}): CorrectResult {
	const made = correct(request(parameters, more), solver);
	if (!made.ok) throw new Error(JSON.stringify(made.problems));
	return made.value;
}
export const of = (steps: PlanStep[], kind: PlanStep['kind'], parameter?: string) =>
	steps.filter((s) => s.kind === kind && (parameter === undefined || s.parameter === parameter));

/** What the programme's weights make of a path and what it took: less is better. For comparing plans, in days a band away. */
export function scoreOf(request: CorrectRequest, situation: Situation, steps: PlanStep[]): number {
	const weights = WEIGHTS[request.prefer];
	const path = follow(situation, request.change?.water, steps);
	let score = 0;
	for (const level of situation.levels) {
		const its = path[level.parameter] ?? [];
		for (let t = 1; t < its.length; t++) {
			const mean = nth(its, t).mean;
			const end = t === situation.days ? weights.end : 0;
			const importance = importanceOf(level.parameter);
			const off = (low: number, high: number) =>
				(Math.max(0, level.lower > 0 ? low - mean : 0) + Math.max(0, mean - high)) / level.scale;
			score += importance * (weights.out + end) * off(level.lower, level.upper);
			if (!level.wants) continue;
			score += importance * (weights.unsure + 0.3 * end) * off(...level.sure);
			score += importance * weights.inner * off(...level.inner);
		}
	}
	for (const step of steps) {
		const pourable = situation.pourables.find((s) => s.id === step.supplement);
		if (step.kind === 'dose' && pourable)
			score +=
				((step.amount ?? 0) / pourable.most) * weights.pour +
				weights.act +
				weights.money * pourable.price * (step.amount ?? 0);
		if (step.kind === 'water-change')
			score +=
				weights.change * (0.5 + (step.fraction ?? 0)) +
				weights.money * (request.change?.costPerL ?? 0) * (step.amount ?? 0);
	}
	for (const short of shortOf(request, situation, steps)) score += MOVED * short.share;
	return score;
}
