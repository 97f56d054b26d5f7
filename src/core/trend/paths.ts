import { nth } from '../nth';
import {
	clamp,
	copyOf,
	dosedBetween,
	predict,
	rateAt,
	smooth,
	type Moment,
	type Noise,
	type State,
	type Transition
} from './kalman';
import {
	add,
	addedBy,
	happen,
	missingOf,
	movesIn,
	see,
	startOf,
	type Model,
	type Regime
} from './hypotheses';
import { saidBy, type Track } from './regimes';

/** There and back again under explanations that are settled: the filter onward, the smoother back. */

/** A moment on the way under one explanation, with what is needed to go on from it. */
export interface Stop extends Moment {
	at: number;
	tested: number;
	missing: number;
}

/** The way forward under one explanation of every test; goes on behind `stops` that were made before. */
export function onward(model: Model, noise: Noise, said: Map<number, Regime>, stops: Stop[] = []): Stop[] {
	const { nodes, dosing, usual, moves, floor } = model;
	const last = stops.at(-1);
	const state = last ? copyOf(last.seen) : startOf(model);
	let now = last?.at ?? nodes[0]?.at ?? 0;
	let tested = last?.tested ?? now;
	const way = [...stops];
	const track = { state, missing: last?.missing ?? 0 };
	for (let n = stops.length; n < nodes.length; n++) {
		const node = nth(nodes, n);
		const days = Math.max(0, node.at - now);
		const step = { days, since: now - tested, dosed: dosedBetween(dosing, now, node.at) };
		const by: Transition = { kept: predict(state, step, noise, usual), days, rest: 1 };
		if (node.kind !== 'look') by.rest = clamp(state, floor);
		now = node.at;
		if (node.kind === 'value' || node.kind === 'between') {
			const regime = said.get(node.reading) ?? 'as before';
			const rate = rateAt(dosing, node.at);
			add(state, addedBy(regime, moves, node.at - tested, rate));
			if (movesIn(regime) === 'dosing') track.missing = missingOf(regime, rate);
			tested = node.at;
			const predicted = copyOf(state);
			see(state, node, regime);
			way.push({ by, predicted, seen: copyOf(state), at: now, tested, missing: track.missing });
		} else {
			happen(track, node);
			if (node.kind === 'change') by.rest *= 1 - node.fraction;
			const both = copyOf(state);
			way.push({ by, predicted: both, seen: both, at: now, tested, missing: track.missing });
		}
	}
	return way;
}

/** Nodes before the first test that two explanations say differently of, as far as that reaches back in the smoothing. */
const REACH = 40;

/** At every node the state given all that was seen, and what of the dosing is believed to be missing there, a day. */
export interface Way {
	states: State[];
	missing: number[];
}
const wayOf = (stops: Stop[]): Way => ({ states: smooth(stops), missing: stops.map((s) => s.missing) });

/**
 * The way here under each of some tracks, the likeliest first. The others go their own way
 * only from a little before the first test of which they say something else: before, they are as the likeliest.
 */
export function smoothedBy(model: Model, noise: Noise, tracks: Track[]): Way[] {
	const [best, ...others] = tracks.map(saidBy);
	const stops = onward(model, noise, best!);
	const likeliest = wayOf(stops);
	return [
		likeliest,
		...others.map((said) => {
			const differs = model.nodes.findIndex(
				(n) => 'reading' in n && (said.get(n.reading) ?? '') !== (best!.get(n.reading) ?? '')
			);
			if (differs < 0) return likeliest;
			const own = onward(model, noise, said, stops.slice(0, differs));
			const from = Math.max(0, differs - REACH);
			const { states, missing } = wayOf(own.slice(from));
			return {
				states: [...likeliest.states.slice(0, from), ...states],
				missing: [...likeliest.missing.slice(0, from), ...missing]
			};
		})
	];
}
