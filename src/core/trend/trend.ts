import { good, nth, type Outcome } from '../base';
import { el } from '../statistics';
import { aheadOf } from './ahead';
import { explain, isTest, type Explained } from './explain';
import { copyOf, rateAt, type Noise, type State } from './kalman';
import { below, spreadHolding, spreadOf, type Part, type Spread } from './mixture';
import { withLooks } from './nodes';
import {
	LATEST,
	SOONEST,
	forecastOf,
	isoOf,
	leavesBand,
	nextTestOf,
	outAt,
	partsOf,
	type Outset
} from './outlook';
import type { Limits } from './passage';
import { MOVE_KNOWN, type Model, type Node } from './hypotheses';
import { smoothedBy, type Way } from './paths';
import { goOn, saidBy, standingOf, type Standing } from './regimes';
import { perDayOf, rhythmsOf } from './rhythms';
import type { Estimate, PathPoint, TrendRequest, TrendResult } from './schema';
import { waterAlone } from './water';

/** Forecasts go this far where the request does not say, days. */
const HORIZON = 30;

/** A reading this many of its own errors from all the rest together does not fit. */
const UNUSUAL = 3.5;

/** Two-sided 90 %: how sure a direction has to be. */
const SURE = 0.95;

/** Steady: in this many days it does not move by this share of the band. */
const STEADY_DAYS = 14;

const STEADY_SHARE = 0.25;

/** Where there is no band, one of this share of the level stands in for its width. */
const BANDLESS = 0.15;

/** From this chance on a test is named as one that may be a misreading, and the water is said to have moved. */
const ODD = 0.25;

const MOVED = 0.75;

/** So long it is said that the water moved, days. */
const MOVED_FOR = 30;

/** Explanations that are drawn into the path: the likeliest, each of at least this chance. */
const DRAWN = 3;

const LEAST_DRAWN = 0.02;

/**
 * What the water is doing: level and drift as a state-space model in continuous time. Takes readings of any kits with their
 * errors, bounds and intervals, and what was dosed and changed; gives the level now and on the way here, its change a
 * day, what the tank uses, a forecast with its spread, and when to look again. Everything in the request's unit. Drift is a
 * random walk, the level follows it with noise of its own; a method's offset is a state with its trueness as prior; misreadings and
 * moves of the water are explanations beside each other (`regimes.ts`); bounds and intervals come in by matching moments;
 * process noise by maximum likelihood about what is usual for the parameter. What is said is a median with the interval
 * that holds 95 %.
 *
 * @example trend({ parameter: 'alkalinity', unit: 'dKH', now: '2026-05-06T20:00:00Z', readings: [{ at: '2026-05-01T20:00:00Z', value: 8.4, standardUncertainty: 0.15 }, { at: '2026-05-06T19:00:00Z', value: 8.2, standardUncertainty: 0.15 }] }).value.now // → { value: 8.202, standardDeviation: 0.1606, interval: [7.889, 8.519] }
 */
export function trend(request: TrendRequest): Outcome<TrendResult> {
	const explained = explain(request);
	return explained.ok ? good(report(explained.value)) : explained;
}

/** Where each explanation leads by now: from the last test on, every one goes its own way. */
function presentOf({ tracks, model, tested, now, noise }: Explained): Standing[] {
	const by = tracks.map((t) => ({ ...t, state: copyOf(t.state) }));
	const at = model.nodes.at(-1)!.at;
	goOn({ tracks: by, tested: [tested], at }, waterAlone(model, noise), now);
	return standingOf(by, 0, (state) => state);
}

/** What is known of a parameter from more than itself; `tested`: when any of them was tested last. */
export interface KnownTogether {
	present: Standing[];
	way: Way;
	tested: number;
	/** How much it strays, as all of them together have it. */
	noise: Noise;
}

/**
 * What is said of a parameter. `joint` is what is known of its level and drift by now from more than itself, and on its way
 * here at the moments of {@link lookedAt}.
 */
