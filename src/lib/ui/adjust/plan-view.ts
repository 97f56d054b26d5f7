import { COVERAGE_95 } from '$core/statistics';
import {
	MOST_PORTIONS,
	NOT_KNOWN,
	compositionOf,
	type Caution,
	type CorrectRequest,
	type CorrectResult,
	type Move,
	type PlanStep
} from '$core/adjust';
import { parameterOf } from '$core/catalogue';
import { placeInBand, type Placing } from '$core/targets';
import type { KeptPlan } from '$lib/api/plans';
import { bandFor, changeFor, valueFor } from '../mine';
import {
	amountInWords,
	cautionInWords,
	changeInWords,
	dosingPumpKeptInWords,
	idleInWords,
	mannerInWords,
	notHomeInWords,
	reasonInWords,
	refusalInWords,
	riskInWords,
	type Bottle,
	stepInWords,
	unsureInWords
} from '../words/adjust';

/** A plan as it is shown: words and this person’s units, so that what draws it need not think. */
export interface StepView {
	place: number;
	day: number;
	kind: PlanStep['kind'];
	parameter: string | undefined;
	title: string;
	what: string;
	does: string;
	manner: string;
	why: string;
	amount: number;
	unit: string;
	/** Of what it is poured. */
	supplement: string | undefined;
	/** How full its glass is: of a healthy day. */
	fill: number;
	done?: { amount?: number | undefined; leftOut?: boolean | undefined };
}
export interface LevelView {
	parameter: string;
	title: string;
	now: { value: number; error: number };
	state: Placing['state'];
	/** Not known to be in its band, nor out of it. */
	unsure: boolean;
	band: { lower: number; upper: number };
	/** Day it is home, null within the plan never. */
	home: number | null;
	path: { day: number; mean: number; low: number; high: number }[];
}
export interface PlanView {
	days: number;
	levels: LevelView[];
	steps: StepView[];
	says: { tone: 'brick' | 'saffron' | 'plain'; text: string }[];
	cautions: { name: string; says: string[] }[];
	price: Price;
	safe: boolean;
	/** Said in place of what it costs, where there is nothing to do. */
	idle: string | null;
}
export interface Price {
	/** Days until all are home; null: not within the plan. */
	home: number | null;
	/** Days on which some level is out of its band. */
	daysOut: number;
	pours: number;
	poured: string;
	water: string;
	money: number;
	safe: boolean;
	proved: boolean;
}

/** Whether a level is in its band or out of it is not known: its interval holds both. */
const isUnsure = ({ now, band }: CorrectRequest['parameters'][number]): boolean => {
	const [low, high] = [
		now.mean - COVERAGE_95 * now.standardDeviation,
		now.mean + COVERAGE_95 * now.standardDeviation
	];
	return high > band.lower && low < band.upper && (low < band.lower || high > band.upper);
};

export function priceOf(request: CorrectRequest, result: CorrectResult): Price {
	// Of what is not known to be out nobody can say when it is home.
	const homes = request.parameters.flatMap((p) => {
		const home = result.home[p.parameter];
		return home === undefined || (home === null && isUnsure(p)) ? [] : [home];
	});
	const units = new Map(request.supplements.map((s) => [s.id, compositionOf(s)]));
	const sums = { mL: 0, g: 0 };
	for (const [id, amount] of Object.entries(result.cost.amounts)) {
		const its = units.get(id);
		sums[its?.ok ? its.value.per : 'mL'] += amount;
	}
	const poured = (['mL', 'g'] as const).flatMap((unit) =>
		sums[unit] > 0 ? [amountInWords(sums[unit], unit)] : []
	);
	return {
		home: homes.some((h) => h === null) ? null : Math.max(0, ...homes.map((h) => h ?? 0)),
		daysOut: result.cost.daysOut,
		pours: result.cost.pours,
		poured: poured.join(' and ') || 'nothing',
		water: result.cost.waterL > 0 ? amountInWords(result.cost.waterL, 'L') : '',
		money: result.cost.money,
		safe: result.safe,
		proved: result.proved
	};
}

