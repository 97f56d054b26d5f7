import { DAY } from '../base';
import { el, normal, uniform } from '../statistics';

/** What a tank can do while it is watched. */
export const WATCHED_KINDS = [
	'steady',
	'growing use',
	'seasonal',
	'a dosing pump that stops',
	'irregular tests',
	'two kits with an offset',
	'nutrients near zero',
	'one misreading',
	'a run of misreadings'
] as const;
type WatchedKind = (typeof WATCHED_KINDS)[number];

/** A tank whose truth is known: what was read, what was done, the level now and later if dosing goes on. */
export interface Watched {
	parameter: string;
	unit: string;
	readings: (
		| { at: string; value: number; standardUncertainty: number; trueness?: number; method?: string }
		| { at: string; below: number }
		| { at: string; interval: [number, number] }
	)[];
	events: (
		| { at: string; kind: 'dosing'; perDay: number }
		| { at: string; kind: 'dose'; change: number }
		| { at: string; kind: 'water-change'; fraction: number; newWater: number; standardUncertainty: number }
	)[];
	now: string;
	/** True level at `now`, and so many days after it. */
	level: number;
	levelIn: (days: number) => number;
	/** What the tank takes a day at `now`. */
	usePerDay: number;
	/** Places of the readings that are misreadings. */
	misreadings: number[];
}

const START = Date.parse('2026-01-01T00:00:00Z');
/** Steps a day in which the truth is made. */
const STEPS = 4;
const AHEAD = 29;
/** What comes later than so many days has its own chance: whoever looks further ahead sees the same tests. */
const WEEK = 8;
/** Days until an empty bottle is filled. */
const OUTAGE = 6;
/** Patches of the card that reads phosphate, mg/L. */
const PATCHES = [0.02, 0.05, 0.08, 0.12, 0.2, 0.4];

/** What chance is drawn from: one for now and a week ahead, another for later. */
interface Chance {
	random: () => number;
	sooner: () => number;
	later: () => number;
}
const isNear = (kind: WatchedKind): boolean => kind === 'nutrients near zero';
const dayAt = (day: number): string => new Date(START + Math.round(day * DAY)).toISOString();

/** Simulates one tank of a kind for some days, from a seed. Alkalinity in dKH; nutrients: phosphate in mg/L. */
export function simulateWatched(kind: WatchedKind, seed: number, days = 120): Watched {
	const random = uniform(seed);
	const chance = { random, sooner: normal(random), later: normal(uniform(seed + 1)) };
	const near = isNear(kind);
	const error = near ? 0.012 : 0.15 + 0.1 * random();
	const { levels, events, usePerDay } = livedThrough(kind, days, chance);
	const truth = (day: number): number => {
		const i = Math.min(levels.length - 1, Math.max(0, day * STEPS));
		const k = Math.floor(i);
		return el(levels, k) + (i - k) * ((levels[k + 1] ?? el(levels, k)) - el(levels, k));
	};
	const { readings, misreadings } = watchedBy(kind, days, error, truth, chance);
	return {
		parameter: near ? 'phosphate' : 'alkalinity',
		unit: near ? 'mg/L PO4' : 'dKH',
		readings,
		events: events.filter((e) => Date.parse(e.at) <= START + days * DAY),
		now: dayAt(days),
		level: truth(days),
		levelIn: (ahead) => truth(days + ahead),
		usePerDay,
		misreadings
	};
}

