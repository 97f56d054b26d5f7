import { nth } from '../nth';
import { el, leastSquares } from '../statistics';
import { copyOf, dosedBetween, predict, type Noise, type State } from './kalman';
import type { Part } from './mixture';
import { logDensity } from './moments';
import type { DayStep } from './passage';
import { onward, type Stop } from './paths';
import { saidBy } from './regimes';
import { movesIn, type Regime } from './hypotheses';
import type { Explained } from './explain';

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
const NEW_AFTER = 21;
/** A tank that was not tested for so long may have gone anywhere. */
const MONTH = 28;
/** What returns does so in so many days; 0: from one test to the next. */
const RETURNS = [0, 6, 20];
/** How likely each is beforehand. */
const WANDERS = 0.2;
const GOES_ON = 0.2;
/** Within some days all say the same; after so many the record decides alone. */
const SOON = 7;
const LATE = 14;

interface Seen {
	at: number;
	value: number;
	/** Variance of its error. */
	error: number;
}

/** What one explanation expects some days after the newest of some tests: mean and variance of the level. */
type Expects = (days: number) => { mean: number; variance: number };

/** An explanation of the weeks to come, and how likely it is; that the level wanders as the filter has it is the rest of 1. */
export interface Ahead extends Explanation {
	weight: number;
}
interface Explanation {
	expects: Expects;
	/** The same as a way from day to day, from now: where it begins, and what a day does (see `firstPassage`). */
	state: State;
	day: DayStep;
}

/** How much of its full weight an explanation has so many days ahead. */
export const shareAt = (days: number): number => Math.min(1, Math.max(0, (days - SOON) / (LATE - SOON)));

/** The explanations that a tank's own record speaks for. None where it is short, or the water moved or is dosed otherwise since. */
export function aheadOf({ model, recent, noise, tracks, now }: Explained): Ahead[] {
	const said = saidBy(nth(tracks, 0));
	const stops = onward({ ...model, ...recent }, noise, said);
	const tests = stillSince(stops, recent.nodes, said, model.dosing.at(-1)?.from ?? -Infinity);
	if (tests.length < LEAST || tests.at(-1)!.seen.at < now - MONTH) return [];
	const makers = [
		...RETURNS.map(
			(days) =>
				(seen: Seen[], since = 0) =>
					returning(seen, days, since)
		),
		goingOn
	];
	const records = makers.map(() => 0);
	let wanders = 0;
	let judged = 0;
	for (let j = Math.max(LEAST, tests.length - RECORD); j < tests.length; j++) {
		const { seen } = nth(tests, j);
		const from = tests.findLastIndex((t) => seen.at - t.seen.at >= FROM);
		if (from + 1 < LEAST || seen.at - nth(tests, from).seen.at > TO) continue;
		const known = tests.slice(0, from + 1).map((t) => t.seen);
		const days = seen.at - known.at(-1)!.at;
		const logOf = ({ mean, variance }: { mean: number; variance: number }) =>
			logDensity(seen.value - mean, variance + seen.error);
		makers.forEach((make, i) => (records[i]! += logOf(make(known.slice(-NEWEST)).expects(days))));
		wanders += logOf(wandering(nth(tests, from).stop, days, model, noise));
		judged++;
	}
	if (!judged) return [];
	const gap = (tests.at(-1)!.seen.at - nth(tests, 0).seen.at) / (tests.length - 1);
	const counts = Math.min(1, gap / NEW_AFTER);
	const each = (1 - WANDERS - GOES_ON) / RETURNS.length;
	const logs = records.map((r, i) => Math.log(i < RETURNS.length ? each : GOES_ON) + counts * r);
	const own = Math.log(WANDERS) + counts * wanders;
	const top = Math.max(own, ...logs);
	const all = [own, ...logs].reduce((sum, log) => sum + Math.exp(log - top), 0);
	const newest = tests.map((t) => t.seen).slice(-NEWEST);
	const since = now - newest.at(-1)!.at;
	return makers.map((make, i) => {
		const { expects, ...way } = make(newest, since);
		return { ...way, weight: Math.exp(el(logs, i) - top) / all, expects: (days) => expects(days + since) };
	});
}

