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

/** Where one parameter stands: what its own tests and estimate say. */
export function standing(c: Case, all: Case[], now: number, phase: Phase): Judgement[] {
	const { parameter, known, target, tests } = c;
	const found: Judgement[] = [];
	const say = (
		kind: Judgement['kind'],
		rank: Judgement['rank'],
		helps: Judgement['helps'],
		numbers: Judgement['numbers']
	) => found.push({ kind, parameter, rank, helps, numbers });
	const { value, standardDeviation } = known.now;
	const read = valueOf(tests[0]);
	if (tests[0]?.ownChart === false) {
		say('unknown', 2, 'look', { ...(read === undefined ? {} : { value: read }), reason: 'chart' });
		return found;
	}
	// Nothing lives yet in a tank whose salt is being mixed.
	const alarmed = phase === 'new' ? () => undefined : alarmOf(c, all, isEarly(phase));
	// An odd test that alarms is said whatever the others say: better one test too many.
	const byTest = isOdd(c) && read !== undefined && isYoung(c) ? alarmed(read) : undefined;
	const byLevel = isYoung(c) ? alarmed(value) : undefined;
	const harm = byLevel ?? byTest;
	// A poison is not given the benefit of the doubt: what may harm by its error is said, and washed out, before the next test.
	// What was read last counts whole where it is more: earlier tests knew nothing of what has happened since.
	const most = Math.max(value, read ?? 0);
	const top = most + ONE_SIDED_95 * standardDeviation;
	const mayHarm =
		!harm && !isEarly(phase) && target && POISONS.includes(parameter) && isYoung(c) && value > target.upper
			? alarmed(top)
			: undefined;
	if (mayHarm) {
		say('harm', 0, 'test', {
			...mayHarm,
			value: most,
			upTo: top,
			sure: chanceOf(c, alarmed, most),
			tests: tests.length
		});
		return found;
	}
	if (harm) {
		const pace = target?.healthyPerDay !== undefined && !healsFast(parameter, harm.edge === 'upper');
		say('harm', 0, byLevel && saidTwice(c, alarmed) ? 'look' : 'test', {
			...harm,
			value: byLevel ? value : read!,
			sure: byLevel ? chanceOf(c, alarmed) : 1 - c.odd,
			tests: tests.length,
			...(byLevel ? {} : { oddly: c.odd }),
			...(pace ? { healthyPerDay: target.healthyPerDay! } : {})
		});
	}
	const { moved } = known;
	if (moved && isYoung(c) && !isMadeToMove(phase, parameter))
		say('moved', 1, 'test', {
			from: moved.from,
			to: moved.to,
			at: moved.at,
			probability: moved.probability,
			explanation: moved.explanation
		});
	if (isOdd(c) && read !== undefined)
		say('odd', 1, 'test', { value: read, level: value, probability: c.odd, days: c.age });
	if (!target || byLevel) return found;
	const sd = Math.max(standardDeviation, 1e-9);
	const place = placeInBand(value, sd, target);
	const out = place.state === 'below' || place.state === 'above';
	if (!isYoung(c)) {
		// Far from the last test an estimate says what is usual, not what is.
		if (place.state !== 'inside' || routineOf(phase)[parameter] !== undefined)
			say('unknown', 2, 'test', {
				inside: place.inside,
				...(Number.isFinite(c.age) ? { days: c.age } : {}),
				...(read === undefined ? {} : { value: read }),
				reason: 'age'
			});
		return found;
	}
	if (out) {
		const high = place.state === 'above';
		const beyond = (level: number) => (high ? level > target.upper : level < target.lower) || undefined;
		const air = parameter === 'ph' && !high && isAlkalinityFine(all);
		say('out', 1, saidTwice(c, beyond) ? 'look' : 'test', {
			value,
			edge: high ? 'upper' : 'lower',
			band: high ? target.upper : target.lower,
			sure: 1 - place.inside,
			tests: tests.length,
			...(air ? { cause: 'carbon dioxide' } : {}),
			...(target.healthyPerDay !== undefined && !healsFast(parameter, high)
				? { healthyPerDay: target.healthyPerDay }
				: {})
		});
	} else if (isOdd(c)) {
		// What it is now the next test tells.
	} else if (place.state !== 'inside') {
		const wide = place.state === 'unknown';
		say(wide ? 'unknown' : 'edge', 2, 'test', {
			value,
			inside: place.inside,
			...(wide ? { reason: 'error' } : { edge: nearer(value, target) })
		});
	} else if (known.leavesBand?.median) {
		const days = (Date.parse(known.leavesBand.median) - now) / DAY;
		const net = known.netPerDay;
		// Noise alone leaves any band one day: said is only what is heading there.
		const heads =
			net &&
			(known.leavesBand.edge === 'lower' ? -net.value : net.value) > ONE_SIDED_95 * net.standardDeviation;
		if (days <= SOON && heads)
			say('leaves-soon', 2, 'look', {
				value,
				edge: known.leavesBand.edge,
				days,
				at: known.leavesBand.median,
				perDay: net.value
			});
	}
	return found;
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

/** By which edge a level harms, and what it is measured by. Of ammonia its un-ionised part counts, once something lives there. */
function alarmOf(c: Case, all: Case[], early: boolean): (level: number) => Harm | undefined {
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