/** The truth of a tank, step by step, and what its keeper does. */
function livedThrough(
	kind: WatchedKind,
	days: number,
	{ random, sooner, later }: Chance
): Pick<Watched, 'events' | 'usePerDay'> & { levels: number[] } {
	const near = isNear(kind);
	const scale = near ? 0.06 : 1;
	const use0 = near ? 0 : 0.4 + 0.5 * random();
	const wander = scale * 0.05 * (0.6 + random());
	const restless = scale * 0.01 * (0.5 + random());
	let drift = 0;
	let level = near ? 0.015 + 0.03 * random() : 7.5 + 1.5 * random();
	let dosing = near ? 0 : use0;
	const stop = kind === 'a dosing pump that stops' ? days * (0.5 + 0.35 * random()) : Infinity;
	const events: Watched['events'] = [];
	const dose = (day: number, perDay: number) => {
		dosing = perDay;
		events.push({ at: dayAt(day), kind: 'dosing', perDay });
	};
	if (!near) dose(0, dosing);
	const levels: number[] = [];
	let usePerDay = 0;
	for (let step = 0; step <= (days + AHEAD) * STEPS; step++) {
		const day = step / STEPS;
		levels.push(level);
		const gauss = day <= days + WEEK ? sooner : later;
		// A keeper sees an empty bottle sooner or later and says so.
		if (day > stop && day <= stop + OUTAGE && dosing > 0) dose(day, 0);
		if (day > stop + OUTAGE && dosing === 0) dose(day, use0);
		drift += (restless * gauss()) / Math.sqrt(STEPS);
		const use = use0 + growthOf(kind, day, days) + seasonOf(kind, day) - drift;
		if (day <= days) usePerDay = use;
		level = Math.max(0, level + (dosing - use) / STEPS + (wander * gauss()) / Math.sqrt(STEPS));
		if (day > 0 && day % 14 === 0 && !near) {
			const newWater = 8.4;
			level += 0.15 * (newWater + 0.1 * gauss() - level);
			events.push({
				at: dayAt(day),
				kind: 'water-change',
				fraction: 0.15,
				newWater,
				standardUncertainty: 0.1
			});
			// A keeper who sees the level run off changes what is dosed, now and then.
			if (Math.abs(level - 8.3) > 0.8 && dosing > 0 && day < days)
				dose(day, Math.max(0, dosing + (8.3 - level) / 28));
		}
	}
	return { levels, events, usePerDay };
}
const growthOf = (kind: WatchedKind, day: number, days: number): number =>
	kind === 'growing use' ? (0.25 * day) / days : 0;
const seasonOf = (kind: WatchedKind, day: number): number =>
	kind === 'seasonal' ? 0.12 * Math.sin((2 * Math.PI * day) / 180) : 0;

/** What its keeper reads of it, with kits that scatter, are off, or are misread. */
function watchedBy(
	kind: WatchedKind,
	days: number,
	error: number,
	truth: (day: number) => number,
	{ random, sooner: gauss }: Chance
): Pick<Watched, 'readings' | 'misreadings'> {
	const near = isNear(kind);
	const several = kind === 'two kits with an offset';
	const readings: Watched['readings'] = [];
	const misreadings: number[] = [];
	const trueness = error * 0.6;
	const bias = [trueness * gauss(), trueness * gauss()];
	let day = random() * 3;
	while (day <= days) {
		const kit = several && random() < 0.4 ? 1 : 0;
		const noise = several ? error * 0.8 : error;
		let value = truth(day) + noise * gauss() + (several ? el(bias, kit) : 0);
		if (isMisreading(kind, days - day, misreadings.length)) {
			value += (random() < 0.5 ? -1 : 1) * error * (8 + 4 * random());
			misreadings.push(readings.length);
		}
		const at = dayAt(day);
		if (near && value < 0.02) readings.push({ at, below: 0.02 });
		else if (near && random() < 0.4) {
			const above = PATCHES.findIndex((p) => p > value);
			readings.push({ at, interval: [PATCHES[above - 1] ?? 0.4, PATCHES[above] ?? 0.8] });
		} else
			readings.push({
				at,
				value,
				standardUncertainty: several ? Math.hypot(noise, trueness) : error,
				...(several ? { method: `kit ${kit}`, trueness } : {})
			});
		day += kind === 'irregular tests' ? 0.5 + 14 * random() ** 2 : 4 + 3 * random();
	}
	return { readings, misreadings };
}
/** Whether a test is misread, so many days before now and after so many that were. */
const isMisreading = (kind: WatchedKind, left: number, before: number): boolean =>
	(kind === 'one misreading' && left < 40 && before === 0) ||
	(kind === 'a run of misreadings' && left < 60 && before < 3);
