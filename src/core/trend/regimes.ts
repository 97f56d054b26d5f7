import {
	changed,
	copyOf,
	dosed,
	dosedBetween,
	predict,
	rateAt,
	seenBy,
	smooth,
	update,
	type Dosing,
	type Moment,
	type Noise,
	type State,
	type Transition,
	type Usual
} from './kalman';
import { zeros } from '../statistics';
import { logDensity, logInside, seenBetween, seenValue } from './moments';

/**
 * Slip or change. At every test several explanations are carried on side by side, each a Kalman filter of its own with its
 * chance: all as before; the test was wrong; the level jumped; the drift changed; what is dosed does not arrive. Those that
 * differ only in what is long past are joined again (multi-process models: Harrison and Stevens 1976; Gordon and Smith 1990;
 * generalised pseudo-Bayes of the order {@link REMEMBERED}: Blom and Bar-Shalom 1988).
 */

/** Something that happens to the estimate at one moment. Times in days. */
export type Node =
	| { at: number; kind: 'look' }
	| { at: number; kind: 'value'; seen: number; noise: number; offset: number; reading: number }
	| { at: number; kind: 'between'; low: number; high: number; noise: number; offset: number; reading: number }
	| { at: number; kind: 'dose'; change: number; variance: number }
	/** What is dosed from here on was written down: whatever did not arrive before, does. */
	| { at: number; kind: 'dosing' }
	| { at: number; kind: 'change'; fraction: number; newWater: number; variance: number };
type Seen = Extract<Node, { kind: 'value' | 'between' }>;

/** How far the water moves when it moves: standard deviations of a jump of the level, and of the drift a day. */
export interface Moves {
	level: number;
	drift: number;
}

export interface Model {
	/** In order of time. */
	nodes: Node[];
	dosing: Dosing[];
	/** Level and drift at the first node, standard deviations, and the trueness of each method. */
	start: { level: number; levelSd: number; driftSd: number; offsetSd: number[] };
	moves: Moves;
	usual: Usual;
}

export type Regime = 'as before' | 'slip' | 'level' | 'drift' | 'dosing';
const REGIMES: Regime[] = ['as before', 'slip', 'level', 'drift', 'dosing'];

/** One test in thirty is a slip: what duplicates of practised hands show; see the slips of the bench for how they come. */
const SLIP = 1 / 30;
/** A slip's error: ten of the test's own, or this share of the level (a wrong column, a lost syringe). */
const SLIP_ERRORS = 10;
const SLIP_SHARE = 0.25;
/** Chance that a slip lands in any given interval: small, and no more is known. */
const VAGUE = 0.05;
/**
 * One test in sixty finds the water moved: a few times a year. Of one odd test a slip stays the likelier explanation, and the
 * days between tests hardly matter, since a keeper tests sooner when something looks wrong; within hours water seldom moves.
 */
const MOVE = 1 / 60;
const MOVE_WITHIN = 0.5;
const SHARES: Record<'level' | 'drift' | 'dosing', number> = { level: 0.35, drift: 0.45, dosing: 0.2 };
/** A doser that fails gives nothing, or a part: spread of what is lost, as a share of what is written. */
const FAILING = 0.25;
/** A change of the drift began at most so many days before it was seen. */
const DRIFT_SINCE = 21;
/** Explanations that agree on so many of the newest tests are one. */
const REMEMBERED = 4;
const KEYS = REGIMES.length ** REMEMBERED;
/** Explanations carried on, and the chance, against the likeliest, below which one is given up. */
const MOST_TRACKS = 9;
/** What lies further back than so many readings and events has long been decided: there fewer are enough. */
const RECENT = 250;
const OLD_TRACKS = 3;
const LEAST = Math.log(1e-5);

/** What a track says of one test. */
interface Said {
	reading: number;
	regime: Regime;
	before: Said | undefined;
}

/** How the water moved: when, from which level, and in what way. */
export interface Move {
	kind: 'level' | 'drift' | 'dosing';
	at: number;
	from: number;
	/** Tests since, the one that showed it among them. */
	tests: number;
}

/** One explanation of all that was seen so far. */
export interface Track {
	/** Natural logarithm of its chance; of all tracks together 1. */
	log: number;
	state: State;
	said: Said | undefined;
	key: number;
	moved: Move | undefined;
	/** What of the dosing does not arrive, a day, as this track assumes. */
	missing: number;
}