export function report(explained: Explained, joint?: KnownTogether): TrendResult {
	const { request, now, model, methods, usual, tracks, tested } = explained;
	const noise = joint?.noise ?? explained.noise;
	const { unit, band } = request;
	const { dosing, floor } = model;
	const water = waterAlone(model, noise);
	const looked: Model = { ...model, nodes: lookedAt(explained) };
	const drawn = tracks.filter((t, i) => i === 0 || (i < DRAWN && Math.exp(t.log) > LEAST_DRAWN));
	const ways = joint ? [joint.way] : smoothedBy(looked, noise, drawn);
	const shares = joint ? [1] : drawn.map((t) => Math.exp(t.log));
	const total = shares.reduce((a, b) => a + b, 0);

	const own = presentOf(explained);
	const present = joint?.present ?? own;
	const dosingPerDay = rateAt(dosing, now);
	const level = spreadHolding(partsOf(present, 0), floor);
	// In a day it cannot fall by more than there is, nor can more be used than that and what arrives; near nothing it does not fall.
	const least = level.mean - floor > usual.level ? floor - level.mean : 0;
	const rhythms = rhythmsOf(request.events ?? [], request.now);
	const regularly = rhythms.reduce((sum, r) => sum + perDayOf(r, level.mean), 0);
	const nets = partsOf(present, 1).map((p) => ({ ...p, mean: p.mean + dosingPerDay + regularly }));
	const net = spreadOf(nets, least);
	// What arrives less what the level changes by: without dosing and what is done by hand that is minus the drift.
	const notUsed = spreadOf(
		nets.map((p, i) => ({ ...p, mean: p.mean - dosingPerDay - regularly + nth(present, i).missing })),
		least - dosingPerDay - regularly + nth(present, 0).missing
	);
	const outset: Outset = {
		present,
		others: aheadOf(explained, present, rhythms),
		now,
		since: now - (joint?.tested ?? tested),
		water,
		rhythms
	};
	const ahead = request.horizonDays ?? HORIZON;
	const future = forecastOf(outset, Math.max(ahead, LATEST));
	const limits: Limits | undefined = band && {
		lower: band.lower <= 0 && floor === 0 ? undefined : band.lower,
		upper: band.upper
	};
	const width = band ? band.upper - band.lower : BANDLESS * Math.max(Math.abs(level.mean), usual.level);
	const odd = oddOf(present);
	const moved = movedOf(present, now, floor);
	const newestTest = model.nodes.filter(isTest).at(-1)!;
	const isOdd = odd.some((o) => o.index === newestTest.reading);
	const isOut = limits !== undefined && outAt(nth(future, 0), limits, floor) >= 0.5;
	const wrong = isOut || (moved !== null && moved.tests < MOVE_KNOWN);
	// An odd test is repeated at once; what is out or has moved is looked at again the day after it was seen.
	const again = isOdd ? now : wrong ? Math.max(now, tested + SOONEST) : undefined;
	const next = again ?? nextTestOf(future, limits, width, now, floor);
	return {
		unit,
		now: estimateOf(level),
		netPerDay: estimateOf(net),
		usePerDay: estimateOf({
			mean: -notUsed.mean,
			sd: notUsed.sd,
			low: -notUsed.high,
			high: -notUsed.low
		}),
		dosingPerDay,
		path: pathOf(
			looked,
			ways,
			shares.map((s) => s / total),
			floor
		),
		forecast: Array.from({ length: Math.floor(ahead + 1e-9) + 1 }, (_, day) => ({
			at: isoOf(now + day),
			...spreadHolding(nth(future, day), floor)
		})),
		leavesBand: limits ? leavesBand(outset, limits, ahead) : null,
		assumes: rhythms.map((r) => ({
			kind: r.kind,
			everyDays: r.everyDays,
			...(r.kind === 'dose' ? { change: r.change } : { fraction: r.fraction }),
			perDay: perDayOf(r, level.mean)
		})),
		unusual: joint
			? odd.map((o) => o.index)
			: unusualOf(looked, nth(ways, 0).states, saidBy(nth(tracks, 0)), nth(tracks, 0).state.mean),
		odd,
		moved: moved && movedAsSaid(moved),
		verdict: verdictOf(nets, least, width),
		nextTest: isoOf(next),
		offsets: Object.fromEntries(
			methods.names.flatMap((name, i) => (name ? [[name, estimateOf(spreadOf(partsOf(own, 2 + i)))]] : []))
		)
	};
}

