import { nth } from '../base';
import { addAt, addToCell, cell, el, zeros } from '../statistics';
import {
	MOVE_KNOWN,
	NOTHING,
	REGIMES,
	add,
	explanationsOf,
	happen,
	logOf,
	movesIn,
	see,
	type Explanation,
	type Node,
	type Regime,
	type Seen
} from './hypotheses';
import { clamp, copyOf, seenBy, type State } from './kalman';
import { predict, transitionOf, type Body, type Water } from './water';

/**
 * Misreading or change. At every test several explanations are carried on side by side, each a Kalman filter of its own with its
 * chance: all as before; the test was wrong; the level jumped; the drift changed; what is dosed does not arrive. Those that
 * differ only in what is long past are joined again (multi-process models: Harrison and Stevens 1976; Gordon and Smith 1990;
 * generalised pseudo-Bayes of the order {@link REMEMBERED}: Blom and Bar-Shalom 1988).
 */

/** Explanations that agree on so many of the newest tests of each parameter are one. */
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
	of: number;
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
	/** What it says of the newest tests: of each parameter as many digits to the base of the regimes. */
	key: number;
	/** Of each parameter how it moved last. */
	moved: (Move | undefined)[];
	/** Of each parameter what of its dosing does not arrive, a day, as this track assumes. */
	missing: number[];
}

interface Passage {
	tracks: Track[];
	/** Natural logarithm of the chance of all that was seen. */
	logChance: number;
	/** When each parameter was tested last. */
	tested: number[];
	/** The moment that the tracks stand at. */
	at: number;
}

interface Guess {
	track: Track;
	by: Explanation;
	log: number;
}

/** One way through time over all nodes, all explanations beside each other. */
export function forward(water: Water, start: State, nodes: Node[], most = MOST_TRACKS): Passage {
	const { bodies } = water;
	let tracks: Track[] = [
		{
			log: 0,
			state: copyOf(start),
			said: undefined,
			key: 0,
			moved: bodies.map(() => undefined),
			missing: zeros(bodies.length)
		}
	];
	let logChance = 0;
	let at = nodes[0]?.at ?? 0;
	const tested = bodies.map(() => at);
	const first = bodies.map(() => true);
	for (const [k, node] of nodes.entries()) {
		if (node.at > at) {
			const step = transitionOf(water, at, node.at, tested);
			for (const { state } of tracks) predict(state, water, step);
		}
		at = node.at;
		const of = node.of ?? 0;
		const body = nth(bodies, of);
		if (node.kind !== 'look') for (const { state } of tracks) clamp(state, body.floor, body.level);
		if (node.kind === 'value' || node.kind === 'between') {
			const before = el(tested, of);
			const explained = explanationsOf(node, body, first[of] ? undefined : at - before);
			const kept = k < nodes.length - RECENT ? OLD_TRACKS : most;
			const { guesses, logChance: chance } = likeliest(tracks, node, body, explained, kept);
			logChance += chance;
			tracks = joined(takenIn(guesses, node, body, before));
			tested[of] = at;
			first[of] = false;
		} else for (const { state, missing } of tracks) happen(state, missing, node, body);
	}
	return { tracks, logChance, tested, at };
}

/** Brings all explanations to a moment after the last node, in place: nothing happens but time. */
export function goOn(
	{ tracks, tested, at }: Pick<Passage, 'tracks' | 'tested' | 'at'>,
	water: Water,
	to: number
): void {
	const step = transitionOf(water, at, to, tested);
	for (const { state } of tracks) predict(state, water, step);
}