interface Test {
	seen: Seen;
	stop: Stop;
}
/** Values that were no slips, since the water moved last or was dosed otherwise. */
function stillSince(
	stops: Stop[],
	nodes: Explained['recent']['nodes'],
	said: Map<number, Regime>,
	dosedSince: number
): Test[] {
	let tests: Test[] = [];
	for (const [i, node] of nodes.entries()) {
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

function wandering(
	{ seen, at }: Stop,
	days: number,
	{ dosing, usual }: Explained['model'],
	noise: Noise
): { mean: number; variance: number } {
	const state = copyOf(seen);
	predict(state, { days, since: 0, dosed: dosedBetween(dosing, at, at + days) }, noise, usual);
	return { mean: el(state.mean, 0), variance: el(state.cov, 0) };
}

/** However alike they are. */
const FEWEST = 2.5;

const meanOf = (xs: number[]): number => xs.reduce((sum, x) => sum + x, 0) / xs.length;
/** Student's t is wider than a bell by so much in variance, of few. */
const ofFew = (n: number, fitted: number): number => (n - fitted) / Math.max(1, n - fitted - 2);

/** It stands about a mean and comes back to it within some days (Uhlenbeck and Ornstein 1930). */
function returning(seen: Seen[], days: number, since: number): Explanation {
	const n = seen.length;
	const mean = meanOf(seen.map((s) => s.value));
	const error = meanOf(seen.map((s) => s.error));
	const gap = (seen.at(-1)!.at - nth(seen, 0).at) / (n - 1);
	// Tests that follow each other within the days of return are as few as these, of the mean and of the spread (Bartlett 1946).
	const alone = Math.max(FEWEST, n / (1 + (2 * days) / Math.max(gap, 1e-9)));
	const square = seen.reduce((sum, s) => sum + (s.value - mean) ** 2, 0) / n;
	const spread = (Math.max(0, square - error * (1 - 1 / n)) / (1 - 1 / alone)) * ofFew(n, 1);
	const ofMean = spread / alone + error / n;
	const last = seen.at(-1)!;
	const gain = spread / (spread + last.error);
	const now = gain * (last.value - mean);
	const expects: Expects = (ahead) => {
		const kept = days ? Math.exp(-ahead / days) : 0;
		return {
			mean: mean + kept * now,
			variance: ofMean + spread * (1 - kept * kept * gain) + 1e-6 * error
		};
	};
	const first = expects(since);
	// What returns from one test to the next does so in about the days between.
	const kept = Math.exp(-1 / (days || gap));
	return {
		expects,
		state: { mean: [first.mean, 0], cov: [first.variance, 0, 0, 0] },
		day: {
			...STILL,
			kept,
			levelMean: (1 - kept) * mean,
			levelSd: Math.sqrt((spread + ofMean) * (1 - kept * kept))
		}
	};
}

/** It goes on along the line through its tests. */
function goingOn(seen: Seen[], since = 0): Explanation {
	const n = seen.length;
	const last = seen.at(-1)!.at;
	const points = seen.map((s, index) => ({ x: s.at - last, y: s.value, index }));
	const line = leastSquares(points) ?? { a: meanOf(seen.map((s) => s.value)), b: 0 };
	const error = meanOf(seen.map((s) => s.error));
	const about =
		(points.reduce((sum, p) => sum + (p.y - line.a - line.b * p.x) ** 2, 0) / (n - 2)) * ofFew(n, 2);
	const middle = meanOf(points.map((p) => p.x));
	const wide = points.reduce((sum, p) => sum + (p.x - middle) ** 2, 0);
	const spread = Math.max(0, about - error);
	const off = Math.max(about, error);
	const slope = off / wide;
	const both = (since - middle) * slope;
	return {
		expects: (ahead) => ({
			mean: line.a + line.b * ahead,
			variance: off * (1 / n + (ahead - middle) ** 2 / wide) + spread
		}),
		state: {
			mean: [line.a + line.b * since, line.b],
			cov: [off * (1 / n + (since - middle) ** 2 / wide) + spread, both, both, slope]
		},
		day: STILL
	};
}
/** A day in which nothing strays. */
const STILL: DayStep = { kept: 1, levelMean: 0, driftMean: 0, levelSd: 0, both: 0, driftSd: 0 };

/** A day's forecast, what else may come beside what wanders. */
export const blended = (wanders: Part[], ahead: Ahead[], days: number): Part[] => {
	const share = shareAt(days);
	const others = ahead.map(({ weight, expects }): Part => ({ weight: share * weight, ...expects(days) }));
	const rest = 1 - others.reduce((sum, p) => sum + p.weight, 0);
	return [...wanders.map((p) => ({ ...p, weight: rest * p.weight })), ...others];
};
