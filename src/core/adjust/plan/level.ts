import { ONE_SIDED_95 } from '../../statistics';
import { nth } from '../../base';
import { POISONS } from '../../targets';
import { innerOf } from './given';
import { alarmOf, CAREFUL, chordOf, IONS, Z99 } from './limits';
import type { CorrectRequest, CorrectResult, Move, PlannedParameter } from './schema';
import type { Pourable, Situation } from './situation';

/** One level as a plan sees it: what it does by itself, how well it is known, what it asks for, and on which days it may be poured for. */

/** How sure a level has to be before it is acted on a second time: 95 % within a quarter of its band. */
export const SURE_ENOUGH = 0.25;
/** Days that a level has to hold by itself to be left alone. */
const LEFT_ALONE_DAYS = 14;
/** What is added to hold a level goes in at least every so many days, and at most every seventh. */
const LONGEST_GAP = 7;
/** The part of a band that may be used up between two pours that hold it. */
const GAP_SHARE = 0.25;
const BUILDS = ['alkalinity', 'calcium'];
export type Mode = 'none' | 'hold' | 'free';

export interface Level {
	parameter: string;
	unit: string;
	now: number;
	sd: number;
	use: number;
	useSd: number;
	lower: number;
	upper: number;
	/** Where it is wanted. */
	inner: [number, number];
	/** Where its mean has to be so that it is in its band with 95 %, as far as the band allows. */
	sure: [number, number];
	alarm: [number, number];
	up: number;
	down: number;
	/** The unit of the programme: width of the band. */
	scale: number;
	/** What may be poured for it on each day. */
	mode: Mode[];
	/** Level at the start of each day 0..T if nothing is poured. */
	natural: number[];
	/** How far above it is at the start of each day, as a deviation, with the tests that stand before acting. */
	spread: number[];
	/** Days of this plan's grid on which something can be poured for it. */
	pourDays: number[];
	/** From this day on it is kept: the same amount each time, which is as little as the worst of these days allows. */
	keptFrom: number;
	/** By another amount now and then instead: where one amount would leave something to harm. */
	anew: boolean;
	/** Days whose pours are none of those that keep it: a glass was moved to them by hand, or water is changed on them. */
	apart: number[];
	refused?: CorrectResult['refused'][number]['why'];
	/** Asks for something: it is out of its band or will be. */
	wants: boolean;
}

/** Days on which something is done, after some were moved by hand; what would come nearer than `apart` to a moved one is left out. */
export function movedDays(days: number[], moves: Move[], apart = 0): number[] {
	const left = days.filter(
		(t) => !moves.some((m) => (m.from === t && m.to !== t) || Math.abs(m.to - t) < apart)
	);
	return [...new Set([...left, ...moves.map((m) => m.to)])].sort((a, b) => a - b);
}

/** Level at the start of each day 0..T if nothing is poured: it is used, dosed, and thickened with all salts. */
function naturalOf(
	{ parameter, now, usePerDay }: PlannedParameter,
	days: number,
	situation: Situation
): number[] {
	const natural = [now.mean];
	const dosed = situation.dosed[parameter];
	const isSalt = parameter === 'salinity' || IONS.includes(parameter);
	for (let t = 0; t < days; t++) {
		const drift = (dosed?.[t] ?? 0) - usePerDay.mean;
		const factor = isSalt ? nth(situation.thickening, t) : 1;
		natural.push(Math.max(0, nth(natural, t) * factor + drift));
	}
	return natural;
}

/** What its dosing pumps bring a day as they stand. */
const dosedNow = (parameter: string, { dosing }: CorrectRequest, { pourables }: Situation): number =>
	dosing.reduce(
		(sum, { supplement, mlPerDay }) =>
			sum + mlPerDay * (pourables.find((s) => s.id === supplement)?.effect[parameter] ?? 0),
		0
	);

/** From which day it is kept, and on which days before and after that it can be poured for, from `start` on. */
function usualDays(
	{ parameter, usePerDay, band, healthyPerDay }: PlannedParameter,
	natural: number[],
	inner: [number, number],
	start: number,
	{ dosed }: Situation
): { keptFrom: number; usual: number[] } {
	const days = natural.length - 1;
	const netOn = (day: number) => usePerDay.mean - (dosed[parameter]?.[day] ?? 0);
	const missing = inner[0] - nth(natural, Math.min(start, days));
	// A hold begins where there is room, and something to hold against: the level is where it is wanted, and falls.
	const room = natural.findIndex((level, t) => t >= start && t < days && level <= inner[1] && netOn(t) > 0);
	const keptFrom =
		missing > 0 ? start + Math.ceil(missing / (CAREFUL * healthyPerDay.up)) : room < 0 ? start : room;
	const net = Math.max(Math.abs(netOn(Math.min(keptFrom, days - 1))), 1e-9);
	const gap = Math.max(1, Math.min(LONGEST_GAP, Math.floor((GAP_SHARE * (band.upper - band.lower)) / net)));
	const usual: number[] = [];
	for (let t = 0; t < days; t += t < keptFrom ? 1 : gap)
		// What lacks nothing waits until it is to be kept.
		if (t >= keptFrom || t < start || missing > 0) usual.push(t);
	return { keptFrom, usual };
}

