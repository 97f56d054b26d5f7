import { afterEach, beforeAll, describe, expect, it } from 'vitest';
import {
	correct,
	loadSolver,
	type CorrectRequest,
	type PlanStep,
	type Solver,
	type Supplement
} from '$core/adjust';
import type { Habits } from '$lib/api/habits';
import { habitsFrom } from '../habits';
import { canMove, moveOf, movesInWords, planView, poursView, priceOf } from './plan-view';

let solver: Solver;
beforeAll(async () => {
	solver = await loadSolver();
});
const as = (habits: Habits) => habitsFrom(() => habits);
afterEach(() => as({}));

const bottle = (id: string, salt: string, gramsPerL: number, more: Partial<Supplement> = {}): Supplement => ({
	format: 'tevrik.supplement/1',
	id,
	name: `${id} bottle`,
	kind: 'solution',
	composition: { recipe: { salt, gramsPerL } },
	...more
});
const request: CorrectRequest = {
	now: '2026-05-06T20:00:00Z',
	days: 10,
	water: { volumeL: { value: 200, standardUncertainty: 20 }, salinity: 35, temperatureC: 25 },
	parameters: [
		{
			parameter: 'alkalinity',
			unit: 'dKH',
			now: { mean: 7.2, standardDeviation: 0.1 },
			usePerDay: { mean: 0.2, standardDeviation: 0.03 },
			band: { lower: 8, upper: 9.5 },
			ideal: 8.7,
			alarm: [6, 12],
			healthyPerDay: { up: 0.5, down: 0.5 }
		},
		{
			parameter: 'calcium',
			unit: 'mg/L',
			now: { mean: 395, standardDeviation: 6 },
			usePerDay: { mean: 1.4, standardDeviation: 0.3 },
			band: { lower: 410, upper: 460 },
			ideal: 430,
			alarm: [350, 520],
			healthyPerDay: { up: 20, down: 20 }
		},
		{
			parameter: 'nitrate',
			unit: 'mg/L NO3',
			now: { mean: 30, standardDeviation: 2 },
			usePerDay: { mean: 0, standardDeviation: 0.1 },
			band: { lower: 2, upper: 10 },
			healthyPerDay: { up: 2.5, down: 7.5 }
		}
	],
	dosing: [{ supplement: 'soda', mlPerDay: 0 }],
	supplements: [
		bottle('soda', 'Na2CO3', 80, { pricePerUnit: 0.01 }),
		bottle('lime chloride', 'CaCl2.2H2O', 1, {
			kind: 'powder',
			composition: { recipe: { salt: 'CaCl2.2H2O' } },
			spoonG: 12
		})
	],
	change: { water: { alkalinity: 8, calcium: 420, nitrate: 0 }, largestFraction: 0.2, everyDays: 7 },
	prefer: 'soonest'
};
function viewOf(asked: CorrectRequest, evening = false) {
	const made = correct(asked, solver);
	if (!made.ok) throw new Error(JSON.stringify(made.problems));
	return { view: planView(asked, made.value, {}, evening), result: made.value };
}

