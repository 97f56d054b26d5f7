import { nth } from '../../nth';
import { badAll, good, type Outcome, type Problem } from '../../problems';
import { POISONS } from '../../targets';
import { compositionOf, type Brings } from '../composition';
import { dosers, innerOf, salinityPlan, type Dosers, type TopUp } from './given';

export type { TopUp };
import { alarmOf, CAREFUL, chordOf, IONS, Z95, Z99 } from './limits';
import type { CorrectRequest, CorrectResult, Move, PlanStep, PlannedParameter } from './schema';

/** How sure a level has to be before it is acted on a second time: 95 % within a quarter of its band. */
export const SURE_ENOUGH = 0.25;
/** Days that a level has to hold by itself to be left alone. */
const LEFT_ALONE_DAYS = 14;
/** What is added to hold a level goes in at least every so many days, and at most every seventh. */
const LONGEST_GAP = 7;
/** The part of a band that may be used up between two pours that hold it. */
const GAP_SHARE = 0.25;
const BUILDS = ['alkalinity', 'calcium'];
const NO_SOLUTES = ['ph', 'temperature'];

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

export interface Pourable {
	id: string;
	brings: Brings;
	main: string;
	/** Change of each level by one mL or g, in own units. */
	effect: Record<string, number>;
	/** The most on one day: what moves its parameter by a healthy day over what the tank uses. */
	most: number;
	stock: number | undefined;
	price: number;
	when?: 'morning' | 'evening';
}

export interface Situation {
	days: number;
	litres: number;
	/** Relative standard uncertainty of the net volume. */
	volumeError: number;
	levels: Level[];
	pourables: Pourable[];
	/** All dissolved is multiplied by this on each day: salt or fresh water. */
	thickening: number[];
	/** Day from which salinity is home. */
	salinityHome: number;
	/** What dosers add a day to each level, by day. */
	dosed: Dosers['dosed'];
	drawn: Dosers['drawn'];
	rests: Dosers['rests'];
	/** Steps that follow from rules and not from the programme. */
	given: PlanStep[];
	changeDays: number[];
	fractions: number[];
}

/**
 * What a request means: which levels ask for something, what may be poured for them when, how sure they will be, and what salt and dosers
 * do. `topUps`: fresh water that goes in for tank water beside. Problems: things that are no solutes, bands the wrong way round, supplements that cannot be read or are named twice.
 */
export function situationOf(request: CorrectRequest, topUps: TopUp[] = []): Outcome<Situation> {
	const { days, water, parameters, supplements, dosing, change, moves = [] } = request;
	const litres = water.volumeL.value;
	const problems: Problem[] = [];
	parameters.forEach(({ parameter, band }, i) => {
		if (NO_SOLUTES.includes(parameter))
			problems.push({ path: `/parameters/${i}/parameter`, message: 'is nothing that can be poured' });
		if (!(band.lower < band.upper))
			problems.push({
				path: `/parameters/${i}/band`,
				message: 'must have its lower edge below its upper edge'
			});
		if (parameters.findIndex((p) => p.parameter === parameter) !== i)
			problems.push({ path: `/parameters/${i}/parameter`, message: 'stands there twice' });
	});
	const brought = supplements.map(({ stock: _stock, ...profile }) => compositionOf(profile));
	const pourables = supplements.flatMap((supplement, i): Pourable[] => {
		const { stock } = supplement;
		const composition = nth(brought, i);
		if (supplements.findIndex((s) => s.id === supplement.id) !== i)
			problems.push({ path: `/supplements/${i}/id`, message: 'stands there twice' });
		if (!composition.ok) {
			problems.push(...composition.problems.map((p) => ({ ...p, path: `/supplements/${i}${p.path}` })));
			return [];
		}
		const brings = composition.value;
		const effect = Object.fromEntries(Object.entries(brings.raises).map(([p, x]) => [p, x / litres]));
		const main = purposeOf(brings, request, (parameter) =>
			supplements.some((s, k) => {
				const its = nth(brought, k);
				return its.ok && its.value.main === parameter && (s.stock ?? Infinity) > 0;
			})
		);
		const its = parameters.find((p) => p.parameter === main);
		return [
			{
				id: supplement.id,
				brings,
				main,
				effect,
				most: its ? (its.healthyPerDay.up + Math.max(0, its.usePerDay.mean)) / (effect[main] ?? NaN) : 0,
				stock,
				price: supplement.pricePerUnit ?? 0,
				...(main === 'alkalinity'
					? { when: 'morning' as const }
					: main === 'calcium'
						? { when: 'evening' as const }
						: {})
			}
		];
	});
	for (const [i, { supplement }] of dosing.entries())
		if (!pourables.some((s) => s.id === supplement))
			problems.push({ path: `/dosing/${i}/supplement`, message: 'is not among the supplements' });
		else if (dosing.findIndex((d) => d.supplement === supplement) !== i)
			problems.push({
				path: `/dosing/${i}/supplement`,
				message: 'stands there twice: write what all pumps give of it together'
			});
	moves.forEach(({ supplement, from, to }, i) => {
		if (supplement === undefined ? !change : !pourables.some((s) => s.id === supplement && s.most > 0))
			problems.push({ path: `/moves/${i}/supplement`, message: 'is nothing this plan has' });
		if (from >= days || to >= days)
			problems.push({ path: `/moves/${i}`, message: `lies outside the plan's ${days} days` });
	});
	if (problems.length) return badAll(problems);

	const salt = salinityPlan(request, topUps);
	const given = [...salt.steps];
	const { dosed, steps, drawn, rests } = dosers(request, pourables);
	given.push(...steps);
	const situation: Situation = {
		days,
		litres,
		volumeError: water.volumeL.standardUncertainty / litres,
		levels: [],
		pourables,
		thickening: salt.thickening,
		salinityHome: salt.home,
		dosed,
		drawn,
		rests,
		given,
		changeDays: [],
		fractions: []
	};
	if (change) {
		const from = Math.max(change.notBefore ?? 0, salt.home);
		for (let t = from; t < days; t += change.everyDays) situation.changeDays.push(t);
		situation.changeDays = movedDays(
			situation.changeDays,
			moves.filter((m) => m.supplement === undefined && m.to >= from),
			change.everyDays / 2
		);
		situation.fractions = fractionsOf(change.largestFraction, days * parameters.length > LARGE);
	}
	situation.levels = parameters.map((p) => levelOf(p, request, situation));
	return good(situation);
}

