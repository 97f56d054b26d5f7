import { normalBelow } from '../probability';
import { bad, good, type Outcome } from '../problems';
import { usualRestlessness } from './defaults';
import {
	dosedBetween,
	forward,
	levelsKnowingAll,
	predict,
	type Dosing,
	type Model,
	type Smoothed,
	type Noise,
	type Node
} from './filter';
import { fitNoise } from './fit';
import { notNegative } from './moments';
import type { PathPoint, TrendReading, TrendRequest, TrendResult } from './schema';

const DAY = 86_400_000;
/** How restless the water is, is judged by this many of the newest readings and events. */
const FIT_MOST = 1500;
/** Forecasts go this far where the request does not say, days. */
const HORIZON = 30;
/** Of a reading's error, the share of its variance that stays with the kit where the reading does not say. */
const TRUENESS_SHARE = 0.5;
/** What can be below zero: nothing that is dissolved. */
const SIGNED = ['temperature'];
/** A reading this many of its own errors from all the rest together does not fit. */
const UNUSUAL = 3.5;
/** A chance of being out of the band that asks for a look: one in ten. */
const WORRY = 0.1;
/** A forecast whose 95 % interval is wider than this share of the band says too little. */
const TOO_WIDE = 0.5;
/** The next test is no sooner and no later than this, days. */
const SOONEST = 1;
const LATEST = 60;
/** Points of a path are no further apart than this, days, and no more than so many are added. */
const PATH_STEP = 1;
const MOST_LOOKS = 400;
/** Two-sided 90 %: how sure a direction has to be. */
const SURE = 1.645;
/** Steady: in this many days it does not move by this share of the band. */
const STEADY_DAYS = 14;
const STEADY_SHARE = 0.25;
/** Where there is no band, one of this share of the level stands in for its width. */
const BANDLESS = 0.15;

/**
 * What the water is doing: level and drift as a state-space model in continuous time. Takes readings of any kits with their
 * errors, bounds and intervals, and what was dosed and changed; gives the level now and on the way here, its change a
 * day, what the tank uses, a forecast with its spread, and when to look again. Everything in the request's unit. Drift is a
 * random walk, the level follows it with noise of its own; a method's offset is a state with its trueness as prior; slips are
 * allowed for (contaminated normal errors); bounds and intervals come in by matching moments; process noise by maximum
 * likelihood about what is usual for the parameter. Kalman 1960; Rauch, Tung and Striebel 1965; Minka 2001 (moments).
 */
export function trend(request: TrendRequest): Outcome<TrendResult> {
	const flaw = flawOf(request);
	if (flaw) return flaw;
	const { parameter, unit, readings, band } = request;
	const now = Date.parse(request.now) / DAY;
	const signed = SIGNED.includes(parameter);
	const methods = methodsOf(readings);
	const centres = readings.map(centreOf);
	const typical = median(centres);
	const usual = usualRestlessness(parameter, unit, typical);
	const dosing = dosingOf(request);
	const observed = nodesOf(request, methods.names, usual.level);
	const past = observed.filter((n) => n.at <= now);
	if (!past.some((n) => n.kind === 'value' || n.kind === 'between'))
		return bad('/readings', 'has no reading before now');
	const firsts = [...readings.keys()]
		.sort((a, b) => Date.parse(readings[a]!.at) - Date.parse(readings[b]!.at))
		.slice(0, 3);
	const start = {
		level: median(firsts.map((i) => centres[i]!)),
		levelSd: Math.max(0.5 * Math.abs(typical), 30 * usual.level, 3 * spread(firsts.map((i) => centres[i]!))),
		driftSd: Math.max(usual.atFirst, 0.5 * Math.abs(dosing[0]?.perDay ?? 0)),
		offsetSd: methods.sds
	};
	const model: Model = { nodes: withLooks(past, now), dosing, start };
	const noise = fitNoise({ ...model, nodes: past.slice(-FIT_MOST) }, usual);
	const passage = forward(model, noise, true);
	const levels = levelsKnowingAll(model, passage);
	const shown = (mean: number, variance: number) =>
		signed ? { mean, sd: Math.sqrt(variance) } : notNegative(mean, Math.sqrt(variance));

	const path = pathOf(model, levels, shown);
	const mean = passage.after.at(-1)!;
	const cov = passage.afterCov.at(-1)!;
	const { size } = passage;
	const dosingPerDay = rateAt(dosing, now);
	const level = shown(mean[0]!, cov[0]!);
	const driftSd = Math.sqrt(cov[size + 1]!);
	const net = { value: mean[1]! + dosingPerDay, standardDeviation: driftSd };
	const ahead = request.horizonDays ?? HORIZON;
	const future = forecastOf({ mean, cov, size }, now, Math.max(ahead, band ? LATEST : ahead), dosing, noise);
	const forecast = future
		.filter((f) => f.at - now <= ahead + 1e-9)
		.map((f) => ({ at: iso(f.at), ...shown(f.mean, f.variance) }));
	const width = band ? band.upper - band.lower : BANDLESS * Math.max(Math.abs(level.mean), usual.level);
	return good({
		unit,
		now: { value: level.mean, standardDeviation: level.sd },
		netPerDay: net,
		usePerDay: { value: -mean[1]!, standardDeviation: driftSd },
		dosingPerDay,
		path,
		forecast,
		leavesBand: band ? leaves(future, band, now, ahead) : null,
		unusual: unusualOf(model, levels, passage.honest, mean, methods.names.length),
		verdict: verdictOf(net, width),
		nextTest: iso(nextTestOf(future, band, width, now)),
		offsets: Object.fromEntries(
			methods.names.map((name, i) => [
				name,
				{ value: mean[2 + i]!, standardDeviation: Math.sqrt(Math.max(0, cov[(2 + i) * (size + 1)]!)) }
			])
		)
	});
}