export interface Passage {
	tracks: Track[];
	/** Natural logarithm of the chance of all that was seen. */
	logChance: number;
	/** The moment of the newest test, if there was one. */
	tested: number;
}

/** One way of explaining a test: its chance beforehand, and what it adds to level and drift (variances, covariance, means). */
interface Explanation {
	regime: Regime;
	log: number;
	added: Added;
	/** What of the dosing is then missing, a day. */
	missing: number;
}

interface Added {
	level: number;
	both: number;
	drift: number;
	meanLevel: number;
	meanDrift: number;
}

interface Guess {
	track: Track;
	by: Explanation;
	log: number;
}

const NOTHING: Added = { level: 0, both: 0, drift: 0, meanLevel: 0, meanDrift: 0 };

function startOf({ start }: Model): State {
	const size = 2 + start.offsetSd.length;
	const mean = zeros(size);
	const cov = zeros(size * size);
	mean[0] = start.level;
	cov[0] = start.levelSd ** 2;
	cov[size + 1] = start.driftSd ** 2;
	start.offsetSd.forEach((sd, i) => (cov[(2 + i) * (size + 1)] = sd * sd));
	return { mean, cov };
}

/** One way through time over all nodes, all explanations beside each other. */
export function forward(model: Model, noise: Noise, most = MOST_TRACKS): Passage {
	const { nodes, dosing, usual } = model;
	let tracks: Track[] = [
		{ log: 0, state: startOf(model), said: undefined, key: 0, moved: undefined, missing: 0 }
	];
	let logChance = 0;
	let now = nodes[0]?.at ?? 0;
	let tested = now;
	let first = true;
	for (const [k, node] of nodes.entries()) {
		const days = node.at - now;
		if (days > 0) {
			const step = { days, since: now - tested, dosed: dosedBetween(dosing, now, node.at) };
			for (const { state } of tracks) predict(state, step, noise, usual);
		}
		now = node.at;
		if (node.kind === 'value' || node.kind === 'between') {
			const explained = explanationsOf(node, model, first ? undefined : node.at - tested);
			const { guesses, logChance: chance } = likeliest(
				tracks,
				node,
				explained,
				k < nodes.length - RECENT ? OLD_TRACKS : most
			);
			logChance += chance;
			tracks = joined(takenIn(guesses, node, chance, tested));
			tested = node.at;
			first = false;
		} else for (const track of tracks) happen(track, node);
	}
	return { tracks, logChance, tested };
}

/** What was done to the water, and what is written of the dosing. */
function happen(track: Pick<Track, 'state' | 'missing'>, node: Exclude<Node, Seen>): void {
	const { state } = track;
	if (node.kind === 'dose') dosed(state, node.change, node.variance);
	else if (node.kind === 'change') changed(state, node.fraction, node.newWater, node.variance);
	else if (node.kind === 'dosing' && track.missing !== 0) {
		state.mean[1]! += track.missing;
		state.cov[state.mean.length + 1]! += (FAILING * track.missing) ** 2;
		track.missing = 0;
	}
}

/** What moves the state in an explanation; `since`: days since the test before. */
function addedBy(regime: Regime, moves: Moves, since: number, rate: number): Added {
	if (regime === 'level') return { ...NOTHING, level: moves.level ** 2 };
	if (regime !== 'drift' && regime !== 'dosing') return NOTHING;
	// It began at any moment of the days since: the mean over all of them.
	const days = Math.min(since, DRIFT_SINCE);
	const missing = regime === 'dosing' ? rate : 0;
	const square = regime === 'dosing' ? (FAILING * rate) ** 2 : moves.drift ** 2;
	return {
		level: ((square + missing ** 2) * days * days) / 3 - (missing * days) ** 2 / 4,
		both: (square * days) / 2,
		drift: square,
		meanLevel: (-missing * days) / 2,
		meanDrift: -missing
	};
}

