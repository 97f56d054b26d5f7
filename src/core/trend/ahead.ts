import { nth } from '../base';
import { el, leastSquares, residual } from '../statistics';
import { copyOf, type State } from './kalman';
import type { Part } from './mixture';
import { logDensity } from './moments';
import type { DayStep } from './passage';
import { onward, type Stop } from './paths';
import { hasRecord, saidBy, type Standing } from './regimes';
import { happen, movesIn, type Node, type Regime } from './hypotheses';
import type { Explained } from './explain';
import { sameSize, type Rhythm } from './rhythms';
import { predict, transitionOf, waterAlone, type Water } from './water';

/**
 * A month ahead. A level that wanders, as the filter has it, is one explanation of what comes; that it returns to where this tank
 * stands, by itself or by its keeper's rhythm, and that it goes on along a line, are others. Each is weighed by what it predicted in
 * this tank, weeks before (forecasts combined by their record: Bates and Granger 1969; Bayesian model averaging: Hoeting et al. 1999).
 */

/** So many of the newest tests, since the water moved last, say where a tank stands and where it goes; and at least so many. */
const NEWEST = 20;
const LEAST = 8;
/** The record: what was predicted so many days before, of so many tests. */
const FROM = 18;
const TO = 42;
const RECORD = 30;
/** A test tells of another a week later much of the same again: after so many days it tells something new. */
const NEW_AFTER = 14;
/** A tank that was not tested for so long may have gone anywhere. */
const MONTH = 28;
/** What returns does so in so many days; 0: from one test to the next. They stand for all between them. */
const RETURNS = [0, 6, 20];
/** How likely each is beforehand. */
const WANDERS = 0.25;
const GOES_ON = 0.2;
/** At once all say the same; after so many days the record decides alone. */
const LATE = 10;

interface Seen {
	at: number;
	value: number;
	/** Variance of its error. */
	error: number;
}

/** A level: mean and variance. */
interface Level {
	mean: number;
	variance: number;
}

/** An explanation of the weeks to come, of those that begin at the level now: how likely it is among them, and what it expects. */
export interface Ahead {
	weight: number;
	/** The level some days from now. */
	expects: (days: number) => Level;
	/** The same as a way from day to day: where it begins, and what a day does (see `firstPassage`). */
	state: State;
	day: DayStep;
}
type Explanation = Omit<Ahead, 'weight'>;

/** Explanations that return or go on, weighed against the level that wanders. None where the record is short, or the water moved or is dosed otherwise since. */
export function aheadOf(
	{ model, recent, noise, tracks, now }: Explained,
	present: Standing[],
	rhythms: Rhythm[] = []
): Ahead[] {
	const said = saidBy(nth(tracks, 0));
	const water = waterAlone(model, noise);
	const stops = onward({ ...model, ...recent }, noise, said);
	const tests = stillSince(stops, recent.nodes, said, model.dosing.at(-1)?.from ?? -Infinity, rhythms);
	if (tests.length < LEAST || tests.at(-1)!.seen.at < now - MONTH) return [];
	const makers = [
		...RETURNS.map((days) => (seen: Seen[], level: Level) => returning(seen, level, days)),
		goingOn
	];
	const records = makers.map(() => 0);
	let wanders = 0;
	let judged = 0;
	for (let j = Math.max(LEAST, tests.length - RECORD); j < tests.length; j++) {
		const { seen } = nth(tests, j);
		const from = tests.findLastIndex((t) => seen.at - t.seen.at >= FROM);
		if (from + 1 < LEAST || seen.at - nth(tests, from).seen.at > TO) continue;
		const known = tests.slice(Math.max(0, from + 1 - NEWEST), from + 1).map((t) => t.seen);
		const { stop } = nth(tests, from);
		const days = seen.at - stop.at;
		const logOf = ({ mean, variance }: Level) => logDensity(seen.value - mean, variance + seen.error);
		const level = levelOf(stop.seen);
		makers.forEach((make, i) => (records[i]! += logOf(make(known, level, stop.at).expects(days))));
		wanders += logOf(wandering(stop, days, recent.nodes, water));
		judged++;
	}
	const still = present.filter(hasRecord);
	if (!judged || !still.length) return [];
	const gap = (tests.at(-1)!.seen.at - nth(tests, 0).seen.at) / (tests.length - 1);
	const counts = Math.min(1, gap / NEW_AFTER);
	const each = (1 - WANDERS - GOES_ON) / RETURNS.length;
	const logs = records.map((r, i) => Math.log(i < RETURNS.length ? each : GOES_ON) + counts * r);
	const own = Math.log(WANDERS) + counts * wanders;
	const top = Math.max(own, ...logs);
	const all = [own, ...logs].reduce((sum, log) => sum + Math.exp(log - top), 0);
	const newest = tests.slice(-NEWEST).map((t) => t.seen);
	const level = together(still);
	return makers.map((make, i) => ({
		...make(newest, level, now),
		weight: Math.exp(el(logs, i) - top) / all
	}));
}

