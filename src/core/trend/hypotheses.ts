import { changed, dosed, rateAt, seenBy, update, type Dosing, type State, type Usual } from './kalman';
import { addAt, addToCell, el, zeros } from '../statistics';
import { logDensity, logInside, seenBetween, seenValue } from './moments';
import type { Body, Moves } from './water';

/**
 * What a test may mean: all as before; the test was wrong; the level jumped; the drift changed; what is dosed does not arrive. How
 * likely each is beforehand, what it adds to a state, and how it takes the test in.
 */

/** Something that happens to the estimate at one moment. Times in days. */
export type Node = (
	| { kind: 'look' }
	| { kind: 'value'; seen: number; noise: number; offset: number; reading: number }
	/** Between two ends; all from `from` on counts as inside. */
	| {
			kind: 'between';
			low: number;
			from: number;
			high: number;
			noise: number;
			offset: number;
			reading: number;
	  }
	| { kind: 'dose'; change: number; variance: number }
	/** What is dosed from here on was written down: whatever did not arrive before, does. */
	| { kind: 'dosing' }
	| { kind: 'change'; fraction: number; newWater: number; variance: number }
) & {
	at: number;
	/** Whose it is, by its place among the parameters of the water; the first where it does not say. */
	of?: number;
};
export type Seen = Extract<Node, { kind: 'value' | 'between' }>;

/** A parameter by itself: all that happened to it, and what is known of it beforehand. */
export interface Model {
	/** In order of time. */
	nodes: Node[];
	dosing: Dosing[];
	/** Level and drift at the first node, standard deviations, and the trueness of each method. */
	start: { level: number; levelSd: number; drift: number; driftSd: number; offsetSd: number[] };
	moves: Moves;
	usual: Usual;
	/** Nothing lies below it. */
	floor: number;
}

/** Nothing of what is dosed arrives, a part of it, or twice as much: what is then missing, as a share of it, and how likely each is. */
const FAILURES = {
	'no dosing': { missing: 1, chance: 0.4 },
	'part dosing': { missing: 0.5, chance: 0.2 },
	'twice dosing': { missing: -1, chance: 0.4 }
};
type Failure = keyof typeof FAILURES;
export type Regime = 'as before' | 'slip' | 'level' | 'drift' | Failure;
const FAILED = Object.keys(FAILURES) as Failure[];
export const REGIMES: Regime[] = ['as before', 'slip', 'level', 'drift', ...FAILED];
/** What of a rate is missing under an explanation. */
export const missingOf = (regime: Regime | undefined, rate: number): number =>
	rate * (FAILURES[regime as Failure]?.missing ?? 0);
/** What moves in an explanation; undefined where nothing does. */
export const movesIn = (regime: Regime): 'level' | 'drift' | 'dosing' | undefined =>
	regime in FAILURES ? 'dosing' : regime === 'level' || regime === 'drift' ? regime : undefined;

/** One test in thirty is a misreading: what duplicates of practised hands show; see the misreadings of the bench for how they come. */
const MISREADING = 1 / 30;
/** A misreading's error: ten of the test's own, or this share of the level (a wrong column, a lost syringe). */
const MISREADING_ERRORS = 10;
const MISREADING_SHARE = 0.25;
/**
 * One test in sixty finds the water moved: a few times a year. Of one odd test a misreading stays the likelier explanation, and the
 * days between tests hardly matter, since a keeper tests sooner when something looks wrong; within hours water seldom moves.
 */
const MOVE = 1 / 60;
const MOVE_WITHIN = 0.5;
const SHARES: Record<'level' | 'drift' | 'dosing', number> = { level: 0.35, drift: 0.45, dosing: 0.2 };
/** Spread of what a failing dosing pump loses, or gives too much, as a share of what is written. */
const FAILING = 0.25;
/** A change of the drift began at most so many days before it was seen. */
const DRIFT_SINCE = 21;

/** After so many tests since, the one that showed it among them, a move needs no further look. */
export const MOVE_KNOWN = 3;

/** One way of explaining a test: its chance beforehand, and what it adds to level and drift (variances, covariance, means). */
export interface Explanation {
	regime: Regime;
	log: number;
	added: Added;
	/** What of the dosing is then missing, a day. */
	missing: number;
}

export interface Added {
	level: number;
	both: number;
	drift: number;
	meanLevel: number;
	meanDrift: number;
}

export const NOTHING: Added = { level: 0, both: 0, drift: 0, meanLevel: 0, meanDrift: 0 };