/** What a bottle is poured for: its main parameter, or, where that does not lack, one that is low and that no other bottle is for. */
function purposeOf(
	{ main, raises }: Brings,
	{ parameters }: CorrectRequest,
	hasBottle: (parameter: string) => boolean
): string {
	const isLow = (parameter: string): boolean =>
		parameters.some((p) => p.parameter === parameter && p.now.mean < p.band.lower);
	if (isLow(main)) return main;
	const lacking = Object.entries(raises).find(
		([parameter, by]) => by > 0 && parameter !== 'salinity' && isLow(parameter) && !hasBottle(parameter)
	);
	return lacking?.[0] ?? main;
}

/** Days on which something is done, after some were moved by hand; what would come nearer than `apart` to a moved one is left out. */
function movedDays(days: number[], moves: Move[], apart = 0): number[] {
	const left = days.filter(
		(t) => !moves.some((m) => (m.from === t && m.to !== t) || Math.abs(m.to - t) < apart)
	);
	return [...new Set([...left, ...moves.map((m) => m.to)])].sort((a, b) => a - b);
}

/** Days times levels from which on fewer sizes of a change are weighed: each is a programme of its own. */
const LARGE = 150;

/** Sizes of a water change, in twentieths: of the largest a fifth, two and three fifths and all; in a large plan two of them. */
function fractionsOf(largest: number, large: boolean): number[] {
	const sizes = (large ? [0.4, 1] : [0.2, 0.4, 0.6, 1])
		.map((part) => Math.round(largest * part * 20) / 20)
		.filter((f) => f > 0 && f <= largest + 1e-9);
	return [...new Set(sizes.length ? sizes : [largest])];
}