const levelOf = ({ mean, cov }: State): Level => ({ mean: el(mean, 0), variance: Math.max(0, el(cov, 0)) });

/** Several levels as one: their common mean and variance. */
function together(parts: Standing[]): Level {
	const total = parts.reduce((sum, p) => sum + p.weight, 0);
	let [mean, square] = [0, 0];
	for (const { weight, state } of parts) {
		const level = levelOf(state);
		mean += (weight / total) * level.mean;
		square += (weight / total) * (level.variance + level.mean ** 2);
	}
	return { mean, variance: Math.max(0, square - mean * mean) };
}

/** A pour of more than so many errors of a test begins the record anew. */
const SCATTER = 2;

interface Test {
	seen: Seen;
	stop: Stop;
}
/** Values that were no misreadings, since the water last moved, was moved by more than tests scatter, or was dosed otherwise. */
function stillSince(
	stops: Stop[],
	nodes: Explained['recent']['nodes'],
	said: Map<number, Regime>,
	dosedSince: number,
	rhythms: Rhythm[]
): Test[] {
	let tests: Test[] = [];
	for (const [i, node] of nodes.entries()) {
		if (node.kind === 'dose' || node.kind === 'change') {
			const { mean } = nth(stops, i).seen;
			const by = node.kind === 'dose' ? node.change : node.fraction * (node.newWater - el(mean, 0));
			const error = tests.at(-1)?.seen.error ?? 0;
			if (Math.abs(by) > SCATTER * Math.sqrt(error) && !isOf(rhythms, node)) tests = [];
		}
		if (node.kind !== 'value' || node.at < dosedSince) continue;
		const regime = said.get(node.reading) ?? 'as before';
		if (movesIn(regime)) tests = [];
		if (regime === 'slip') continue;
		const stop = nth(stops, i);
		const offset = node.offset ? el(stop.seen.mean, node.offset) : 0;
		tests.push({ seen: { at: node.at, value: node.seen - offset, error: node.noise }, stop });
	}
	return tests;
}

/** Whether something that was done is part of what is done regularly. */
const isOf = (rhythms: Rhythm[], node: Extract<Node, { kind: 'dose' | 'change' }>): boolean =>
	rhythms.some((r) =>
		r.kind === 'dose'
			? node.kind === 'dose' && sameSize(node.change, r.change)
			: node.kind === 'change' && sameSize(node.fraction, r.fraction)
	);

/** What the filter expects after some days in which the same is done as was. */
function wandering({ seen, at }: Stop, days: number, nodes: Node[], water: Water): Level {
	const state = copyOf(seen);
	const body = nth(water.bodies, 0);
	let from = at;
	const onTo = (to: number) => {
		predict(state, water, transitionOf(water, from, to, [at]));
		from = to;
	};
	for (const node of nodes)
		if ((node.kind === 'dose' || node.kind === 'change') && node.at > at && node.at < at + days) {
			onTo(node.at);
			happen(state, [0], node, body);
		}
	onTo(at + days);
	return levelOf(state);
}

/** However alike they are. */
const FEWEST = 2.5;

const meanOf = (xs: number[]): number => xs.reduce((sum, x) => sum + x, 0) / xs.length;
/** Student's t is wider than a bell by so much in variance, of few. */
const ofFew = (n: number, fitted: number): number => (n - fitted) / Math.max(1, n - fitted - 2);