/** All explanations of a test. The first test of all can only be right or wrong. */
function explanationsOf(node: Seen, { moves, dosing }: Model, since: number | undefined): Explanation[] {
	const rate = rateAt(dosing, node.at);
	const move = since === undefined ? 0 : MOVE * Math.min(1, since / MOVE_WITHIN);
	const failing = rate > 0 ? SHARES.dosing : 0;
	const chances: [Regime, number][] = [
		['as before', 1 - SLIP - move],
		['slip', SLIP],
		['level', move * SHARES.level],
		['drift', move * (1 - SHARES.level - failing)],
		['dosing', move * failing]
	];
	return chances
		.filter(([, chance]) => chance > 0)
		.map(([regime, chance]) => ({
			regime,
			log: Math.log(chance),
			added: addedBy(regime, moves, since ?? 0, rate),
			missing: regime === 'dosing' ? rate : 0
		}));
}

/** The likeliest explanations after each track, of each the chance; and the chance of the test under all of them. */
function likeliest(
	tracks: Track[],
	node: Seen,
	explained: Explanation[],
	most: number
): { guesses: Guess[]; logChance: number } {
	const all: Guess[] = [];
	let top = -Infinity;
	for (const track of tracks) {
		const expected = seenBy(track.state, node.offset);
		for (const by of explained) {
			// What does not arrive already cannot fail again.
			if (by.missing !== 0 && track.missing !== 0) continue;
			const mean = expected.mean + by.added.meanLevel;
			const log = track.log + by.log + logOf(node, by.regime, mean, expected.variance + by.added.level);
			if (log > top + LEAST) all.push({ track, by, log });
			if (log > top) top = log;
		}
	}
	let sum = 0;
	for (const { log } of all) sum += Math.exp(log - top);
	const guesses = all
		.filter((g) => g.log > top + LEAST)
		.sort((a, b) => b.log - a.log)
		.slice(0, most);
	return { guesses, logChance: top + Math.log(sum) };
}

const slipVariance = (node: Extract<Node, { kind: 'value' }>, mean: number): number =>
	Math.max(SLIP_ERRORS ** 2 * node.noise, (SLIP_SHARE * mean) ** 2);

function logOf(node: Seen, regime: Regime, mean: number, variance: number): number {
	if (node.kind === 'value')
		return logDensity(
			node.seen - mean,
			variance + (regime === 'slip' ? slipVariance(node, mean) : node.noise)
		);
	return regime === 'slip' ? Math.log(VAGUE) : logInside(mean, variance + node.noise, node.low, node.high);
}

/** What an explanation adds to a state, in place. */
function add({ mean, cov }: State, added: Added): void {
	const size = mean.length;
	mean[0]! += added.meanLevel;
	mean[1]! += added.meanDrift;
	cov[0]! += added.level;
	cov[1]! += added.both;
	cov[size]! += added.both;
	cov[size + 1]! += added.drift;
}

/** Takes in a test, in place. */
function see(state: State, node: Seen, regime: Regime): void {
	const before = seenBy(state, node.offset);
	if (node.kind === 'value') {
		const noise = regime === 'slip' ? slipVariance(node, before.mean) : node.noise;
		update(state, node.offset, before, seenValue(before.mean, before.variance, node.seen, noise));
	} else if (regime !== 'slip')
		update(
			state,
			node.offset,
			before,
			seenBetween(before.mean, before.variance, node.low, node.high, node.noise)
		);
}

/** The tracks that follow from guesses; a state is copied only where another guess still needs it. */
function takenIn(guesses: Guess[], node: Seen, logChance: number, tested: number): Track[] {
	const needed = new Map<Track, number>();
	for (const { track } of guesses) needed.set(track, (needed.get(track) ?? 0) + 1);
	return guesses.map(({ track, by, log }) => {
		const more = needed.get(track)! - 1;
		needed.set(track, more);
		const state = more ? copyOf(track.state) : track.state;
		const from = state.mean[0]!;
		if (by.added !== NOTHING) add(state, by.added);
		see(state, node, by.regime);
		const { regime } = by;
		const moves = regime === 'level' || regime === 'drift' || regime === 'dosing';
		return {
			log: log - logChance,
			state,
			said: { reading: node.reading, regime, before: track.said },
			key: (track.key * REGIMES.length + REGIMES.indexOf(regime)) % KEYS,
			moved: moves
				? { kind: regime, at: (tested + node.at) / 2, from, tests: 1 }
				: track.moved && { ...track.moved, tests: track.moved.tests + 1 },
			missing: by.missing || track.missing
		};
	});
}

