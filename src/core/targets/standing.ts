import { type Phase } from '../catalogue';
import { DAY } from '../base';
import { convert, isQuantity } from '../quantities';
import { ONE_SIDED_95, normalQuantile } from '../statistics';
import { unionised } from '../seawater';
import { isMadeToMove, isOdd, isYoung, valueOf, type Case } from './case';
import type { Judgement } from './judge-schema';
import { placeInBand } from './placing';
import { routineOf } from './due';
import { isEarly, POISONS } from './schools';

/** Days ahead that are worth a warning. */
const SOON = 10;

/** Un-ionised ammonia that harms marine animals over days, mg/L NH3 (US EPA 1989, salt water, chronic). */
const NH3_HARMS = 0.035;

/** What the un-ionised part is worked out with where it was not measured: a usual reef. */
const USUAL_PH = 8.2;

const USUAL_C = 25;

const USUAL_PSU = 35;

/** What brings these back to health may be as quick as it can: down. */
const HEALS_FAST = [...POISONS, 'temperature'];

type Rank = Judgement['rank'];
type Numbers = Judgement['numbers'];
const judgement = (
	{ parameter }: Case,
	kind: Judgement['kind'],
	rank: Rank,
	helps: Judgement['helps'],
	numbers: Numbers
): Judgement => ({ kind, parameter, rank, helps, numbers });
/** By which limit a level harms; undefined where it harms nobody. */
type Alarm = (level: number) => Harm | undefined;

/** Where one parameter stands: what its own tests and estimate say. */
export function standing(c: Case, all: Case[], now: number, phase: Phase): Judgement[] {
	const read = valueOf(c.tests[0]);
	if (c.tests[0]?.ownChart === false)
		return [
			judgement(c, 'unknown', 2, 'look', { ...(read === undefined ? {} : { value: read }), reason: 'chart' })
		];
	// Nothing lives yet in a tank whose salt is being mixed.
	const alarmed: Alarm = phase === 'new' ? () => undefined : alarmOf(c, all, isEarly(phase));
	const byLevel = isYoung(c) ? alarmed(c.known.now.value) : undefined;
	// An odd test that alarms is said whatever the others say: better one test too many.
	const byTest = isOdd(c) && read !== undefined && isYoung(c) ? alarmed(read) : undefined;
	if (!byLevel && !byTest) {
		const poison = mayHarm(c, alarmed, phase, read);
		if (poison) return [poison];
	}
	return [
		...(byLevel ? [harmByLevel(c, byLevel, alarmed)] : byTest ? [harmByTest(c, byTest, read!)] : []),
		...unexpected(c, phase, read),
		...(byLevel ? [] : againstBand(c, all, now, phase, read))
	];
}

/**
 * A poison is not given the benefit of the doubt: what may harm by its error is said, and washed out, before the next test. What was
 * read last counts whole where it is more: earlier tests knew nothing of what has happened since.
 */
function mayHarm(c: Case, alarmed: Alarm, phase: Phase, read = 0): Judgement | undefined {
	const { value, standardDeviation } = c.known.now;
	if (isEarly(phase) || !POISONS.includes(c.parameter) || !isYoung(c)) return undefined;
	if (!c.target || value <= c.target.upper) return undefined;
	const most = Math.max(value, read);
	const upTo = most + ONE_SIDED_95 * standardDeviation;
	const harm = alarmed(upTo);
	return (
		harm &&
		judgement(c, 'harm', 0, 'test', {
			...harm,
			value: most,
			upTo,
			sure: chanceOf(c, alarmed, most),
			tests: c.tests.length
		})
	);
}

function harmByLevel(c: Case, harm: Harm, alarmed: Alarm): Judgement {
	return judgement(c, 'harm', 0, saidTwice(c, alarmed) ? 'look' : 'test', {
		...harm,
		value: c.known.now.value,
		sd: c.known.now.standardDeviation,
		sure: chanceOf(c, alarmed),
		tests: c.tests.length,
		...paceOf(c, harm.edge === 'upper')
	});
}