describe('a plan as it is shown', () => {
	it('says what, how much and when, in what the keeper measures with', () => {
		const { view } = viewOf(request);
		const said = view.steps.map((s) => `${s.what} ${s.manner}`).join('\n');
		expect(said).toMatch(/\d mL of soda bottle in the morning/);
		expect(said).toMatch(/\d level spoons? \([\d.]+ g\) of lime chloride bottle in the evening/);
		expect(said).toMatch(/Change [\d.]+ L of water, \d+ %/);
		expect(view.steps.find((s) => s.kind === 'dose')?.does).toMatch(/^\+0\.\d+ dKH$/);
	});
	it('begins in the evening when it is made then, the two hours apart', () => {
		const { view } = viewOf(request, true);
		const today = view.steps.filter((s) => s.day === 0 && s.kind === 'dose');
		expect(today.map((s) => s.manner)).toEqual(
			today.length > 1 ? ['tonight', 'hours after it, or tomorrow morning instead'] : ['tonight']
		);
		expect(view.steps.find((s) => s.day === 2 && s.kind === 'dose')?.manner).toBe('in the morning');
	});
	it('speaks in the person’s units and sign', () => {
		as({ units: { alkalinity: 'ppm CaCO3', volume: 'US gal', dose: 'oz' }, language: 'de-DE' });
		const { view } = viewOf(request);
		const level = view.levels.find((l) => l.parameter === 'alkalinity')!;
		expect(level.now.value).toBeCloseTo(7.2 * 17.848, 3);
		expect(level.path[0]!.mean).toBeCloseTo(level.now.value, 6);
		expect(level.band.lower).toBeCloseTo(143, 4);
		const said = view.steps.map((s) => `${s.what} ${s.does}`).join('\n');
		expect(said).toMatch(/US gal of water/);
		expect(said).toMatch(/\+\d+(,\d)? ppm CaCO/);
		expect(said).toMatch(/\(\d+,?\d* oz\)/);
		expect(said).not.toMatch(/dKH|\d L of/);
	});
	it('tells what is not brought home, what to mind and what it costs', () => {
		const { view, result } = viewOf(request);
		const said = view.says.map((s) => s.text).join('\n');
		expect(said).toMatch(/Nitrate needs more than 10 days\. Feed less/);
		expect(said).toMatch(/net volume is known to 10 % only/);
		expect(view.cautions.map((c) => c.name)).toEqual(['soda bottle', 'lime chloride bottle']);
		expect(view.cautions[0]!.says.join(' ')).toMatch(/burns.*pH.*precipitate/);
		expect(view.price).toMatchObject({ home: null, pours: result.cost.pours, safe: true });
		expect(view.price.poured).toMatch(/mL and .* g$/);
		expect(view.price.money).toBeCloseTo((result.cost.amounts['soda'] ?? 0) * 0.01, 6);
	});
	it('shows what was done, left out and poured otherwise', () => {
		const { result } = viewOf(request);
		const at = '2026-05-06T21:00:00Z';
		const view = planView(request, result, {
			0: { at, events: ['a'] },
			1: { at, amount: 3, events: ['b'] },
			2: { at, leftOut: true, events: [] }
		});
		expect(view.steps.slice(0, 4).map((s) => s.done)).toEqual([
			{ amount: undefined, leftOut: undefined },
			{ amount: 3, leftOut: undefined },
			{ amount: undefined, leftOut: true },
			undefined
		]);
	});
	it('keeps a dosing pump that is right, and says so', () => {
		const fine: CorrectRequest = {
			...request,
			parameters: [{ ...request.parameters[0]!, now: { mean: 8.7, standardDeviation: 0.1 } }],
			// 10 mL of 80 g/L in 200 L are 0.21 dKH.
			dosing: [{ supplement: 'soda', mlPerDay: 10 }]
		};
		const { view } = viewOf(fine);
		expect(view.steps.some((s) => s.kind === 'dosing-rate')).toBe(false);
		expect(view.says.map((s) => s.text).join()).toMatch(/Dosing pump, soda bottle: keep 10 mL a day/);
		const other = viewOf({ ...fine, dosing: [{ supplement: 'soda', mlPerDay: 2 }] });
		expect(other.view.steps.find((s) => s.kind === 'dosing-rate')?.what).toMatch(
			/Set the dosing pump to .* mL a day/
		);
	});
	it('says that there is nothing to pour and what to test first, and of an uncertain level that it is uncertain', () => {
		const alone = (parameter: CorrectRequest['parameters'][number]) => {
			const { change: _change, ...rest } = request;
			return viewOf({ ...rest, dosing: [], supplements: [], parameters: [parameter] }).view;
		};
		const potassium = {
			parameter: 'potassium',
			unit: 'mg/L',
			now: { mean: 350, standardDeviation: 10 },
			usePerDay: { mean: 0, standardDeviation: 0.3 },
			band: { lower: 380, upper: 420 },
			healthyPerDay: { up: 10, down: 10 },
			unproved: true
		};
		expect(alone(potassium).idle).toBe('Nothing to dose. Test potassium first.');
		const phosphate = {
			parameter: 'phosphate',
			unit: 'mg/L PO4',
			now: { mean: 0, standardDeviation: 0.012 },
			usePerDay: { mean: 0, standardDeviation: 0.001 },
			band: { lower: 0.02, upper: 0.1 },
			healthyPerDay: { up: 0.02, down: 0.05 }
		};
		const unsure = alone(phosphate);
		expect(unsure.levels[0]!.unsure).toBe(true);
		expect(unsure.says.map((s) => s.text).join()).not.toMatch(/needs more than/);
		expect(unsure.price.home).not.toBeNull();
		const low = alone({ ...phosphate, now: { mean: 0.002, standardDeviation: 0.001 } });
		expect(low.levels[0]!.state).toBe('below');
		expect(low.price.home).toBeNull();
		// What there is to do has its price.
		expect(viewOf(request).view.idle).toBeNull();
	});
	it('warns first of what is no plan to follow', () => {
		const { view } = viewOf({
			...request,
			parameters: [
				{
					...request.parameters[0]!,
					usePerDay: { mean: 1.2, standardDeviation: 0.05 },
					now: { mean: 8, standardDeviation: 0.1 }
				}
			],
			dosing: [],
			supplements: [],
			change: undefined as never
		});
		expect(view.safe).toBe(false);
		expect(view.says[0]).toMatchObject({ tone: 'brick' });
		expect(view.says[0]!.text).toMatch(
			/^Do not follow this plan\. Alkalinity would fall to .* the safe limit is 6 dKH\. Consumption is 1\.2 dKH a day/
		);
		expect(view.price.safe).toBe(false);
	});
	it('has a price by which wishes are compared, and pours for the bench', () => {
		const { result } = viewOf(request);
		expect(priceOf(request, result).pours).toBe(result.steps.filter((s) => s.kind === 'dose').length);
		const steps = result.steps.map((step, place) => ({ place, step, date: '2026-05-06' }));
		const pours = poursView({ plan: 'p', steps, request });
		expect(pours.steps.map((s) => s.place)).toEqual(steps.map((s) => s.place));
		expect(pours.steps.every((s) => s.what.length > 5)).toBe(true);
	});
	it('says what was moved by hand, and what of tonight’s pours has to stand apart', () => {
		const bottle = request.supplements[0]!;
		const asked = {
			...request,
			moves: [
				{ supplement: bottle.id, from: 0, to: 3, amount: 12.34 },
				{ from: 7, to: 6 }
			]
		};
		expect(movesInWords(asked, (day) => `day ${day}`)).toEqual([
			`12.3 mL of ${bottle.name} from day 0 to day 3`,
			'The water change from day 7 to day 6'
		]);
		const pour = (when: 'morning' | 'evening', parameter: string): PlanStep => ({
			day: 0,
			kind: 'dose',
			supplement: bottle.id,
			parameter,
			amount: 5,
			unit: 'mL',
			when,
			changes: { [parameter]: 1 },
			why: 'hold'
		});
		const steps = [pour('morning', 'alkalinity'), pour('evening', 'calcium')].map((step, place) => ({
			place,
			step,
			date: '2026-05-06'
		}));
		const tonight = poursView({ plan: 'p', steps, request }, true).steps;
		expect(tonight.map((s) => s.apart)).toEqual([false, true]);
		expect(tonight.map((s) => s.moves)).toEqual([['alkalinity'], ['calcium']]);
		expect(tonight[1]!.manner).toMatch(/tomorrow morning|hours after/);
		expect(poursView({ plan: 'p', steps: steps.slice(1), request }, true).steps[0]!.apart).toBe(false);
	});
	it('moves pours and water changes, and nothing else', () => {
		const { view } = viewOf(request);
		for (const step of view.steps)
			expect(canMove(step), step.kind).toBe(['dose', 'water-change'].includes(step.kind));
		const dose = view.steps.find((s) => s.kind === 'dose')!;
		expect(moveOf(dose, 1, 4)).toEqual({ from: 1, to: 4, supplement: dose.supplement, amount: dose.amount });
	});
});
