import { hasTrait } from '../catalogue';
import { DAY, nth } from '../base';
import { el, median } from '../statistics';
import type { Dosing } from './kalman';
import type { Node } from './hypotheses';
import type { TrendReading, TrendRequest } from './schema';

/** Of a reading's error, the share of its variance that stays with the kit where the reading does not say. */
const TRUENESS_SHARE = 0.5;
/** Kits whose offsets are followed: each is one more quantity at every step. Of others the whole error counts each time. */
const MOST_METHODS = 6;
/** Least error of a reading against the parameter's restlessness: below, the model would believe it blindly. */
const LEAST_NOISE = 0.1;
/** Tests within this time are of one sample, days: what is wrong with it is wrong with all of them. */
const ONE_SAMPLE = 1 / 48;
/** An eye at a comparator is off by as much each time, by up to a patch: share of the gap, a standard deviation. */
const EYE = 0.4;
/** Points of a path are no further apart than this, days, and no more than so many are added. */
const PATH_STEP = 1;
const MOST_LOOKS = 400;

export const floorOf = (parameter: string): number => (hasTrait(parameter, 'signed') ? -Infinity : 0);

type Value = Extract<TrendReading, { value: number }>;

export const centreOf = (r: TrendReading): number =>
	'value' in r
		? r.value
		: 'interval' in r
			? (r.interval[0] + r.interval[1]) / 2
			: 'below' in r
				? r.below / 2
				: r.above;

/** A comparator whose kit is not named is one all the same. */
const UNNAMED = '';
const methodOf = (r: TrendReading): string | undefined => r.method ?? ('interval' in r ? UNNAMED : undefined);

/** From this share of what an interval leaves open on, an error is of the whole; below, of its ends alone. */
const NEARLY = 0.99;

type Ends = Exclude<TrendReading, Value>;
/** Standard uncertainty of an interval's or a bound's ends, where the reading says. */
function endsError(r: Ends): number | undefined {
	const u = r.standardUncertainty;
	if (u === undefined || !('interval' in r)) return u;
	const open = (r.interval[1] - r.interval[0]) / Math.sqrt(12);
	return u < NEARLY * open ? u : Math.sqrt(Math.max(0, u * u - open * open));
}

const staysOf = (r: TrendReading): number => {
	if (!('value' in r)) {
		const u = endsError(r) ?? 0;
		const kit = Math.min(r.trueness ?? u * Math.sqrt(TRUENESS_SHARE), u);
		return 'interval' in r ? Math.hypot(kit, EYE * (r.interval[1] - r.interval[0])) : kit;
	}
	if (r.method === undefined) return 0;
	return Math.min(r.trueness ?? r.standardUncertainty * Math.sqrt(TRUENESS_SHARE), r.standardUncertainty);
};

export interface Methods {
	names: string[];
	/** How far each may read off, standard deviations. */
	sds: number[];
}

/** Methods that say what stays with them, those used most, with the typical size of that. */
export function methodsOf(readings: TrendReading[]): Methods {
	const found = new Map<string, number[]>();
	for (const r of readings) {
		const name = methodOf(r);
		if (name === undefined) continue;
		const sd = staysOf(r);
		if (sd > 0) found.set(name, [...(found.get(name) ?? []), sd].slice(-MOST_SDS));
	}
	const used = new Map<string, number>();
	for (const r of readings) used.set(methodOf(r) ?? '', (used.get(methodOf(r) ?? '') ?? 0) + 1);
	const most = [...found].sort((a, b) => used.get(b[0])! - used.get(a[0])!).slice(0, MOST_METHODS);
	return { names: most.map(([name]) => name), sds: most.map(([, sds]) => median(sds)) };
}
/** The newest of so many readings say how far a method may be off. */
const MOST_SDS = 25;

export function dosingOf({ events }: TrendRequest): Dosing[] {
	return (events ?? [])
		.flatMap((e) => (e.kind === 'dosing' ? [{ from: Date.parse(e.at) / DAY, perDay: e.perDay }] : []))
		.sort((a, b) => a.from - b.from);
}

/** Readings and events in order; at one moment what was measured comes before what was done. */
export function nodesOf(request: TrendRequest, methods: string[], restless: number): Node[] {
	const least = (LEAST_NOISE * restless) ** 2;
	const lowest = floorOf(request.parameter);
	const together = togetherOf(request.readings);
	const readings = request.readings.map((r, reading): Node => {
		const at = Date.parse(r.at) / DAY;
		const found = methods.indexOf(methodOf(r) ?? '?');
		const place = { at, offset: found < 0 ? 0 : 2 + found, reading };
		if ('value' in r) {
			const stays = place.offset ? staysOf(r) : 0;
			// Of n tests of one sample without a kit's name, half of the error's variance is common: together u²/2 + u²/2n.
			const n = place.offset ? 1 : el(together, reading);
			const whole = (r.standardUncertainty ** 2 * (1 + n)) / 2;
			return { ...place, kind: 'value', seen: r.value, noise: Math.max(least, whole - stays * stays) };
		}
		const [low, high] = 'interval' in r ? r.interval : 'below' in r ? [lowest, r.below] : [r.above, Infinity];
		// What would lie below nothing lies at it, and is inside.
		const from = low <= lowest ? -Infinity : low;
		// The ends themselves are off: where nobody says by how much, a first line by half of it, a last by a tenth, two by a quarter
		// of their gap.
		const usual =
			'interval' in r
				? (r.interval[1] - r.interval[0]) / 4
				: 'below' in r
					? Math.abs(r.below) / 2
					: Math.abs(r.above) / 10;
		const error = endsError(r) ?? usual;
		const kit = place.offset ? Math.min(r.trueness ?? error * Math.sqrt(TRUENESS_SHARE), error) : 0;
		const changes = r.standardUncertainty === undefined ? error ** 2 : error ** 2 - kit ** 2;
		return { ...place, kind: 'between', low, from, high, noise: Math.max(least, changes) };
	});
	const events = (request.events ?? []).map((e): Node => {
		const at = Date.parse(e.at) / DAY;
		if (e.kind === 'dosing') return { at, kind: 'dosing' };
		const variance = (e.standardUncertainty ?? 0) ** 2;
		return e.kind === 'dose'
			? { at, kind: 'dose', change: e.change, variance }
			: { at, kind: 'change', fraction: e.fraction, newWater: e.newWater, variance };
	});
	return [...readings, ...events].sort((a, b) => a.at - b.at);
}

/** How many value readings without a kit's name there are within {@link ONE_SAMPLE} of each, itself among them. */
function togetherOf(readings: TrendReading[]): number[] {
	const order = readings
		.map((r, i) => ({ i, at: Date.parse(r.at) / DAY, counts: 'value' in r && r.method === undefined }))
		.filter((r) => r.counts)
		.sort((a, b) => a.at - b.at);
	const together = readings.map(() => 1);
	let [from, to] = [0, 0];
	for (const { i, at } of order) {
		while (at - nth(order, from).at > ONE_SAMPLE) from++;
		while (to < order.length && nth(order, to).at - at <= ONE_SAMPLE) to++;
		together[i] = to - from;
	}
	return together;
}

/** Moments to look at the level between what happened, up to now. */
export function withLooks(nodes: Node[], now: number): Node[] {
	const first = nth(nodes, 0).at;
	const step = Math.max(PATH_STEP, (now - first) / MOST_LOOKS);
	const looks: Node[] = [{ at: now, kind: 'look' }];
	for (let at = first + step; at < now; at += step) looks.push({ at, kind: 'look' });
	return [...nodes, ...looks].sort((a, b) => a.at - b.at);
}
