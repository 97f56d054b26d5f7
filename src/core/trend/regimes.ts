import { clamp, copyOf, dosedBetween, predict, seenBy, type Noise, type State } from './kalman';
import { addAt, addToCell, cell, el, zeros } from '../statistics';
import {
	NOTHING,
	REGIMES,
	add,
	explanationsOf,
	happen,
	logOf,
	movesIn,
	see,
	startOf,
	type Explanation,
	type Model,
	type Regime,
	type Seen
} from './hypotheses';

/**
 * Slip or change. At every test several explanations are carried on side by side, each a Kalman filter of its own with its
 * chance: all as before; the test was wrong; the level jumped; the drift changed; what is dosed does not arrive. Those that
 * differ only in what is long past are joined again (multi-process models: Harrison and Stevens 1976; Gordon and Smith 1990;
 * generalised pseudo-Bayes of the order {@link REMEMBERED}: Blom and Bar-Shalom 1988).
 */

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

interface Guess {
	track: Track;
	by: Explanation;
	log: number;
}

/** One way through time over all nodes, all explanations beside each other. */
export function forward(model: Model, noise: Noise, most = MOST_TRACKS): Passage {
	const { nodes, dosing, usual, floor } = model;
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
		if (node.kind !== 'look') for (const { state } of tracks) clamp(state, floor);
		if (node.kind === 'value' || node.kind === 'between') {
			const explained = explanationsOf(node, model, first ? undefined : node.at - tested);
			const { guesses, logChance: chance } = likeliest(
				tracks,
				node,
				explained,
				k < nodes.length - RECENT ? OLD_TRACKS : most
			);
			logChance += chance;
			tracks = joined(takenIn(guesses, node, tested));
			tested = node.at;
			first = false;
		} else for (const track of tracks) happen(track, node);
	}
	return { tracks, logChance, tested };
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
	// What is given up is shared out: weights add up to 1 again.
	const kept = guesses.reduce((total, { log }) => total + Math.exp(log - top), 0);
	for (const guess of guesses) guess.log -= top + Math.log(kept);
	return { guesses, logChance: top + Math.log(sum) };
}

/** The tracks that follow from guesses; a state is copied only where another guess still needs it. */
function takenIn(guesses: Guess[], node: Seen, tested: number): Track[] {
	const needed = new Map<Track, number>();
	for (const { track } of guesses) needed.set(track, (needed.get(track) ?? 0) + 1);
	return guesses.map(({ track, by, log }) => {
		const more = needed.get(track)! - 1;
		needed.set(track, more);
		const state = more ? copyOf(track.state) : track.state;
		const from = el(state.mean, 0);
		if (by.added !== NOTHING) add(state, by.added);
		see(state, node, by.regime);
		const { regime } = by;
		const kind = movesIn(regime);
		return {
			log,
			state,
			said: { reading: node.reading, regime, before: track.said },
			key: (track.key * REGIMES.length + REGIMES.indexOf(regime)) % KEYS,
			moved: kind
				? { kind, at: (tested + node.at) / 2, from, tests: 1 }
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

/** What a track says of the tests, by their number: all that are not as before. */
export function saidBy(track: Track): Map<number, Regime> {
	const said = new Map<number, Regime>();
	for (let s = track.said; s; s = s.before) if (s.regime !== 'as before') said.set(s.reading, s.regime);
	return said;
}