function flawOf({ readings, band, now }: TrendRequest): Outcome<never> | undefined {
	if (band && !(band.lower < band.upper))
		return bad('/band', 'must have its lower edge below its upper edge');
	for (const [i, r] of readings.entries())
		if ('interval' in r && !(r.interval[0] <= r.interval[1]))
			return bad(`/readings/${i}/interval`, 'must have its smaller end first');
	if (!readings.some((r) => Date.parse(r.at) <= Date.parse(now)))
		return bad('/readings', 'has no reading before now');
	return undefined;
}

const iso = (days: number): string => new Date(Math.round(days * DAY)).toISOString();
const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
const spread = (values: number[]): number => Math.max(...values) - Math.min(...values);

const centreOf = (r: TrendReading): number =>
	'value' in r
		? r.value
		: 'interval' in r
			? (r.interval[0] + r.interval[1]) / 2
			: 'below' in r
				? r.below / 2
				: r.above;

/** Kits whose offsets are followed: each is one more quantity at every step. Of others the whole error counts each time. */
const MOST_METHODS = 6;

/** Methods that say what stays with them, those used most, with the typical size of that. */
function methodsOf(readings: TrendReading[]): { names: string[]; sds: number[] } {
	const found = new Map<string, number[]>();
	for (const r of readings) {
		if (!('value' in r) || r.method === undefined) continue;
		const sd = truenessOf(r);
		const known = found.get(r.method);
		if (sd > 0 && known) known.push(sd);
		else if (sd > 0) found.set(r.method, [sd]);
	}
	const most = [...found].sort((a, b) => b[1].length - a[1].length).slice(0, MOST_METHODS);
	return { names: most.map(([name]) => name), sds: most.map(([, sds]) => median(sds)) };
}

const truenessOf = (r: Extract<TrendReading, { value: number }>): number =>
	r.method === undefined
		? 0
		: Math.min(r.trueness ?? r.standardUncertainty * Math.sqrt(TRUENESS_SHARE), r.standardUncertainty);

function dosingOf({ events }: TrendRequest): Dosing[] {
	return (events ?? [])
		.flatMap((e) => (e.kind === 'dosing' ? [{ from: Date.parse(e.at) / DAY, perDay: e.perDay }] : []))
		.sort((a, b) => a.from - b.from);
}

/** Least error of a reading against the parameter's restlessness: below, the model would believe it blindly. */
const LEAST_NOISE = 0.1;

/** Readings and events in order; at one moment what was measured comes before what was done. */
function nodesOf(request: TrendRequest, methods: string[], restless: number): Node[] {
	const least = (LEAST_NOISE * restless) ** 2;
	const lowest = SIGNED.includes(request.parameter) ? -Infinity : 0;
	const readings = request.readings.map((r, reading): Node => {
		const at = Date.parse(r.at) / DAY;
		const offset = r.method === undefined ? 0 : 2 + methods.indexOf(r.method);
		const place = { at, offset: offset < 2 ? 0 : offset, reading };
		if ('value' in r) {
			const stays = place.offset ? truenessOf(r) : 0;
			return {
				...place,
				kind: 'value',
				seen: r.value,
				noise: Math.max(least, r.standardUncertainty ** 2 - stays * stays)
			};
		}
		const [low, high] = 'interval' in r ? r.interval : 'below' in r ? [lowest, r.below] : [r.above, Infinity];
		// The ends themselves are read with an error: of a bound half of it, between two a quarter of the gap.
		const error =
			'interval' in r ? (r.interval[1] - r.interval[0]) / 4 : Math.abs('below' in r ? r.below : r.above) / 2;
		return { ...place, kind: 'between', low, high, noise: Math.max(least, error ** 2) };
	});
	const events = (request.events ?? []).flatMap((e): Node[] => {
		const at = Date.parse(e.at) / DAY;
		if (e.kind === 'dose')
			return [{ at, kind: 'dose', change: e.change, variance: (e.standardUncertainty ?? 0) ** 2 }];
		if (e.kind === 'water-change')
			return [
				{
					at,
					kind: 'change',
					fraction: e.fraction,
					newWater: e.newWater,
					variance: (e.standardUncertainty ?? 0) ** 2
				}
			];
		return [];
	});
	return [...readings, ...events].sort((a, b) => a.at - b.at);
}

