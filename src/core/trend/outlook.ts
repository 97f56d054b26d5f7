import { DAY, nth } from '../base';
import { COVERAGE_95, el } from '../statistics';
import { beside, blended, type Ahead } from './ahead';
import { changed, clamp, copyOf, dosed, rateAt } from './kalman';
import { below, spreadOf, type Part } from './mixture';
import { firstPassage, type DoneOn, type Limits } from './passage';
import { hasRecord, type Standing } from './regimes';
import { timesWithin, type Rhythm } from './rhythms';
import type { TrendResult } from './schema';
import { predict, transitionOf, type Water } from './water';

/** What comes: the level day by day, when it leaves its band, and when to look again. Times in days. */

/** A chance of being out of the band that asks for a look: one in ten. */
const WORRY = 0.1;
/** A forecast whose 95 % interval is wider than this share of the band says too little. */
const TOO_WIDE = 0.5;
/** The next test is no sooner and no later than this, days; where something is wrong, today or tomorrow. */
export const SOONEST = 1;
export const LATEST = 60;

/** Explanations beside each other, of level (0), drift (1) or an offset, as parts of a mixture. */
export const partsOf = (present: Pick<Standing, 'weight' | 'state'>[], i: number): Part[] =>
	present.map(({ weight, state: { mean, cov } }) => ({
		weight,
		mean: el(mean, i),
		variance: Math.max(0, el(cov, i * (mean.length + 1)))
	}));

/** Now, and all by which it goes on. */
export interface Outset {
	present: Standing[];
	/** What else may come than that it wanders. */
	others: Ahead[];
	now: number;
	/** How long ago the last test is. */
	since: number;
	/** The parameter by itself, as it goes on from now. */
	water: Water;
	/** What is done again and again. */
	rhythms: Rhythm[];
}

/** The level every day from now on, if nothing is done but what is dosed, and what is done regularly: every explanation for itself. */
export function forecastOf(outset: Outset, days: number): Part[][] {
	const { present, others, now, since, water, rhythms } = outset;
	const { dosing, floor } = nth(water.bodies, 0);
	const states = present.map((p) => ({ ...p, state: copyOf(p.state) }));
	const onDay = (day: number) =>
		blended(
			partsOf(states, 0).map((part, i) => ({ ...part, recorded: hasRecord(nth(states, i)) })),
			others,
			day
		);
	const points = [onDay(0)];
	for (let day = 0; day < days; day++) {
		// Whatever is dosed from here on finds the water as it is, not as far below nothing as it would have gone.
		if (rateAt(dosing, now + day + 1) !== rateAt(dosing, now + day))
			for (const { state } of states) clamp(state, floor);
		for (const rhythm of rhythms)
			for (let times = timesWithin(rhythm, day, 1); times > 0; times--)
				for (const { state } of states) {
					clamp(state, floor);
					if (rhythm.kind === 'dose') dosed(state, rhythm.change, 0);
					else changed(state, rhythm.fraction, rhythm.newWater, 0);
				}
		const step = transitionOf(water, now + day, now + day + 1, [now - since]);
		for (const { state } of states) predict(state, water, step);
		points.push(onDay(day + 1));
	}
	return points;
}

/** Chance of being out of the band. */
export const outAt = (parts: Part[], { lower, upper }: Limits, floor: number): number =>
	(lower === undefined ? 0 : below(parts, lower, floor)) +
	(upper === undefined ? 0 : 1 - below(parts, upper, floor));

/** When the level has left its band with a chance of 10, 50 and 90 %, by either limit, and which is likelier. */
export function leavesBand(outset: Outset, limits: Limits, horizon: number): TrendResult['leavesBand'] {
	const { present, others, now, since, water, rhythms } = outset;
	const days = Math.floor(horizon);
	const { wanders, ahead } = beside(
		present.map((p) => ({ ...p, recorded: hasRecord(p) })),
		others
	);
	const steps = Array.from({ length: days }, (_, day) =>
		transitionOf(water, now + day, now + day + 1, [now - since])
	);
	const left = firstPassage([...wanders, ...ahead], limits, water, steps, (day) => {
		const done: DoneOn = { rest: 1, fresh: 0 };
		for (const r of rhythms)
			for (let times = timesWithin(r, day, 1); times > 0; times--) {
				const rest = r.kind === 'dose' ? 1 : 1 - r.fraction;
				done.rest *= rest;
				done.fresh = rest * done.fresh + (r.kind === 'dose' ? r.change : r.fraction * r.newWater);
			}
		return done;
	});
	const by = left.lower.map((chance, day) => chance + el(left.upper, day));
	const when = (chance: number): number | null => {
		const day = by.findIndex((c) => c >= chance);
		if (day <= 0) return day < 0 ? null : 0;
		return day - 1 + (chance - el(by, day - 1)) / Math.max(el(by, day) - el(by, day - 1), 1e-12);
	};
	const date = (chance: number) => {
		const day = when(chance);
		return day === null ? null : isoOf(now + day);
	};
	const median = when(0.5);
	if (median === null) return null;
	const on = Math.ceil(median);
	return {
		edge: el(left.lower, on) >= el(left.upper, on) ? 'lower' : 'upper',
		median: date(0.5),
		early: date(0.1),
		late: date(0.9)
	};
}

/** The first day on which the chance of being out, or the forecast's spread, asks for a look. */
export function nextTestOf(
	future: Part[][],
	limits: Limits | undefined,
	width: number,
	now: number,
	floor: number
): number {
	const out = (day: number) => (limits ? outAt(nth(future, day), limits, floor) : 0);
	const already = out(0);
	for (let day = SOONEST; day < future.length && day < LATEST; day++)
		if (
			out(day) >= Math.max(WORRY, already + WORRY / 2) ||
			COVERAGE_95 * spreadOf(nth(future, day), floor).sd >= TOO_WIDE * width
		)
			return now + day;
	return now + LATEST;
}

/** Of days since 1970. */
export const isoOf = (days: number): string => new Date(Math.round(days * DAY)).toISOString();