function harmByTest(c: Case, harm: Harm, read: number): Judgement {
	return judgement(c, 'harm', 0, 'test', {
		...harm,
		value: read,
		sure: 1 - c.odd,
		tests: c.tests.length,
		oddly: c.odd,
		...paceOf(c, harm.edge === 'upper')
	});
}

/** How fast it may go back, where that may not be as quick as it can. */
const paceOf = ({ parameter, target }: Case, high: boolean): { healthyPerDay?: number } =>
	target?.healthyPerDay !== undefined && !healsFast(parameter, high)
		? { healthyPerDay: target.healthyPerDay }
		: {};

/** A level that moved at once, and a last test that does not fit. */
function unexpected(c: Case, phase: Phase, read: number | undefined): Judgement[] {
	const { moved, now } = c.known;
	const found: Judgement[] = [];
	if (moved && isYoung(c) && !isMadeToMove(phase, c.parameter)) {
		const { from, to, at, probability, explanation } = moved;
		found.push(judgement(c, 'moved', 1, 'test', { from, to, at, probability, explanation }));
	}
	if (isOdd(c) && read !== undefined)
		found.push(
			judgement(c, 'odd', 1, 'test', { value: read, level: now.value, probability: c.odd, days: c.age })
		);
	return found;
}

/** Against its band: out of it, near a limit, too badly known, or on its way out. */
function againstBand(c: Case, all: Case[], now: number, phase: Phase, read: number | undefined): Judgement[] {
	const { target } = c;
	if (!target) return [];
	const { value, standardDeviation } = c.known.now;
	const place = placeInBand(value, Math.max(standardDeviation, 1e-9), target);
	if (!isYoung(c)) {
		// Far from the last test an estimate says what is usual, not what is.
		if (place.state === 'inside' && routineOf(phase)[c.parameter] === undefined) return [];
		return [
			judgement(c, 'unknown', 2, 'test', {
				inside: place.inside,
				...(Number.isFinite(c.age) ? { days: c.age } : {}),
				...(read === undefined ? {} : { value: read }),
				reason: 'age'
			})
		];
	}
	if (place.state === 'below' || place.state === 'above')
		return [outOfBand(c, all, target, place.state === 'above', 1 - place.inside)];
	// What it is now the next test tells.
	if (isOdd(c)) return [];
	if (place.state === 'inside') return leavesSoon(c, now);
	const wide = place.state === 'unknown';
	return [
		judgement(c, wide ? 'unknown' : 'edge', 2, 'test', {
			value,
			sd: standardDeviation,
			inside: place.inside,
			...(wide ? { reason: 'error' } : { edge: nearer(value, target) })
		})
	];
}

function outOfBand(
	c: Case,
	all: Case[],
	{ lower, upper }: { lower: number; upper: number },
	high: boolean,
	sure: number
): Judgement {
	const beyond = (level: number) => (high ? level > upper : level < lower) || undefined;
	const air = c.parameter === 'ph' && !high && isAlkalinityFine(all);
	return judgement(c, 'out', 1, saidTwice(c, beyond) ? 'look' : 'test', {
		value: c.known.now.value,
		sd: c.known.now.standardDeviation,
		edge: high ? 'upper' : 'lower',
		band: high ? upper : lower,
		sure,
		tests: c.tests.length,
		...(air ? { cause: 'carbon dioxide' } : {}),
		...paceOf(c, high)
	});
}

/** Noise alone leaves any band one day: said is only what is heading there. */
function leavesSoon(c: Case, now: number): Judgement[] {
	const { leavesBand, netPerDay, now: level } = c.known;
	if (!leavesBand?.median || !netPerDay) return [];
	const { edge, median: at } = leavesBand;
	const days = (Date.parse(at) - now) / DAY;
	const towards = edge === 'lower' ? -netPerDay.value : netPerDay.value;
	if (days > SOON || towards <= ONE_SIDED_95 * netPerDay.standardDeviation) return [];
	return [
		judgement(c, 'leaves-soon', 2, 'look', { value: level.value, edge, days, at, perDay: netPerDay.value })
	];
}

