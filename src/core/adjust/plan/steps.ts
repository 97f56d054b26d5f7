import { ONE_SIDED_95 } from '../../statistics';
import { nth } from '../../base';
import { MOST_PORTIONS, portionsOf } from '../pour';
import { fractionOn, type Changing } from './changing';
import { ROUNDED } from './limits';
import { named } from './names';
import { USUAL_PH } from './saturation';
import type { CorrectRequest, PlanStep } from './schema';
import { SURE_ENOUGH, type Level } from './level';
import type { Pourable, Situation } from './situation';
import { importanceOf } from './weights';

/** What a solved programme comes to as steps: pours, changes, the tests between them, and waiting. */

/** Of a healthy day: less is not worth going to the tank for. */
export const LEAST_POUR = 0.05;

/** Whether a level lies outside of its band. */
export const outside = (level: Level, mean: number): boolean =>
	(level.lower > 0 && mean < level.lower - ROUNDED * level.scale) ||
	mean > level.upper + ROUNDED * level.scale;

/** Pours and water changes of a solution. */
export function actsOf(
	request: CorrectRequest,
	situation: Situation,
	way: Changing,
	value: (name: string) => number
): PlanStep[] {
	const { pourables, days, levels, litres } = situation;
	const steps: PlanStep[] = [];
	for (let t = 0; t < days; t++) {
		pourables.forEach((pourable, i) => {
			const level = levels.find((l) => l.parameter === pourable.main);
			if (!level?.pourDays.includes(t) || level.mode[t] === 'none') return;
			const share = value(named.pour(i, t, level));
			if (share < LEAST_POUR) return;
			steps.push(pourStep(request, situation, pourable, t, share * pourable.most));
		});
		const fraction = fractionOn(t, way, situation);
		if (fraction > 0)
			steps.push({
				day: t,
				kind: 'water-change',
				fraction,
				amount: fraction * litres,
				unit: 'L',
				why: levels.some((l) => outside(l, nth(l.natural, t))) ? 'bring-home' : 'hold'
			});
	}
	return steps;
}

function pourStep(
	{ water }: CorrectRequest,
	situation: Situation,
	pourable: Pourable,
	day: number,
	amount: number
): PlanStep {
	const { levels, litres } = situation;
	const level = levels.find((l) => l.parameter === pourable.main);
	const measured = threeFigures(amount);
	const of = (parameter: string, usual: number) =>
		levels.find((l) => l.parameter === parameter)?.now ?? usual;
	const portions = portionsOf(measured, pourable.brings, litres, {
		salinity: water.salinity,
		temperatureC: water.temperatureC,
		ph: water.ph ?? USUAL_PH,
		alkalinity: of('alkalinity', 8),
		calcium: of('calcium', 425)
	});
	// No portion moves a level by more than a healthy day.
	const healthy = Math.max(
		1,
		...levels.map((l) =>
			Math.ceil(((pourable.effect[l.parameter] ?? 0) * measured) / Math.max(l.up, 1e-9) - 1e-6)
		)
	);
	return {
		day,
		kind: 'dose',
		parameter: pourable.main,
		supplement: pourable.id,
		amount: measured,
		unit: pourable.brings.per,
		portions: Math.min(Math.max(portions, healthy), MOST_PORTIONS),
		...(pourable.when ? { when: pourable.when } : {}),
		changes: Object.fromEntries(
			Object.entries(pourable.effect).map(([parameter, effect]) => [parameter, effect * measured])
		),
		why: level && level.now < level.lower && day < level.keptFrom ? 'bring-home' : 'hold'
	};
}

/** Nobody measures 12.3456 mL; downwards, so that rounding passes no limit. */
function threeFigures(amount: number): number {
	const unit = 10 ** (Math.floor(Math.log10(amount)) - 2);
	return Number((Math.floor(amount / unit + 1e-6) * unit).toPrecision(3));
}

/** A test before every second pour that rests on a number not sure by then, after the last one, and of what is refused. */
export function testsOf(situation: Situation, steps: PlanStep[]): PlanStep[] {
	const tests: PlanStep[] = [];
	for (const level of situation.levels) {
		const { parameter } = level;
		const test = (day: number, why: PlanStep['why']) => {
			if (day <= situation.days && !tests.some((s) => s.parameter === parameter && s.day === day))
				tests.push({ day, kind: 'test', parameter, why });
		};
		if (level.refused === 'odd') test(0, 'odd');
		if (level.refused === 'contradicts') test(0, 'contradicts');
		if (level.refused === 'unproved' || level.refused === 'unknown') test(0, 'unproved');
		if (level.refused === 'salinity-first') test(situation.salinityHome, 'salinity-first');
		if (parameter === 'salinity' && situation.salinityHome) test(situation.salinityHome, 'check');
		const pours = [
			...new Set(steps.filter((s) => s.kind === 'dose' && s.parameter === parameter).map((s) => s.day))
		].sort((a, b) => a - b);
		let tested = 0;
		pours.forEach((day, i) => {
			const known = Math.hypot(level.sd, (day - tested) * level.useSd);
			// Nor by one that days have made unsure before the first.
			if ((i % 2 === 0 && (i > 0 || day === 0)) || ONE_SIDED_95 * known <= SURE_ENOUGH * level.scale) return;
			test(day, 'before-acting');
			tested = day;
		});
		// When it should be home that is looked at, and again after the last pour.
		if (pours.some((day) => day < level.keptFrom)) test(level.keptFrom, 'check');
		const last = pours.at(-1);
		if (last !== undefined) test(last + 1, 'check');
	}
	return tests;
}

const ORDER: Record<PlanStep['kind'], number> = {
	test: 0,
	'dosing-rate': 1,
	salt: 2,
	'fresh-water': 2,
	'water-change': 3,
	dose: 4,
	wait: 5
};
export const inOrder = (steps: PlanStep[]): PlanStep[] =>
	[...steps].sort(
		(a, b) =>
			a.day - b.day ||
			ORDER[a.kind] - ORDER[b.kind] ||
			(a.when === 'evening' ? 1 : 0) - (b.when === 'evening' ? 1 : 0) ||
			importanceOf(b.parameter ?? '') - importanceOf(a.parameter ?? '')
	);

/** Where nothing is to be done, that is said: today there is always a line. */
export function withWaits(steps: PlanStep[], { days, levels }: Situation): PlanStep[] {
	if (steps.some((s) => s.day === 0)) return steps;
	const later = steps.some((s) => s.day < days);
	const why = later
		? 'hold'
		: levels.some((l) => l.refused !== undefined || outside(l, l.now))
			? 'out'
			: 'check';
	return [{ day: 0, kind: 'wait', why }, ...steps];
}
