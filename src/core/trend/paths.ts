import { nth } from '../base';
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
import { scaleAt } from '../statistics';
import { clamp, copyOf, rateAt, type Noise, type State } from './kalman';
import { saidBy, type Track } from './regimes';
import { smooth, type Moment } from './smoother';
import { predict, transitionOf, waterAlone, type Water } from './water';

/** There and back again under explanations that are settled: the filter onward, the smoother back. */

/** A moment on the way under one explanation, with what is needed to go on from it. */
export interface Stop extends Moment {
	at: number;
	tested: number;
	missing: number;
}

/** The way forward under one explanation of every test; goes on behind `stops` that were made before. */
export function onward(model: Model, noise: Noise, said: Map<number, Regime>, stops: Stop[] = []): Stop[] {
	const { nodes } = model;
	const water = waterAlone(model, noise);
	const body = nth(water.bodies, 0);
	const last = stops.at(-1);
	const state = last ? copyOf(last.seen) : startOf(model);
	let now = last?.at ?? nodes[0]?.at ?? 0;
	let tested = last?.tested ?? now;
	const way = [...stops];
	const missing = [last?.missing ?? 0];
	for (let n = stops.length; n < nodes.length; n++) {
		const node = nth(nodes, n);
		const by = transitionOf(water, now, node.at, [tested]);
		predict(state, water, by);
		if (node.kind !== 'look') by.rest[0] = clamp(state, body.floor);
		now = node.at;
		let predicted: State | undefined;
		if (node.kind === 'value' || node.kind === 'between') {
			const regime = said.get(node.reading) ?? 'as before';
			const rate = rateAt(body.dosing, node.at);
			add(state, addedBy(regime, body.moves, node.at - tested, rate), body);
			if (movesIn(regime) === 'dosing') missing[0] = missingOf(regime, rate);
			tested = node.at;
			predicted = copyOf(state);
			see(state, node, regime, body);
		} else {
			happen(state, missing, node, body);
			if (node.kind === 'change') scaleAt(by.rest, 0, 1 - node.fraction);
		}
		const seen = copyOf(state);
		way.push({ by, predicted: predicted ?? seen, seen, at: now, tested, missing: nth(missing, 0) });
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
const wayOf = (stops: Stop[], water: Water): Way => ({
	states: smooth(water, stops),
	missing: stops.map((s) => s.missing)
});

/**
 * The way here under each of some tracks, the likeliest first. The others go their own way
 * only from a little before the first test of which they say something else: before, they are as the likeliest.
 */
export function smoothedBy(model: Model, noise: Noise, tracks: Track[]): Way[] {
	const [best, ...others] = tracks.map((t) => saidBy(t));
	const water = waterAlone(model, noise);
	const stops = onward(model, noise, best!);
	const likeliest = wayOf(stops, water);
	return [
		likeliest,
		...others.map((said) => {
			const differs = model.nodes.findIndex(
				(n) => 'reading' in n && (said.get(n.reading) ?? '') !== (best!.get(n.reading) ?? '')
			);
			if (differs < 0) return likeliest;
			const own = onward(model, noise, said, stops.slice(0, differs));
			const from = Math.max(0, differs - REACH);
			const { states, missing } = wayOf(own.slice(from), water);
			return {
				states: [...likeliest.states.slice(0, from), ...states],
				missing: [...likeliest.missing.slice(0, from), ...missing]
			};
		})
	];
}