/** A plan's steps as they are read: what to do, what it does, how and why. */
function stepViews(
	request: CorrectRequest,
	result: CorrectResult,
	done: KeptPlan['done'],
	evening: boolean
): StepView[] {
	const pouredOn = (day: number) =>
		new Set(result.steps.flatMap((s) => (s.day === day && s.kind === 'dose' ? [s.when] : [])));
	return result.steps.map((step, place): StepView => {
		const its = request.parameters.find((p) => p.parameter === step.parameter);
		const supplement = request.supplements.find((s) => s.id === step.supplement);
		const change = step.parameter ? step.changes?.[step.parameter] : undefined;
		const ticked = done[place];
		return {
			place,
			day: step.day,
			kind: step.kind,
			parameter: step.parameter,
			title: step.parameter ? (parameterOf(step.parameter)?.title ?? step.parameter) : '',
			what: stepInWords(step, supplement),
			does:
				change === undefined || !its || step.kind === 'dosing-rate'
					? ''
					: changeInWords(step.parameter ?? '', change, its.now.mean),
			manner: mannerInWords(
				step,
				MOST_PORTIONS,
				evening && step.day === 0,
				pouredOn(step.day).has('morning') && pouredOn(step.day).has('evening')
			),
			why: reasonInWords(step),
			supplement: step.supplement,
			amount: step.amount ?? 0,
			unit: step.unit ?? '',
			fill: its && change ? Math.min(1, Math.abs(change) / its.healthyPerDay.up) : 0.6,
			...(ticked ? { done: { amount: ticked.amount, leftOut: ticked.leftOut } } : {})
		};
	});
}

/** A level and its way through the plan, in the person's unit. */
function levelView(p: CorrectRequest['parameters'][number], result: CorrectResult): LevelView {
	const { parameter, now } = p;
	const error = COVERAGE_95 * Math.abs(changeFor(parameter, now.standardDeviation, now.mean));
	return {
		parameter,
		title: parameterOf(parameter)?.title ?? parameter,
		now: { value: valueFor(parameter, now.mean), error },
		state: placeInBand(now.mean, Math.max(now.standardDeviation, 1e-9), p.band).state,
		unsure: isUnsure(p),
		band: bandFor(parameter, p.band),
		home: result.home[parameter] ?? null,
		path: (result.path[parameter] ?? []).map(({ day, mean, sd }) => ({
			day,
			mean: valueFor(parameter, mean),
			low: valueFor(parameter, Math.max(0, mean - COVERAGE_95 * sd)),
			high: valueFor(parameter, mean + COVERAGE_95 * sd)
		}))
	};
}

/** All that is said of a plan: its risks, what it leaves, what does not come home, and pumps it leaves alone. */
function saysOf(request: CorrectRequest, result: CorrectResult): PlanView['says'] {
	const bottles = Object.fromEntries(
		request.supplements.map((s): [string, Bottle] => {
			const its = compositionOf(s);
			return [s.id, { name: s.name, unit: its.ok ? its.value.per : 'mL' }];
		})
	);
	const notHome = request.parameters.flatMap((p) => {
		const end = result.path[p.parameter]?.at(-1)?.mean;
		if (end === undefined || result.home[p.parameter] !== null) return [];
		// What is said of it already needs no second sentence.
		if ([...result.refused, ...result.risks].some((r) => r.parameter === p.parameter)) return [];
		const text = isUnsure(p)
			? unsureInWords(p.parameter)
			: notHomeInWords(p.parameter, end > p.band.upper, request.days);
		return [{ tone: 'plain' as const, text }];
	});
	// A dosing pump that is left alone is said to be right, or its use not known well enough to say otherwise.
	const kept = request.dosing.flatMap(({ supplement, mlPerDay }) => {
		const changed = result.steps.some((s) => s.kind === 'dosing-rate' && s.supplement === supplement);
		const name = bottles[supplement]?.name;
		return changed || !name
			? []
			: [{ tone: 'plain' as const, text: dosingPumpKeptInWords(name, amountInWords(mlPerDay, 'mL/day')) }];
	});
	return [
		...result.risks.map((r) => ({
			tone: r.kind === 'alarm' ? ('brick' as const) : ('saffron' as const),
			text: riskInWords(r, bottles)
		})),
		...result.refused.map((r) => ({ tone: 'saffron' as const, text: refusalInWords(r) })),
		...notHome,
		...kept
	];
}

