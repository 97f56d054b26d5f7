import { createHash } from 'node:crypto';
import { PARAMETERS, parameterOf } from '../../core/quantities';
import {
	dueTests,
	judge,
	targets,
	type DueTest,
	type Judgement,
	type Known,
	type Trigger
} from '../../core/targets';
import {
	inputsFor,
	trend,
	type DatedEvent,
	type TrendReading,
	type TrendRequest,
	type TrendResult
} from '../../core/trend';
import type { Reading } from '../api/readings';
import type { TrendInShort } from '../api/trends';
import type { Asker } from './asker';
import { now } from './clock';
import { eventsOfTank } from './event-store';
import { packsOpenedSince } from './pack-store';
import { latestReadings, measuredIn, readingsOf } from './reading-store';
import { OWN_BANDS, bandsOf, systemFor } from './system-store';

/** The rack's estimates rest on so many of the newest readings of each parameter: a season or two of testing. */
const RACK_READINGS = 80;
/** Estimates are made anew every so often, ms; a new reading or event makes them anew at once. */
const EVERY = 10 * 60_000;
const HORIZON = 30;
/** A pack that was opened so long ago has been compared or never will be, ms. */
const FRESH_PACK = 14 * 86_400_000;
/** As many results are kept as fifty tanks of ten parameters have. */
const MOST_KEPT = 500;

/** What follows from a request is the same whenever it is asked: results are kept by what was asked, so none goes stale. */
const kept = new Map<string, TrendResult | undefined>();
function solved(request: TrendRequest): TrendResult | undefined {
	const key = createHash('sha256').update(JSON.stringify(request)).digest('base64');
	const known = kept.get(key);
	if (known) {
		kept.delete(key);
		kept.set(key, known);
		return known;
	}
	const outcome = trend(request);
	const result = outcome.ok ? outcome.value : undefined;
	kept.set(key, result);
	if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
	return result;
}

export const asTrendReading = (r: Reading): TrendReading => {
	const at = r.takenAt;
	const [low, high] = r.interval;
	if (r.qualifier === '<') return { at, below: high ?? 0, method: r.methodId };
	if (r.qualifier === '>') return { at, above: low ?? 0, method: r.methodId };
	if (r.qualifier === 'between' || r.value === null || !r.standardUncertainty)
		return { at, interval: [low ?? r.value ?? 0, high ?? r.value ?? 0], method: r.methodId };
	const trueness = Math.sqrt(Math.max(0, r.standardUncertainty ** 2 - (r.repeatability ?? 0) ** 2));
	return { at, value: r.value, standardUncertainty: r.standardUncertainty, trueness, method: r.methodId };
};

function requestOf(
	parameter: string,
	readings: Reading[],
	events: DatedEvent[],
	band: { lower: number; upper: number } | undefined
): TrendRequest {
	const moment = Math.floor(now().getTime() / EVERY) * EVERY;
	const newest = readings.reduce((latest, r) => Math.max(latest, Date.parse(r.takenAt)), 0);
	const first = readings.reduce((early, r) => Math.min(early, Date.parse(r.takenAt)), Infinity);
	const inputs = inputsFor(parameter, events);
	// A doser that was set before the first reading still runs; what was poured in before it says nothing.
	const before = inputs.filter((e) => e.kind === 'dosing' && Date.parse(e.at) < first).at(-1);
	return {
		parameter,
		unit: parameterOf(parameter)?.unit ?? readings[0]!.unit,
		readings: readings.map(asTrendReading),
		events: [...(before ? [before] : []), ...inputs.filter((e) => Date.parse(e.at) >= first)],
		...(band ? { band } : {}),
		now: new Date(Math.max(moment, newest)).toISOString(),
		horizonDays: HORIZON
	};
}

const dated = (e: { at: string; event: object }): DatedEvent => ({ ...e.event, at: e.at }) as DatedEvent;