/** Tracks that say the same of the newest tests become one, with their common mean and covariance and the likelier's past. */
function joined(tracks: Track[]): Track[] {
	if (tracks.length === 1) return tracks;
	const groups = new Map<number, Track[]>();
	for (const track of tracks) {
		const group = groups.get(track.key);
		if (group) group.push(track);
		else groups.set(track.key, [track]);
	}
	return [...groups.values()].map((group) => {
		const [best] = group;
		if (group.length === 1) return best!;
		const log = Math.log(group.reduce((sum, t) => sum + Math.exp(t.log), 0));
		const size = best!.state.mean.length;
		const mean = zeros(size);
		const cov = zeros(size * size);
		const shares = group.map((t) => Math.exp(t.log - log));
		group.forEach(({ state }, t) => state.mean.forEach((x, i) => (mean[i]! += shares[t]! * x)));
		group.forEach(({ state }, t) => {
			for (let i = 0; i < size; i++)
				for (let j = 0; j < size; j++)
					cov[i * size + j]! +=
						shares[t]! *
						(state.cov[i * size + j]! + (state.mean[i]! - mean[i]!) * (state.mean[j]! - mean[j]!));
		});
		return { ...best!, log, state: { mean, cov } };
	});
}

/** What a track says of the tests, by their number: all that are not as before. */
export function saidBy(track: Track): Map<number, Regime> {
	const said = new Map<number, Regime>();
	for (let s = track.said; s; s = s.before) if (s.regime !== 'as before') said.set(s.reading, s.regime);
	return said;
}

/** A moment on the way under one explanation, with what is needed to go on from it. */
interface Stop extends Moment {
	at: number;
	tested: number;
	missing: number;
}

/** The way forward under one explanation of every test; goes on behind `stops` that were made before. */
export function onward(model: Model, noise: Noise, said: Map<number, Regime>, stops: Stop[] = []): Stop[] {
	const { nodes, dosing, usual, moves } = model;
	const last = stops.at(-1);
	const state = last ? copyOf(last.seen) : startOf(model);
	let now = last?.at ?? nodes[0]?.at ?? 0;
	let tested = last?.tested ?? now;
	const way = [...stops];
	const track = { state, missing: last?.missing ?? 0 };
	for (let n = stops.length; n < nodes.length; n++) {
		const node = nodes[n]!;
		const days = Math.max(0, node.at - now);
		const step = { days, since: now - tested, dosed: dosedBetween(dosing, now, node.at) };
		const by: Transition = { kept: predict(state, step, noise, usual), days, rest: 1 };
		now = node.at;
		if (node.kind === 'value' || node.kind === 'between') {
			const regime = said.get(node.reading) ?? 'as before';
			const rate = rateAt(dosing, node.at);
			add(state, addedBy(regime, moves, node.at - tested, rate));
			if (regime === 'dosing') track.missing = rate;
			tested = node.at;
			const predicted = copyOf(state);
			see(state, node, regime);
			way.push({ by, predicted, seen: copyOf(state), at: now, tested, missing: track.missing });
		} else {
			happen(track, node);
			if (node.kind === 'change') by.rest = 1 - node.fraction;
			const both = copyOf(state);
			way.push({ by, predicted: both, seen: both, at: now, tested, missing: track.missing });
		}
	}
	return way;
}

/** Nodes before the first test that two explanations say differently of, as far as that reaches back in the smoothing. */
const REACH = 40;

/**
 * The level at every node given all that was seen, under each of some tracks, the likeliest first. The others go their own way
 * only from a little before the first test of which they say something else: before, they are as the likeliest.
 */
export function smoothedBy(model: Model, noise: Noise, tracks: Track[]): State[][] {
	const [best, ...others] = tracks.map(saidBy);
	const way = onward(model, noise, best!);
	const states = smooth(way);
	return [
		states,
		...others.map((said) => {
			const differs = model.nodes.findIndex(
				(n) => 'reading' in n && (said.get(n.reading) ?? '') !== (best!.get(n.reading) ?? '')
			);
			if (differs < 0) return states;
			const own = onward(model, noise, said, way.slice(0, differs));
			const from = Math.max(0, differs - REACH);
			return [...states.slice(0, from), ...smooth(own.slice(from))];
		})
	];
}
