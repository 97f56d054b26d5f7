import { DAY, HOUR } from '../base';
import { convert, isQuantity } from '../quantities';
import { parameterOf } from '../catalogue';
import type { JudgedTest, JudgeRequest, Known } from './judge-schema';
import { CHAIN, isEarly, ofAnimals, POISONS } from './schools';

/** How old the newest test of a keeper's own parameter may be, days: as an ion's. */
const YOUNG_DAYS = 42;

/** From this chance on a test counts as one that may be a misreading. */
const ODD = 0.25;

/** One parameter with what it is judged by; tests newest first. */
export interface Case {
	parameter: string;
	known: Known;
	target: JudgeRequest['targets'][string] | undefined;
	tests: JudgedTest[];
	/** Age of the newest test, days; Infinity without one. */
	age: number;
	/** Chance that the newest test is a misreading. */
	odd: number;
}

/** The target as it counts: where something lives a poison's is the animals', whatever was set while it cycled; in the unit of what is known. */
export function targetIn(
	phase: JudgeRequest['phase'],
	parameter: string,
	{ unit }: Known,
	target: Case['target']
): Case['target'] {
	if (!target) return undefined;
	const its =
		!isEarly(phase) && POISONS.includes(parameter) ? { ...target, ...ofAnimals(parameter, target) } : target;
	const own = parameterOf(parameter)?.unit;
	if (!unit || !own || own === unit || !isQuantity(parameter)) return its;
	const to = (value: number): number => {
		const there = convert({ quantity: parameter, value, from: own, to: unit });
		return there.ok ? there.value.value : value;
	};
	return {
		lower: to(its.lower),
		upper: to(its.upper),
		...(its.ideal === undefined ? {} : { ideal: to(its.ideal) }),
		...(its.alarm ? { alarm: [to(its.alarm[0]), to(its.alarm[1])] } : {}),
		...(its.healthyPerDay === undefined
			? {}
			: { healthyPerDay: Math.abs(to(its.lower + its.healthyPerDay) - to(its.lower)) })
	};
}

/** pH and what follows the lamps swing every day: tests are alike only at hours this near. */
const LIKE_HOURS = 3;
/** Whether two tests were taken at like hours of their days. */
export function atLikeHours(one: JudgedTest, other: JudgedTest): boolean {
	const apart = Math.abs(Date.parse(one.at) - Date.parse(other.at)) % DAY;
	return Math.min(apart, DAY - apart) <= LIKE_HOURS * HOUR;
}

/** What moves by what is done on purpose: all while the salt of a new tank is mixed, and the chain of a cycle. */
export const isMadeToMove = (phase: JudgeRequest['phase'], parameter: string): boolean =>
	phase === 'new' || (phase === 'cycling' && CHAIN.includes(parameter));

export function caseOf(
	parameter: string,
	known: Known,
	target: Case['target'],
	now: number,
	phase: JudgeRequest['phase']
): Case {
	const order = known.tests
		.map((test, index) => ({ test, index }))
		.filter(({ test }) => Date.parse(test.at) <= now)
		.sort((a, b) => Date.parse(b.test.at) - Date.parse(a.test.at));
	const [newest, ...before] = order;
	// A morning says nothing against evenings, and what is moved on purpose is no misreading.
	const comparable =
		(parameter !== 'ph' || before.some(({ test }) => atLikeHours(test, newest!.test))) &&
		!isMadeToMove(phase, parameter);
	return {
		parameter,
		known,
		target,
		tests: order.map((o) => o.test),
		age: newest ? (now - Date.parse(newest.test.at)) / DAY : Infinity,
		odd: (newest && comparable && known.odd?.find((o) => o.index === newest.index)?.probability) || 0
	};
}

export const valueOf = (test: JudgedTest | undefined): number | undefined =>
	test?.value ?? (test?.interval ? (test.interval[0] + test.interval[1]) / 2 : (test?.above ?? test?.below));

export const isYoung = ({ parameter, age }: Case): boolean =>
	age <= (parameterOf(parameter)?.youngDays ?? YOUNG_DAYS);

export const isOdd = ({ odd }: Case): boolean => odd >= ODD;

/** A width of the parameter's own unit in the unit of a case. */
export function inUnitOf({ parameter, known }: Case, value: number): number {
	const own = parameterOf(parameter)?.unit;
	if (!own || !known.unit || own === known.unit || !isQuantity(parameter)) return value;
	const there = convert({ quantity: parameter, value, from: own, to: known.unit });
	return there.ok ? there.value.value : value;
}