/** The cautions of each supplement that the plan gives. */
function cautionsOf(request: CorrectRequest, result: CorrectResult): PlanView['cautions'] {
	const used = new Set(result.steps.flatMap((s) => (s.supplement ? [s.supplement] : [])));
	return request.supplements.flatMap((s) => {
		if (!used.has(s.id)) return [];
		const its = compositionOf(s);
		const cautions: Caution[] = its.ok ? its.value.cautions : [];
		return cautions.length ? [{ name: s.name, says: cautions.map(cautionInWords) }] : [];
	});
}

export function planView(
	request: CorrectRequest,
	result: CorrectResult,
	done: KeptPlan['done'] = {},
	/** Whether the day it was made was an evening already. */
	evening = false
): PlanView {
	const steps = stepViews(request, result, done, evening);
	const levels = request.parameters.map((p) => levelView(p, result));
	return {
		days: request.days,
		levels,
		steps,
		says: saysOf(request, result),
		cautions: cautionsOf(request, result),
		price: priceOf(request, result),
		safe: result.safe,
		idle: steps.some((s) => !['wait', 'test'].includes(s.kind))
			? null
			: idleInWords(
					result.refused.filter(({ why }) => NOT_KNOWN.includes(why)).map(({ parameter }) => parameter),
					levels.every((l) => l.home !== null)
				)
	};
}

/** What is to be poured today, for the bench and the wall. */
export interface PoursView {
	plan: string;
	steps: {
		place: number;
		kind: PlanStep['kind'];
		what: string;
		manner: string;
		date: string;
		/** The levels it moves. */
		moves: string[];
		/** Calcium and alkalinity are poured hours apart: not in the same evening as the one before it. */
		apart: boolean;
	}[];
}
export function poursView(
	{
		plan,
		steps,
		request
	}: {
		plan: string;
		steps: { place: number; step: PlanStep; date: string }[];
		request: CorrectRequest;
	},
	/** Whether it is evening already: what is planned for the morning goes in tonight. */
	evening = false
): PoursView {
	const whens = steps.flatMap(({ step }) => (step.when ? [step.when] : []));
	const both = new Set(whens).size > 1;
	return {
		plan,
		steps: steps.map(({ place, step, date }) => ({
			place,
			kind: step.kind,
			date,
			what: stepInWords(
				step,
				request.supplements.find((s) => s.id === step.supplement)
			),
			manner: mannerInWords(step, MOST_PORTIONS, evening, both),
			moves: Object.keys(step.changes ?? {}),
			apart: both && step.when !== undefined && step.when !== whens[0]
		}))
	};
}

/** Whether a step can stand on another day by hand: pours and water changes; salt comes first, and tests go by what was poured. */
export const canMove = (step: StepView): boolean => step.kind === 'dose' || step.kind === 'water-change';
/** The same glass on another day, as a wish. Days of the plan that is made now. */
export const moveOf = (step: StepView, from: number, to: number): Move => ({
	from,
	to,
	...(step.kind === 'dose' && step.supplement ? { supplement: step.supplement, amount: step.amount } : {})
});
/** What was moved by hand, in words. */
export const movesInWords = (
	{ moves = [], supplements }: CorrectRequest,
	dayOf: (day: number) => string
): string[] =>
	moves.map(({ supplement, from, to, amount }) => {
		const bottle = supplements.find((s) => s.id === supplement);
		const its = bottle && compositionOf(bottle);
		const unit = its?.ok ? its.value.per : 'mL';
		const what = bottle
			? `${amountInWords(amount ?? 0, unit, bottle.spoonG)} of ${bottle.name}`
			: 'The water change';
		return from === to ? `${what} on ${dayOf(to)}` : `${what} from ${dayOf(from)} to ${dayOf(to)}`;
	});