export function startOf({ start }: Model): State {
	const size = 2 + start.offsetSd.length;
	const mean = zeros(size);
	const cov = zeros(size * size);
	mean[0] = start.level;
	mean[1] = start.drift;
	cov[0] = start.levelSd ** 2;
	cov[size + 1] = start.driftSd ** 2;
	start.offsetSd.forEach((sd, i) => (cov[(2 + i) * (size + 1)] = sd * sd));
	return { mean, cov };
}

/** What was done to a parameter of the water, and what is written of its dosing; `missing`: of each parameter what does not arrive a day. */
export function happen(
	state: State,
	missing: number[],
	node: Exclude<Node, Seen>,
	{ level, drift }: Body
): void {
	const of = node.of ?? 0;
	if (node.kind === 'dose') dosed(state, node.change, node.variance, level);
	else if (node.kind === 'change') changed(state, node.fraction, node.newWater, node.variance, level);
	else if (node.kind === 'dosing' && el(missing, of) !== 0) {
		// What did not arrive does so again.
		addAt(state.mean, drift, el(missing, of));
		addToCell(state.cov, state.mean.length, drift, drift, (FAILING * el(missing, of)) ** 2);
		missing[of] = 0;
	}
}

/** What moves the state in an explanation; `since`: days since the test before. */
export function addedBy(regime: Regime, moves: Moves, since: number, rate: number): Added {
	if (regime === 'level') return { ...NOTHING, level: moves.level ** 2 };
	const moving = movesIn(regime);
	if (!moving) return NOTHING;
	// It began at any moment of the days since: the mean over all of them.
	const days = Math.min(since, DRIFT_SINCE);
	const missing = missingOf(regime, rate);
	const square = moving === 'dosing' ? (FAILING * rate) ** 2 : moves.drift ** 2;
	return {
		level: ((square + missing ** 2) * days * days) / 3 - (missing * days) ** 2 / 4,
		both: (square * days) / 2,
		drift: square,
		meanLevel: (-missing * days) / 2,
		meanDrift: -missing
	};
}

/** All explanations of a test. The first test of all can only be right or wrong. */
export function explanationsOf(
	node: Seen,
	{ moves, dosing }: Body,
	since: number | undefined
): Explanation[] {
	const rate = rateAt(dosing, node.at);
	const move = since === undefined ? 0 : MOVE * Math.min(1, since / MOVE_WITHIN);
	const failing = rate > 0 ? SHARES.dosing : 0;
	const chances: [Regime, number][] = [
		['as before', 1 - MISREADING - move],
		['slip', MISREADING],
		['level', move * SHARES.level],
		['drift', move * (1 - SHARES.level - failing)],
		...FAILED.map((f): [Regime, number] => [f, move * failing * FAILURES[f].chance])
	];
	return chances
		.filter(([, chance]) => chance > 0)
		.map(([regime, chance]) => ({
			regime,
			log: Math.log(chance),
			added: addedBy(regime, moves, since ?? 0, rate),
			missing: missingOf(regime, rate)
		}));
}

const misreadingVariance = (node: Seen, mean: number): number =>
	Math.max(MISREADING_ERRORS ** 2 * node.noise, (MISREADING_SHARE * mean) ** 2);

export function logOf(node: Seen, regime: Regime, mean: number, variance: number): number {
	const all = variance + (regime === 'slip' ? misreadingVariance(node, mean) : node.noise);
	return node.kind === 'value'
		? logDensity(node.seen - mean, all)
		: logInside(mean, all, node.from, node.high);
}

/** What an explanation adds to the state of a parameter, in place. */
export function add({ mean, cov }: State, added: Added, { level, drift }: Body): void {
	const size = mean.length;
	addAt(mean, level, added.meanLevel);
	addAt(mean, drift, added.meanDrift);
	addToCell(cov, size, level, level, added.level);
	addToCell(cov, size, level, drift, added.both);
	addToCell(cov, size, drift, level, added.both);
	addToCell(cov, size, drift, drift, added.drift);
}

/** Takes in a test of a parameter, in place; gives the logarithm of its chance. */
export function see(state: State, node: Seen, regime: Regime, { level }: Body): number {
	const before = seenBy(state, node.offset, level);
	const noise = regime === 'slip' ? misreadingVariance(node, before.mean) : node.noise;
	const { mean, variance } = before;
	const seen =
		node.kind === 'value'
			? seenValue(mean, variance, node.seen, noise)
			: seenBetween(mean, variance, node.low, node.high, noise);
	update(state, node.offset, before, seen, level);
	return seen.logChance;
}