/** The likeliest explanations after each track, of each the chance; and the chance of the test under all of them. */
function likeliest(
	tracks: Track[],
	node: Seen,
	{ level }: Body,
	explained: Explanation[],
	most: number
): { guesses: Guess[]; logChance: number } {
	const all: Guess[] = [];
	let top = -Infinity;
	for (const track of tracks) {
		const expected = seenBy(track.state, node.offset, level);
		for (const by of explained) {
			// What does not arrive already cannot fail again.
			if (by.missing !== 0 && el(track.missing, node.of ?? 0) !== 0) continue;
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
	// What is given up is shared out: weights add up to 1 again.
	const kept = guesses.reduce((total, { log }) => total + Math.exp(log - top), 0);
	for (const guess of guesses) guess.log -= top + Math.log(kept);
	return { guesses, logChance: top + Math.log(sum) };
}

/** The tracks that follow from guesses; a state is copied only where another guess still needs it. */
function takenIn(guesses: Guess[], node: Seen, body: Body, before: number): Track[] {
	const needed = new Map<Track, number>();
	for (const { track } of guesses) needed.set(track, (needed.get(track) ?? 0) + 1);
	const of = node.of ?? 0;
	return guesses.map(({ track, by, log }) => {
		const more = needed.get(track)! - 1;
		needed.set(track, more);
		const state = more ? copyOf(track.state) : track.state;
		const from = el(state.mean, body.level);
		if (by.added !== NOTHING) add(state, by.added, body);
		see(state, node, by.regime, body);
		const { regime } = by;
		const kind = movesIn(regime);
		const last = track.moved[of];
		return {
			log,
			state,
			said: { of, reading: node.reading, regime, before: track.said },
			key: keyAfter(track.key, of, regime),
			moved: track.moved.with(
				of,
				kind
					? { kind, at: (before + node.at) / 2, from, tests: 1 }
					: last && { ...last, tests: last.tests + 1 }
			),
			missing: by.missing ? track.missing.with(of, by.missing) : track.missing.slice()
		};
	});
}

/** The digits of one parameter's newest tests, with one more and without the oldest. */
function keyAfter(key: number, of: number, regime: Regime): number {
	const place = KEYS ** of;
	const own = Math.floor(key / place) % KEYS;
	return key + place * (((own * REGIMES.length + REGIMES.indexOf(regime)) % KEYS) - own);
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
		group.forEach(({ state }, t) => state.mean.forEach((x, i) => addAt(mean, i, el(shares, t) * x)));
		group.forEach(({ state }, t) => {
			for (let i = 0; i < size; i++)
				for (let j = 0; j < size; j++)
					addToCell(
						cov,
						size,
						i,
						j,
						el(shares, t) *
							(cell(state.cov, size, i, j) +
								(el(state.mean, i) - el(mean, i)) * (el(state.mean, j) - el(mean, j)))
					);
		});
		return { ...best!, log, state: { mean, cov } };
	});
}

/** What a track says of a parameter's tests, by their number: all that are not as before. */
export function saidBy({ said }: Pick<Track, 'said'>, of = 0): Map<number, Regime> {
	const found = new Map<number, Regime>();
	for (let s = said; s; s = s.before)
		if (s.of === of && s.regime !== 'as before') found.set(s.reading, s.regime);
	return found;
}

/** One explanation of a parameter's tests, and where it leads by now. Weights of all add up to 1. */
export interface Standing {
	weight: number;
	/** Level, drift, and the offsets of its kits where it is by itself. */
	state: State;
	/** What of its dosing does not arrive, a day. */
	missing: number;
	moved: Move | undefined;
	said: Map<number, Regime>;
}

/** What each explanation says of one parameter; `stateOf` takes its part from the state of all. */
export const standingOf = (tracks: Track[], of: number, stateOf: (all: State) => State): Standing[] =>
	tracks.map((track) => ({
		weight: Math.exp(track.log),
		state: stateOf(track.state),
		missing: el(track.missing, of),
		moved: track.moved[of],
		said: saidBy(track, of)
	}));

/** By an explanation by which the water has only just moved, there is no record of where it goes now. */
export const hasRecord = ({ moved }: Pick<Standing, 'moved'>): boolean =>
	(moved?.tests ?? Infinity) >= MOVE_KNOWN;
