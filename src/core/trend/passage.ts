import { nth } from '../base';
import { cell, el, normal, uniform, zeros } from '../statistics';
import type { State } from './kalman';
import { predict, type Transition, type Water } from './water';

/** A band as far as it can be left: a limit that nothing lies beyond is undefined. */
export interface Limits {
	lower: number | undefined;
	upper: number | undefined;
}

/** How far the chance of having left has grown by each day, 0 the first, and by which limit. */
export interface Leaving {
	lower: number[];
	upper: number[];
}

/** What a day does: level = levelMean + kept·(level + drift) + noise, drift = driftMean + kept·drift + noise that goes with the level's by `both`. */
export interface DayStep {
	kept: number;
	levelMean: number;
	/** How well levelMean is known: standard deviation, the same all the way. */
	levelMeanSd: number;
	driftMean: number;
	levelSd: number;
	both: number;
	driftSd: number;
}

/** What is done to the water before a day: `rest` of the level stays, and `fresh` comes to it. */
export interface DoneOn {
	rest: number;
	fresh: number;
}

/** Ways followed: a tenth is known to about one in a hundred. */
const WAYS = 500;
/** So little a chance that a way crossed and came back is none. */
const NEVER = 30;

/** What chance gives each way on one day: two of a bell, one from 0 to 1. The same for every question (common random numbers). */
interface Draws {
	level: Float64Array;
	drift: Float64Array;
	cross: Float64Array;
}
const drawn: Draws[] = [];
function drawsOf(day: number): Draws {
	for (let next = drawn.length; next <= day; next++) {
		const random = uniform(next + 1);
		const gauss = normal(random);
		const many = (draw: () => number) => Float64Array.from({ length: WAYS }, draw);
		drawn.push({ level: many(gauss), drift: many(gauss), cross: many(random) });
	}
	return nth(drawn, day);
}

/**
 * First passage out of a band, by following many ways of level and drift from their mixture on, day by day, with the chance
 * that one crossed and came back between two days (Brownian bridge; Karatzas and Shreve 1991, 2.8). Each day the water goes on by one of
 * `steps`; `doneOn` gives what is done before it. An explanation with a `day` of its own goes by that.
 */
export function firstPassage(
	from: { weight: number; state: State; day?: DayStep }[],
	{ lower, upper }: Limits,
	water: Water,
	steps: Transition[],
	doneOn: (day: number) => DoneOn
): Leaving {
	const days = steps.length;
	const { floor } = nth(water.bodies, 0);
	const left: Leaving = {
		lower: new Array<number>(days + 1).fill(0),
		upper: new Array<number>(days + 1).fill(0)
	};
	const out = (level: number): 'lower' | 'upper' | undefined => {
		if (lower !== undefined && level < lower) return 'lower';
		if (upper !== undefined && level > upper) return 'upper';
		return undefined;
	};
	const each = steps.map((step, day) => ({ ...dayOf(water, step), ...doneOn(day), by: drawsOf(day + 1) }));
	const first = drawsOf(0);
	let [weightBefore, which] = [0, 0];
	for (let way = 0; way < WAYS; way++) {
		// Ways are shared out among the explanations by their weights.
		while (which < from.length - 1 && (way + 0.5) / WAYS > weightBefore + nth(from, which).weight)
			weightBefore += nth(from, which++).weight;
		const { state, day: own } = nth(from, which);
		const { mean, cov } = state;
		const size = mean.length;
		const sd = Math.sqrt(el(cov, 0));
		const z = first.level[way]!;
		let level = Math.max(floor, el(mean, 0) + sd * z);
		const slope = el(cov, 1) / (sd || 1);
		let drift =
			el(mean, 1) +
			slope * z +
			Math.sqrt(Math.max(0, cell(cov, size, 1, 1) - slope * slope)) * first.drift[way]!;
		const aside = own ? own.levelMeanSd * first.drift[way]! : 0;
		let limit = out(level);
		if (limit) left[limit][0]!++;
		for (let day = 0; !limit && day < days; day++) {
			const step = nth(each, day);
			const { by } = step;
			// Those that go by a day of their own have seen what is done in all that they go by.
			if (!own) level = Math.max(floor, step.rest * level + step.fresh);
			const { kept, levelMean, driftMean, levelSd, both, driftSd } = own ?? step;
			const z = by.level[way]!;
			const next = Math.max(floor, levelMean + aside + kept * (level + drift) + levelSd * z);
			drift = driftMean + kept * drift + both * z + driftSd * by.drift[way]!;
			limit = out(next) ?? crossed(level, next, levelSd * levelSd, by.cross[way]!);
			level = next;
			if (limit) left[limit][day + 1]!++;
		}
	}
	for (const counts of [left.lower, left.upper])
		for (let day = 0, sum = 0; day <= days; day++) counts[day] = (sum += el(counts, day)) / WAYS;
	return left;

	function crossed(a: number, b: number, variance: number, chance: number): 'lower' | 'upper' | undefined {
		const over = (limit: number | undefined) => {
			if (limit === undefined) return 0;
			const far = 2 * Math.abs(limit - a) * Math.abs(limit - b);
			return far > NEVER * variance ? 0 : Math.exp(-far / variance);
		};
		const under = over(lower);
		if (chance < under) return 'lower';
		return chance < under + over(upper) ? 'upper' : undefined;
	}
}

/** One step of {@link predict} as numbers to draw from: what it makes of a level and drift of nothing, and of one. */
function dayOf(water: Water, step: Transition): DayStep {
	const state: State = { mean: zeros(2), cov: zeros(4) };
	predict(state, water, step);
	const levelSd = Math.sqrt(el(state.cov, 0));
	const both = el(state.cov, 1) / (levelSd || 1);
	return {
		kept: step.parts.reduce((all, { kept }) => all * nth(kept, 0), 1),
		levelMean: el(state.mean, 0),
		levelMeanSd: 0,
		driftMean: el(state.mean, 1),
		levelSd,
		both,
		driftSd: Math.sqrt(Math.max(0, el(state.cov, 3) - both * both))
	};
}