/** What a planned parameter means in a situation whose salt, dosing pumps and water changes are known. */
export function levelOf(p: PlannedParameter, request: CorrectRequest, situation: Situation): Level {
	const { days } = request;
	const { parameter, unit, now, usePerDay, band, healthyPerDay } = p;
	const natural = naturalOf(p, days, situation);
	const inner = innerOf(p);
	const soon = natural.slice(0, Math.min(days, LEFT_ALONE_DAYS) + 1);
	const wants = soon.some(
		(level) => (band.lower > 0 && level - now.standardDeviation < band.lower) || level > band.upper
	);
	const others = situation.pourables.filter((s) => (s.effect[parameter] ?? 0) > 0 && holdsSome(s));
	const below = natural.some((level) => band.lower > 0 && level < inner[0]);
	const refused = whyRefused(p, wants, dosedNow(parameter, request, situation));
	// What new water takes of a level that would hold by itself is poured again.
	const fresh = request.change?.water[parameter];
	const thinned = fresh !== undefined && fresh < inner[0] ? situation.changeDays : [];
	const blocked = refused !== undefined || (!wants && !thinned.length) || parameter === 'salinity';
	const start = startOf(parameter, request, situation);
	const { keptFrom, usual } = usualDays(p, natural, inner, start, situation);
	const moves = (request.moves ?? []).filter((m) =>
		situation.pourables.some((s) => s.id === m.supplement && s.main === parameter)
	);
	const pourDays = movedDays([...new Set([...usual, ...thinned])], moves);
	return {
		parameter,
		unit,
		now: now.mean,
		sd: now.standardDeviation,
		use: usePerDay.mean,
		useSd: usePerDay.standardDeviation,
		lower: band.lower,
		upper: band.upper,
		inner,
		sure: [
			Math.min(inner[0], band.lower === 0 ? 0 : band.lower + ONE_SIDED_95 * now.standardDeviation),
			Math.max(inner[1], band.upper - ONE_SIDED_95 * now.standardDeviation)
		],
		alarm: alarmOf(p),
		up: healthyPerDay.up,
		// Poisons may go as fast as they can.
		down: POISONS.includes(parameter) ? Infinity : healthyPerDay.down,
		scale: band.upper - band.lower,
		mode: Array.from({ length: days }, (_, t): Mode => (blocked ? 'none' : t < start ? 'hold' : 'free')),
		natural,
		spread: spreads(p, days, pourDays),
		pourDays,
		keptFrom,
		anew: false,
		apart: [...moves.map((m) => m.to), ...thinned],
		wants,
		...(refused ? { refused } : {}),
		...(!refused && wants && situation.salinityHome > 0 && start > 0 && IONS.includes(parameter)
			? { refused: 'salinity-first' as const }
			: {}),
		...(!refused && wants && below && !others.length && parameter !== 'salinity'
			? helpedByChange(parameter, request, inner[0])
			: {})
	};
}

/**
 * Why nothing is poured for a level, or nothing. What needs nothing is not asked for a test; only what does not fit is, whatever it says. `dosed`: what
 * its dosing pumps give a day as they are set now.
 */
function whyRefused(p: PlannedParameter, wants: boolean, dosed: number): Level['refused'] {
	if (p.odd) return 'odd';
	if (contradicts(p, dosed)) return 'contradicts';
	if (!wants) return undefined;
	if (p.unproved) return 'unproved';
	// Where its upper end lies below the band it is low for certain, however little is known.
	const error = ONE_SIDED_95 * p.now.standardDeviation;
	const vague = error >= p.band.upper - p.band.lower && p.now.mean + error > p.band.lower;
	return vague ? 'unknown' : undefined;
}

/** Standard deviations (95 %): a use beyond them is told from what it is held against. The three shares below are ours. */
const TOLD = 2;
/** Healthy days a day that hard water, in place of what evaporates, may bring to any tank. */
const BY_ITSELF = 0.1;
/** Healthy days a day that a level may rise with nothing written down: lime water in what evaporates. More is no tank's doing. */
const UNWRITTEN = 0.5;
/** Healthy days a day that a dosing pump may give over use before a level that lies in its band says otherwise. */
const OVERDOSED = 2;