/** It stands about a mean and comes back to it within some days (Uhlenbeck and Ornstein 1930); 0: by the next test. */
function returning(seen: Seen[], level: Level, days: number): Explanation {
	const n = seen.length;
	const mean = meanOf(seen.map((s) => s.value));
	const error = meanOf(seen.map((s) => s.error));
	const gap = (seen.at(-1)!.at - nth(seen, 0).at) / (n - 1);
	// Tests that follow each other within the days of return are as few as these, of the mean and of the spread (Bartlett 1946).
	const alone = Math.max(FEWEST, n / (1 + (2 * days) / Math.max(gap, 1e-9)));
	const square = seen.reduce((sum, s) => sum + (s.value - mean) ** 2, 0) / n;
	const alike = Math.max(0, square - error * (1 - 1 / n)) / (1 - 1 / alone);
	const spread = alike * ofFew(n, 1);
	const ofMean = spread / alone + error / n;
	const keptFor = (ahead: number) => Math.exp(-ahead / (days || gap));
	const kept = keptFor(1);
	return {
		expects: (ahead) => {
			const k = keptFor(ahead);
			return {
				mean: mean + k * (level.mean - mean),
				variance: (1 - k) ** 2 * ofMean + (1 - k * k) * spread + k * k * level.variance
			};
		},
		state: { mean: [level.mean, 0], cov: [level.variance, 0, 0, 0] },
		day: {
			...STILL,
			kept,
			levelMean: (1 - kept) * mean,
			levelMeanSd: (1 - kept) * Math.sqrt(ofMean),
			levelSd: Math.sqrt(alike * (1 - kept * kept))
		}
	};
}

/** It goes on along the line through its tests, from `now` on. */
function goingOn(seen: Seen[], _level: Level, now: number): Explanation {
	const n = seen.length;
	const points = seen.map((s, index) => ({ x: s.at - now, y: s.value, index }));
	const line = leastSquares(points) ?? { a: meanOf(seen.map((s) => s.value)), b: 0 };
	const error = meanOf(seen.map((s) => s.error));
	const about = (points.reduce((sum, p) => sum + residual(line, p) ** 2, 0) / (n - 2)) * ofFew(n, 2);
	const middle = meanOf(points.map((p) => p.x));
	const wide = points.reduce((sum, p) => sum + (p.x - middle) ** 2, 0);
	const spread = Math.max(0, about - error);
	const off = Math.max(about, error);
	const slope = off / wide;
	const at = (ahead: number): Level => ({
		mean: line.a + line.b * ahead,
		variance: off / n + (ahead - middle) ** 2 * slope + spread
	});
	const first = at(0);
	return {
		expects: at,
		state: {
			mean: [first.mean, line.b],
			cov: [first.variance, -middle * slope, -middle * slope, slope]
		},
		day: STILL
	};
}
/** A day in which nothing strays. */
const STILL: DayStep = {
	kept: 1,
	levelMean: 0,
	levelMeanSd: 0,
	driftMean: 0,
	levelSd: 0,
	both: 0,
	driftSd: 0
};

/** How much of its full weight what else may come has so many days ahead. */
const shareAt = (days: number): number => Math.min(1, days / LATE);

/** What wanders, and beside it what else may come, with so much of its weight: that is taken from those explanations of the tests that have a record. */
export function beside<T extends { weight: number; recorded: boolean }>(
	wanders: T[],
	ahead: Ahead[],
	share = 1
): { wanders: T[]; ahead: Ahead[] } {
	const recorded = wanders.reduce((sum, p) => sum + (p.recorded ? p.weight : 0), 0);
	const taken = share * ahead.reduce((sum, { weight }) => sum + weight, 0);
	return {
		wanders: wanders.map((p) => ({ ...p, weight: p.recorded ? (1 - taken) * p.weight : p.weight })),
		ahead: ahead.map((a) => ({ ...a, weight: share * recorded * a.weight }))
	};
}

/** A day's forecast. */
export function blended(wanders: (Part & { recorded: boolean })[], ahead: Ahead[], days: number): Part[] {
	const all = beside(wanders, ahead, shareAt(days));
	return [...all.wanders, ...all.ahead.map(({ weight, expects }) => ({ weight, ...expects(days) }))];
}