/** The estimate of one parameter over all its readings, with its path. */
export async function trendOf(
	asker: Asker,
	systemId: string,
	parameter: string
): Promise<TrendResult | undefined> {
	const [readings, events, bands] = await Promise.all([
		readingsOf(asker, systemId, parameter),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId)
	]);
	return readings.length
		? solved(requestOf(parameter, readings, events.map(dated), bands[parameter]))
		: undefined;
}

/** The way of every parameter, for one time axis. */
export async function pathsOf(
	asker: Asker,
	systemId: string
): Promise<{ parameter: string; path: { at: string; mean: number; sd: number }[] }[]> {
	const [measured, events] = await Promise.all([measuredIn(asker, systemId), eventsOfTank(asker, systemId)]);
	const done = events.map(dated);
	const bands = await bandsOf(asker, systemId);
	const found = await Promise.all(
		measured.map(async (parameter) => {
			const readings = await readingsOf(asker, systemId, parameter);
			const result = readings.length
				? solved(requestOf(parameter, readings, done, bands[parameter]))
				: undefined;
			const path = (result?.path ?? []).map(({ at, mean, sd }) => ({ at, mean, sd }));
			return { parameter, path };
		})
	);
	const order = PARAMETERS.map((p) => p.id as string);
	return found
		.filter((f) => f.path.length > 0)
		.sort((a, b) => order.indexOf(a.parameter) - order.indexOf(b.parameter));
}

/** Everything the rack says: estimates, what is due, what deserves attention. */
export async function outlookOf(
	asker: Asker,
	systemId: string
): Promise<{
	trends: Record<string, TrendInShort>;
	due: (Omit<DueTest, 'at'> & { at: string })[];
	judgements: Judgement[];
}> {
	const [measured, events, bands, system, packs] = await Promise.all([
		measuredIn(asker, systemId),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId),
		systemFor(asker, systemId),
		packsOpenedSince(asker, new Date(now().getTime() - FRESH_PACK))
	]);
	const byParameter = await latestReadings(asker, systemId, measured, RACK_READINGS);
	const done = events.map(dated);
	const chosen = targets({ school: system.school, phase: system.phase, own: bands });
	const wanted = chosen.ok ? chosen.value.targets : {};
	const trends: Record<string, TrendInShort> = {};
	const known: Known[] = [];
	const last: Record<string, Date> = {};
	const next: Record<string, Date> = {};
	for (const [parameter, newest] of Object.entries(byParameter)) {
		const result = newest.length
			? solved(requestOf(parameter, [...newest].reverse(), done, bands[parameter]))
			: undefined;
		if (!result) continue;
		const { path: _path, offsets: _offsets, ...short } = result;
		trends[parameter] = short;
		last[parameter] = new Date(newest[0]!.takenAt);
		next[parameter] = new Date(result.nextTest);
		// Whoever follows no school is judged by their own bands alone.
		const target = system.school === OWN_BANDS && !bands[parameter] ? undefined : wanted[parameter];
		known.push({
			parameter,
			title: parameterOf(parameter)?.title ?? parameter,
			now: result.now,
			netPerDay: result.netPerDay,
			usePerDay: result.usePerDay,
			leavesBand: result.leavesBand,
			tests: newest.map((r) => ({
				at: Date.parse(r.takenAt),
				value: r.value,
				...(r.qualifier === '<' && r.interval[1] !== null ? { below: r.interval[1] } : {})
			})),
			oddLast: result.unusual.includes(newest.length - 1),
			...(target ? { target } : {})
		});
	}
	const due = dueTests(
		system.phase,
		last,
		next,
		[...triggersOf(done), ...packs.map((p) => ({ ...p, kind: 'new pack' as const }))],
		now()
	);
	return {
		trends,
		due: due.map((d) => ({ ...d, at: d.at.toISOString() })),
		judgements: judge(known, now().getTime())
	};
}

function triggersOf(events: DatedEvent[]): Trigger[] {
	return events.flatMap((e): Trigger[] => {
		const at = new Date(e.at);
		if (e.kind === 'water-change') return [{ at, kind: 'water change' }];
		if (e.kind === 'death') return [{ at, kind: 'death' }];
		return [];
	});
}
