import { DAY, nth } from '../base';
import { median } from '../statistics';
import type { TrendEvent } from './schema';

/** What is done again and again: so many of the newest times say whether it is, and at least so many. */
const NEWEST = 8;
const LEAST = 4;
/** Regular is what comes after between half and this many times its usual days, and of a size within half of the usual one. */
const EARLY = 0.5;
const LATE = 1.6;
const SIZE = 0.5;
/** One in so many may be left out or come twice, and nothing is left out for longer than so many times its days. */
const ONE_IN = 4;
const LONGEST = 3;
/** What is poured, or changed, within half a day is done once. */
const AT_ONCE = 0.5;

/** A dose or a water change that is expected to go on: every so many days, with what it brings, and when it is due next, days from now. */
export type Rhythm = { everyDays: number; next: number } & (
	{ kind: 'dose'; change: number } | { kind: 'water-change'; fraction: number; newWater: number }
);

/** Whether something is of about the usual size. */
export const sameSize = (size: number, usual: number): boolean =>
	Math.abs(size - usual) <= SIZE * Math.abs(usual);

interface Done {
	at: number;
	size: number;
}

/** How often something is done, and of which size; undefined where it is not regular, or has stopped. Times in days. */
function regular(all: Done[], now: number): { everyDays: number; size: number; next: number } | undefined {
	const done = all.slice(-NEWEST);
	if (done.length < LEAST) return undefined;
	const gaps = done.slice(1).map((d, i) => d.at - nth(done, i).at);
	const usually = median(gaps);
	const size = median(done.map((d) => d.size));
	const since = now - done.at(-1)!.at;
	const odd = gaps.filter((gap) => gap < EARLY * usually || gap > LATE * usually).length;
	const inTime = odd * ONE_IN <= gaps.length && gaps.every((gap) => gap <= LONGEST * usually);
	const alike = done.every((d) => sameSize(d.size, size));
	if (!inTime || !alike || since > LATE * usually) return undefined;
	// What is now and then left out brings less a day.
	const everyDays = (done.at(-1)!.at - nth(done, 0).at) / gaps.length;
	return { everyDays, size, next: Math.max(0, usually - since) };
}

/** What a keeper does regularly to one parameter, of events in any order: until something says otherwise it goes on. */
export function rhythmsOf(events: TrendEvent[], now: string): Rhythm[] {
	const today = Date.parse(now) / DAY;
	const past = events
		.map((e) => ({ e, at: Date.parse(e.at) / DAY }))
		.filter(({ at }) => at <= today)
		.sort((a, b) => a.at - b.at);
	const doses: Done[] = [];
	const changes: Done[] = [];
	let newWater = 0;
	const done = (list: Done[], at: number, size: number, together: (a: number, b: number) => number) => {
		const before = list.at(-1);
		if (before && at - before.at < AT_ONCE) before.size = together(before.size, size);
		else list.push({ at, size });
	};
	for (const { e, at } of past)
		if (e.kind === 'dose') done(doses, at, e.change, (a, b) => a + b);
		else if (e.kind === 'water-change') {
			done(changes, at, e.fraction, (a, b) => 1 - (1 - a) * (1 - b));
			newWater = e.newWater;
		}
	const dose = regular(doses, today);
	const change = regular(changes, today);
	return [
		...(dose
			? [{ kind: 'dose' as const, everyDays: dose.everyDays, change: dose.size, next: dose.next }]
			: []),
		...(change
			? [
					{
						kind: 'water-change' as const,
						everyDays: change.everyDays,
						fraction: change.size,
						newWater,
						next: change.next
					}
				]
			: [])
	];
}

/** What a rhythm brings a day on the mean, at a level. */
export const perDayOf = (rhythm: Rhythm, level: number): number =>
	(rhythm.kind === 'dose' ? rhythm.change : rhythm.fraction * (rhythm.newWater - level)) / rhythm.everyDays;

/** How often each is done within some days that begin so many days from now. */
export const timesWithin = ({ everyDays, next }: Rhythm, from: number, days: number): number => {
	const first = Math.max(0, Math.ceil((from - next) / everyDays - 1e-9));
	const last = Math.ceil((from + days - next) / everyDays - 1e-9) - 1;
	return Math.max(0, last - first + 1);
};