/** All that happened, and moments between, at which the way here is told. */
export const lookedAt = ({ model, now }: Explained): Node[] => withLooks(model.nodes, now);

const estimateOf = ({ mean, sd, low, high }: Spread): Estimate => ({
	value: mean,
	standardDeviation: sd,
	interval: [low, high]
});

function pathOf({ nodes, dosing }: Model, ways: Way[], shares: number[], floor: number): PathPoint[] {
	return nodes.flatMap((node, i) => {
		// Of several things at one moment, how it stood after the last.
		if (node.at === nodes[i + 1]?.at) return [];
		const parts = (k: 0 | 1): Part[] => {
			const all = ways.map(({ states, missing }, w): Part => {
				const { mean, cov } = nth(states, i);
				return {
					weight: shares[w] ?? 1,
					mean: k ? -el(mean, k) - el(missing, i) : el(mean, k),
					variance: Math.max(el(cov, k * (mean.length + 1)), 0)
				};
			});
			// Ways that have come together are one.
			return all.every((p) => p.mean === nth(all, 0).mean) ? [{ ...nth(all, 0), weight: 1 }] : all;
		};
		const use = spreadOf(parts(1));
		return [
			{
				at: isoOf(node.at),
				...spreadOf(parts(0), floor),
				usePerDay: use.mean,
				useSd: use.sd,
				dosingPerDay: rateAt(dosing, node.at)
			}
		];
	});
}

function verdictOf(net: Part[], least: number, width: number): TrendResult['verdict'] {
	const still = (STEADY_SHARE * width) / STEADY_DAYS;
	if (below(net, still, least) > SURE && below(net, -still, least) < 1 - SURE) return 'steady';
	if (below(net, 0, least) >= SURE) return 'falling';
	// What stays where it is does not rise.
	return below(net, Number.EPSILON, least) <= 1 - SURE ? 'rising' : 'unsure';
}

/** Tests that may be misreadings, with the chance of it. */
function oddOf(present: Standing[]): TrendResult['odd'] {
	const chances = new Map<number, number>();
	for (const { weight, said } of present)
		for (const [reading, regime] of said)
			if (regime === 'slip') chances.set(reading, (chances.get(reading) ?? 0) + weight);
	return [...chances]
		.filter(([, probability]) => probability >= ODD)
		.map(([index, probability]) => ({ index, probability: Math.min(1, probability) }))
		.sort((a, b) => a.index - b.index);
}

type Moved = NonNullable<TrendResult['moved']> & { tests: number };

const movedAsSaid = ({ tests: _tests, ...said }: Moved): TrendResult['moved'] => said;

/** Whether the water moved not long ago, if it is likely enough: as the likeliest of the explanations by which it did says. */
function movedOf(present: Standing[], now: number, floor: number): Moved | null {
	const lately = present
		.filter(({ moved }) => moved && now - moved.at <= MOVED_FOR)
		.sort((a, b) => b.weight - a.weight);
	const probability = lately.reduce((sum, { weight }) => sum + weight, 0);
	const move = lately[0]?.moved;
	if (probability < MOVED || !move) return null;
	const to = spreadOf(
		partsOf(
			lately.map((p) => ({ ...p, weight: p.weight / probability })),
			0
		),
		floor
	).mean;
	return {
		at: isoOf(move.at),
		from: Math.max(move.from, floor),
		to,
		probability: Math.min(1, probability),
		explanation: move.kind,
		tests: move.tests
	};
}

/** Readings far from what all the others say, by their place in the request. */
function unusualOf(model: Model, states: State[], said: Standing['said'], last: number[]): number[] {
	return model.nodes
		.flatMap((node, i) => {
			if (!isTest(node)) return [];
			if (said.get(node.reading) === 'slip') return [node.reading];
			if (node.kind !== 'value') return [];
			const { mean, cov } = nth(states, i);
			const offset = node.offset ? el(last, node.offset) : 0;
			const off = Math.abs(node.seen - offset - el(mean, 0));
			return off / Math.sqrt(node.noise + Math.max(0, el(cov, 0))) > UNUSUAL ? [node.reading] : [];
		})
		.sort((a, b) => a - b);
}