/**
 * What cannot be: a tank that makes what it can only take, or a level that lies in its band, or below, though its dosing pump gives far more than is
 * used. One of level, use and dosing pump is not as it was written down: nothing is poured by them until a test says which.
 */
function contradicts(
	{ parameter, now, usePerDay, band, healthyPerDay }: PlannedParameter,
	dosed: number
): boolean {
	const most = usePerDay.mean + TOLD * usePerDay.standardDeviation;
	const rises = IONS.includes(parameter) && most < -UNWRITTEN * healthyPerDay.up;
	const over = dosed - most > OVERDOSED * healthyPerDay.up && now.mean <= band.upper;
	return healthyPerDay.up > 0 && (rises || over);
}

/** An empty bottle is no help to wait for. */
export const holdsSome = ({ stock = Infinity }: Pourable): boolean => stock > 0;

const helpedByChange = (
	parameter: string,
	{ change }: CorrectRequest,
	aim: number
): { refused: 'no-supplement' } | Record<never, never> =>
	(change?.water[parameter] ?? 0) >= aim ? {} : { refused: 'no-supplement' };

/**
 * By how much less a day may be used than is believed, with 95 %: corals and algae take, and give nothing back, so of what builds no more
 * than all of it, and what hard water brings. A tank that was never watched is brought home by that.
 */
function lessUse({
	parameter,
	usePerDay: { mean, standardDeviation },
	healthyPerDay: { up }
}: Pick<PlannedParameter, 'parameter' | 'usePerDay' | 'healthyPerDay'>): number {
	const most = IONS.includes(parameter) ? Math.max(0, mean) + BY_ITSELF * up : Infinity;
	return Math.min(ONE_SIDED_95 * standardDeviation, most);
}

/** How far above what is believed a level may be at the start of each day, as a deviation: that grows with less use until the test before each second pour. */
function spreads(p: PlannedParameter, days: number, pourDays: number[]): number[] {
	const after = Math.max(p.testError ?? 0, p.now.standardDeviation);
	const known: number[] = [];
	let [tested, at] = [0, p.now.standardDeviation];
	for (let t = 0; t <= days; t++) {
		const place = pourDays.indexOf(t);
		if (place > 0 && place % 2 === 1) [tested, at] = [t, Math.min(at, after)];
		known.push(Math.hypot(at, ((t - tested) * lessUse(p)) / ONE_SIDED_95));
	}
	return known;
}

/**
 * The day from which a level is brought home, by the order keepers learnt: salinity before all ions, magnesium before calcium and
 * alkalinity, which fall out without it. Alkalinity or calcium below its alarm does not wait.
 */
function startOf(parameter: string, { parameters, days }: CorrectRequest, situation: Situation): number {
	const its = parameters.find((p) => p.parameter === parameter);
	if (!its || !IONS.includes(parameter) || its.now.mean < (its.alarm?.[0] ?? 0)) return 0;
	const start = situation.salinityHome;
	const magnesium = parameters.find((p) => p.parameter === 'magnesium');
	if (!BUILDS.includes(parameter) || !magnesium || magnesium.odd || magnesium.unproved)
		return Math.min(start, days);
	const helped = situation.pourables.some((s) => s.main === 'magnesium' && holdsSome(s));
	const missing = magnesium.band.lower - magnesium.now.mean;
	if (!helped || missing <= 0) return Math.min(start, days);
	return Math.min(days, start + Math.ceil(missing / (CAREFUL * magnesium.healthyPerDay.up)));
}

/** Whether a day's pour is one of those that keep a level, which are all alike. */
export const isKept = ({ keptFrom, apart }: Level, day: number): boolean =>
	day >= keptFrom && !apart.includes(day);

/**
 * What a day's rise has to leave free of a healthy one: the use may be less than it is believed, and the net volume smaller. The root of the sum of both squares
 * is replaced by its chord up to the largest pour, which lies above: so much always, and so much of what is poured.
 */
export function riseMargin(
	{ volumeError }: Situation,
	{ parameter, useSd, use, up }: Level
): { always: number; perPour: number } {
	const less = lessUse({
		parameter,
		usePerDay: { mean: use, standardDeviation: useSd },
		healthyPerDay: { up, down: up }
	});
	const always = Math.min(less, up / 2);
	const most = up + Math.max(0, use);
	return { always, perPour: chordOf(always, Z99 * volumeError, most) };
}