function levelOf(p: PlannedParameter, request: CorrectRequest, situation: Situation): Level {
	const { days } = request;
	const { parameter, unit, now, usePerDay, band, healthyPerDay } = p;
	const width = band.upper - band.lower;
	const poison = POISONS.includes(parameter);
	const natural = [now.mean];
	const dosed = situation.dosed[parameter];
	for (let t = 0; t < days; t++) {
		const drift = (dosed?.[t] ?? 0) - usePerDay.mean;
		const factor = parameter === 'salinity' || IONS.includes(parameter) ? nth(situation.thickening, t) : 1;
		natural.push(Math.max(0, nth(natural, t) * factor + drift));
	}
	const inner = innerOf(p);
	const soon = natural.slice(0, Math.min(days, LEFT_ALONE_DAYS) + 1);
	const wants = soon.some(
		(level) => (band.lower > 0 && level - now.standardDeviation < band.lower) || level > band.upper
	);
	const others = situation.pourables.filter((s) => (s.effect[parameter] ?? 0) > 0 && holdsSome(s));
	const below = natural.some((level) => band.lower > 0 && level < inner[0]);
	const set = request.dosing.reduce(
		(sum, { supplement, mlPerDay }) =>
			sum + mlPerDay * (situation.pourables.find((s) => s.id === supplement)?.effect[parameter] ?? 0),
		0
	);
	const refused = whyRefused(p, wants, set);
	// What new water takes of a level that would hold by itself is poured again.
	const fresh = request.change?.water[parameter];
	const thinned = fresh !== undefined && fresh < inner[0] ? situation.changeDays : [];
	const blocked = refused !== undefined || (!wants && !thinned.length) || parameter === 'salinity';
	const netOn = (day: number) => usePerDay.mean - (dosed?.[day] ?? 0);
	const start = startOf(parameter, request, situation);
	const careful = CAREFUL * healthyPerDay.up;
	const missing = inner[0] - nth(natural, Math.min(start, days));
	// A hold begins where there is room, and something to hold against: the level is where it is wanted, and falls.
	const room = natural.findIndex((level, t) => t >= start && t < days && level <= inner[1] && netOn(t) > 0);
	const keptFrom = missing > 0 ? start + Math.ceil(missing / careful) : room < 0 ? start : room;
	const net = Math.abs(netOn(Math.min(keptFrom, days - 1)));
	const gap = Math.max(1, Math.min(LONGEST_GAP, Math.floor((GAP_SHARE * width) / Math.max(net, 1e-9))));
	const usual: number[] = [];
	for (let t = 0; t < days; t += t < keptFrom ? 1 : gap)
		// What lacks nothing waits until it is to be kept.
		if (t >= keptFrom || t < start || missing > 0) usual.push(t);
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
			Math.min(inner[0], band.lower === 0 ? 0 : band.lower + Z95 * now.standardDeviation),
			Math.max(inner[1], band.upper - Z95 * now.standardDeviation)
		],
		alarm: alarmOf(p),
		up: healthyPerDay.up,
		// Poisons may go as fast as they can.
		down: poison ? Infinity : healthyPerDay.down,
		scale: width,
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

/** What nothing is poured for. What needs nothing is not asked for a test; only a test that does not fit is, whatever it says. `dosed`: a day, as it is set now. */
function whyRefused(p: PlannedParameter, wants: boolean, dosed: number): Level['refused'] {
	if (p.odd) return 'odd';
	if (contradicts(p, dosed)) return 'contradicts';
	if (!wants) return undefined;
	if (p.unproved) return 'unproved';
	// Where its upper end lies below the band it is low for certain, however little is known.
	const error = Z95 * p.now.standardDeviation;
	const vague = error >= p.band.upper - p.band.lower && p.now.mean + error > p.band.lower;
	return vague ? 'unknown' : undefined;
}

/** Two standard deviations: a use beyond them is told from what it is held against. */
const TOLD = 2;
/** Of a healthy day: a level may rise by so much by itself, by hard water in place of what evaporates. */
const BY_ITSELF = 0.1;
/** Healthy days a day that a level may rise without anything written down: hard water, lime water in what evaporates. More is no tank's doing. */
const UNWRITTEN = 0.5;
/** Healthy days a day that a doser may give over use before a level that is in its band says otherwise. */
const OVERDOSED = 2;

/**
 * What cannot be: a tank that makes what it can only take, or a level that lies in its band, or below, though its doser gives far more than is
 * used. One of level, use and doser is not as it was written down: nothing is poured by them until a test says which.
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
	return Math.min(Z95 * standardDeviation, most);
}

/** How far above what is believed a level may be at the start of each day, as a deviation: that grows with less use until the test before each second pour. */
function spreads(p: PlannedParameter, days: number, pourDays: number[]): number[] {
	const after = Math.max(p.testError ?? 0, p.now.standardDeviation);
	const known: number[] = [];
	let [tested, at] = [0, p.now.standardDeviation];
	for (let t = 0; t <= days; t++) {
		const place = pourDays.indexOf(t);
		if (place > 0 && place % 2 === 1) [tested, at] = [t, Math.min(at, after)];
		known.push(Math.hypot(at, ((t - tested) * lessUse(p)) / Z95));
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