/** Whether at least two tests that are young enough say so; a first test is repeated before anything is done by it. */
const saidTwice = (c: Case, says: (level: number) => unknown): boolean =>
	c.tests.filter((test) => {
		const level = valueOf(test);
		return (
			level !== undefined && isYoung({ ...c, age: c.age + daysBetween(test, c.tests[0]!) }) && says(level)
		);
	}).length > 1;
const daysBetween = (one: { at: string }, other: { at: string }): number =>
	(Date.parse(other.at) - Date.parse(one.at)) / DAY;

/** Chance that the level is one that alarms: the share of its 95 % range, and of what lies about it, that does. */
function chanceOf({ known }: Case, alarmed: (level: number) => unknown, about = known.now.value): number {
	const { standardDeviation } = known.now;
	const steps = QUANTILES.map((q) => about + standardDeviation * normalQuantile(q));
	return steps.filter((level) => alarmed(Math.max(0, level))).length / QUANTILES.length;
}
const QUANTILES = Array.from({ length: 100 }, (_, i) => (i + 0.5) / 100);

/** Whether alkalinity is where it should be: then what is low in pH is carbon dioxide, and fresh air helps (see `lowPh`). */
function isAlkalinityFine(all: Case[]): boolean {
	const c = all.find(({ parameter }) => parameter === 'alkalinity');
	if (!c?.target || !isYoung(c) || isOdd(c)) return false;
	const { value, standardDeviation } = c.known.now;
	return placeInBand(value, Math.max(standardDeviation, 1e-9), c.target).state === 'inside';
}

const nearer = (value: number, { lower, upper }: { lower: number; upper: number }): 'lower' | 'upper' =>
	Math.abs(value - lower) < Math.abs(value - upper) ? 'lower' : 'upper';

/** Whether the way back to health need not be slow. */
export const healsFast = (parameter: string, high: boolean): boolean =>
	HEALS_FAST.includes(parameter) && high;

interface Harm {
	edge: 'lower' | 'upper';
	alarm: number;
	[more: string]: number | string;
}

/** By which limit a level harms, and what it is measured by. Of ammonia its un-ionised part counts, once something lives there. */
function alarmOf(c: Case, all: Case[], early: boolean): Alarm {
	if (c.parameter === 'ammonia' && !early)
		return (level) => {
			const part = free(c, level, all);
			return part.nh3 >= NH3_HARMS ? { edge: 'upper', alarm: NH3_HARMS, ...part } : undefined;
		};
	const alarm = c.target?.alarm;
	if (!alarm) return () => undefined;
	const [low, high] = alarm;
	return (level) => {
		if (level > high) return { edge: 'upper', alarm: high };
		return level < low ? { edge: 'lower', alarm: low } : undefined;
	};
}

/** The un-ionised part of a total, with the tank's own pH, temperature and salinity where they are known and young. */
function free(c: Case, total: number, all: Case[]): { nh3: number; ph: number; temperature: number } {
	const known = (parameter: string, otherwise: number, unit: string): number => {
		const found = all.find((x) => x.parameter === parameter);
		if (!found || !isYoung(found)) return otherwise;
		const from = found.known.unit ?? unit;
		if (from === unit || !isQuantity(parameter)) return found.known.now.value;
		const there = convert({ quantity: parameter, value: found.known.now.value, from, to: unit });
		return there.ok ? there.value.value : otherwise;
	};
	const ph = known('ph', USUAL_PH, 'pH');
	const temperature = known('temperature', USUAL_C, 'C');
	const salinity = known('salinity', USUAL_PSU, 'PSU');
	return {
		nh3: unionised(total, c.known.unit ?? 'mg/L NH4', { ph, temperatureC: temperature, salinity }),
		ph,
		temperature
	};
}