/** Moments to look at the level between what happened, up to now. */
function withLooks(nodes: Node[], now: number): Node[] {
	const first = nodes[0]!.at;
	const step = Math.max(PATH_STEP, (now - first) / MOST_LOOKS);
	const looks: Node[] = [{ at: now, kind: 'look' }];
	for (let at = first + step; at < now; at += step) looks.push({ at, kind: 'look' });
	return [...nodes, ...looks].sort((a, b) => a.at - b.at);
}

function pathOf(
	model: Model,
	levels: Smoothed[],
	shown: (mean: number, variance: number) => { mean: number; sd: number }
): PathPoint[] {
	return model.nodes.flatMap((node, i) => {
		// Of several things at one moment, how it stood after the last.
		if (node.at === model.nodes[i + 1]?.at) return [];
		const { mean, variance, drift, driftVariance } = levels[i]!;
		return [
			{
				at: iso(node.at),
				...shown(mean, variance),
				usePerDay: -drift,
				useSd: Math.sqrt(driftVariance),
				dosingPerDay: rateAt(model.dosing, node.at)
			}
		];
	});
}

/** What is dosed a day at a moment. */
const rateAt = (dosing: Dosing[], at: number): number =>
	dosing.filter((d) => d.from <= at).at(-1)?.perDay ?? 0;

interface Ahead {
	at: number;
	mean: number;
	variance: number;
}

/** The level every day from now on, if nothing is done but what is dosed. */
function forecastOf(
	now: { mean: Float64Array; cov: Float64Array; size: number },
	from: number,
	days: number,
	dosing: Dosing[],
	noise: Noise
): Ahead[] {
	const mean = now.mean.slice();
	const cov = now.cov.slice();
	const points: Ahead[] = [{ at: from, mean: mean[0]!, variance: cov[0]! }];
	for (let day = 1; day <= days; day++) {
		predict(mean, cov, now.size, 1, dosedBetween(dosing, from + day - 1, from + day), noise);
		points.push({ at: from + day, mean: mean[0]!, variance: cov[0]! });
	}
	return points;
}

const chances = ({ mean, variance }: Ahead, band: { lower: number; upper: number }) => {
	const sd = Math.sqrt(variance);
	return { lower: normalBelow((band.lower - mean) / sd), upper: 1 - normalBelow((band.upper - mean) / sd) };
};

/** When the level is out at the edge it is likelier to leave by, with a chance of 10, 50 and 90 %. */
function leaves(
	future: Ahead[],
	band: { lower: number; upper: number },
	now: number,
	horizon: number
): TrendResult['leavesBand'] {
	const within = future.filter((f) => f.at - now <= horizon + 1e-9);
	const last = chances(within.at(-1)!, band);
	const edge = last.lower >= last.upper ? 'lower' : 'upper';
	const when = (chance: number): string | null => {
		const at = within.findIndex((f) => chances(f, band)[edge] >= chance);
		if (at < 0) return null;
		if (at === 0) return iso(now);
		// Between two days as the chance grows.
		const [a, b] = [chances(within[at - 1]!, band)[edge], chances(within[at]!, band)[edge]];
		return iso(within[at - 1]!.at + (chance - a) / Math.max(b - a, 1e-12));
	};
	const median = when(0.5);
	return median === null ? null : { edge, median, early: when(0.1), late: when(0.9) };
}

/** The first day on which the chance of being out, or the forecast's spread, asks for a look. */
function nextTestOf(
	future: Ahead[],
	band: { lower: number; upper: number } | undefined,
	width: number,
	now: number
): number {
	const out = (f: Ahead) => {
		if (!band) return 0;
		const { lower, upper } = chances(f, band);
		return lower + upper;
	};
	const already = out(future[0]!);
	const asks = future.find(
		(f) =>
			f.at - now >= SOONEST &&
			(out(f) >= Math.max(WORRY, already + WORRY / 2) ||
				2 * 1.96 * Math.sqrt(f.variance) >= 2 * TOO_WIDE * width)
	);
	return asks?.at ?? now + LATEST;
}

function verdictOf(net: { value: number; standardDeviation: number }, width: number): TrendResult['verdict'] {
	const most = (Math.abs(net.value) + SURE * net.standardDeviation) * STEADY_DAYS;
	if (most <= STEADY_SHARE * width) return 'steady';
	if (Math.abs(net.value) < SURE * net.standardDeviation) return 'unsure';
	return net.value > 0 ? 'rising' : 'falling';
}

/** Readings far from what all the others say, by their place in the request. */
function unusualOf(
	model: Model,
	levels: Smoothed[],
	honest: Map<number, number>,
	last: Float64Array,
	methods: number
): number[] {
	return model.nodes
		.flatMap((node, i) => {
			if (node.kind !== 'value') return [];
			const offset = node.offset && methods ? last[node.offset]! : 0;
			const off = Math.abs(node.seen - offset - levels[i]!.mean);
			const far = off / Math.sqrt(node.noise + levels[i]!.variance) > UNUSUAL;
			return far || honest.get(node.reading)! < 0.5 ? [node.reading] : [];
		})
		.sort((a, b) => a - b);
}
