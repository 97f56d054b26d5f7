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
	thinned,
	trend,
	type DatedEvent,
	type TrendReading,
	type TrendRequest,
	type TrendResult
} from '../../core/trend';
import { inColumns, type Columns } from '../api/columns';
import type { LevelPoint, Point, TrendInShort, WayPoint } from '../api/trends';
import type { Asker } from './asker';
import { now } from './clock';
import { eventsOfTank } from './event-store';
import { packsOpenedSince } from './pack-store';
import {
	latestReadings,
	measuredIn,
	measuredSince,
	pointOf,
	pointsOf,
	stampOf,
	type StoredPoint
} from './reading-store';
import { OWN_BANDS, bandsOf, systemFor } from './system-store';

/** The rack's estimates rest on so many of the newest readings of each parameter: a season or two of testing. */
const RACK_READINGS = 80;
/** Estimates are made anew every so often, ms; a new reading or event makes them anew at once. */
const EVERY = 60 * 60_000;
const HORIZON = 30;
/** Points of the way of one parameter: a drawn span of it has enough of them. */
const MOST_WAY = 1500;
/** A pack that was opened so long ago has been compared or never will be, ms. */
const FRESH_PACK = 14 * 86_400_000;
/** As many results are kept as fifty tanks of ten parameters have. */
const MOST_KEPT = 500;

/** What follows from a question is the same whenever it is asked: results are kept by what was asked, so none goes stale. */
const kept = new Map<string, TrendResult | undefined>();
async function solved(
	asked: unknown,
	make: () => TrendRequest | undefined | Promise<TrendRequest | undefined>
): Promise<TrendResult | undefined> {
	const key = createHash('sha256').update(JSON.stringify(asked)).digest('base64');
	const known = kept.get(key);
	if (known) {
		kept.delete(key);
		kept.set(key, known);
		return known;
	}
	const request = await make();
	const outcome = request && trend(request);
	const result = outcome?.ok ? outcome.value : undefined;
	kept.set(key, result);
	if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
	return result;
}

const asTrendReading = (r: StoredPoint): TrendReading => {
	const at = new Date(r.at).toISOString();
	const { low, high, methodId: method } = r;
	if (r.qualifier === '<') return { at, below: high ?? 0, method };
	if (r.qualifier === '>') return { at, above: low ?? 0, method };
	if (r.qualifier === 'between' || r.value === null || !r.standardUncertainty)
		return { at, interval: [low ?? r.value ?? 0, high ?? r.value ?? 0], method };
	const trueness = Math.sqrt(Math.max(0, r.standardUncertainty ** 2 - (r.repeatability ?? 0) ** 2));
	return { at, value: r.value, standardUncertainty: r.standardUncertainty, trueness, method };
};

/** The moment an estimate is of: this hour's beginning, or what happened since. */
function momentOf(newest: number, events: DatedEvent[]): number {
	const present = now().getTime();
	const happened = events.map((e) => Date.parse(e.at)).filter((at) => at <= present);
	return Math.max(Math.floor(present / EVERY) * EVERY, newest, ...happened.slice(-1));
}

/** The estimate over every reading of a parameter; its readings are fetched only where it is not known. */
async function overAll(
	asker: Asker,
	systemId: string,
	parameter: string,
	events: DatedEvent[],
	band: { lower: number; upper: number } | undefined,
	points = () => pointsOf(asker, systemId, parameter)
): Promise<TrendResult | undefined> {
	const stamp = await stampOf(asker, systemId, parameter);
	if (!stamp) return undefined;
	const asked = {
		stamp,
		parameter,
		events: inputsFor(parameter, events),
		band,
		at: momentOf(stamp.newest, events)
	};
	return solved(asked, async () => {
		const found = await points();
		await breath();
		return found.points.length ? requestOf(parameter, found.unit, found.points, events, band) : undefined;
	});
}

function requestOf(
	parameter: string,
	unit: string,
	readings: StoredPoint[],
	events: DatedEvent[],
	band: { lower: number; upper: number } | undefined
): TrendRequest {
	const moment = momentOf(readings.at(-1)!.at, events);
	const first = readings[0]!.at;
	const inputs = inputsFor(parameter, events);
	// A doser that was set before the first reading still runs; what was poured in before it says nothing.
	const before = inputs.filter((e) => e.kind === 'dosing' && Date.parse(e.at) < first).at(-1);
	return {
		parameter,
		unit: parameterOf(parameter)?.unit ?? unit,
		readings: readings.map(asTrendReading),
		events: [...(before ? [before] : []), ...inputs.filter((e) => Date.parse(e.at) >= first)],
		...(band ? { band } : {}),
		now: new Date(moment).toISOString(),
		horizonDays: HORIZON
	};
}

/** Lets what came meanwhile be answered: a model of ten years takes a quarter of a second. */
const breath = () => new Promise((done) => setImmediate(done));

const dated = (e: { at: string; event: object }): DatedEvent => ({ ...e.event, at: e.at }) as DatedEvent;

/** All readings of one parameter and the estimate over them, as columns. */
export async function trendOf(asker: Asker, systemId: string, parameter: string) {
	const [{ unit, points }, events, bands] = await Promise.all([
		pointsOf(asker, systemId, parameter),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId)
	]);
	const methods = [...new Map(points.map((p) => [p.methodId, p.methodName]))].map(([id, name]) => ({
		id,
		name
	}));
	const places = new Map(methods.map((m, i) => [m.id, i]));
	const rows: Point[] = points.map((p) => ({ ...p, method: places.get(p.methodId)! }));
	const result = await overAll(asker, systemId, parameter, events.map(dated), bands[parameter], () =>
		Promise.resolve({ unit, points })
	);
	const { path = [], offsets: _offsets, ...short } = result ?? {};
	return {
		methods,
		points: inColumns(rows, ['at', 'qualifier', 'value', 'standardUncertainty', 'low', 'high', 'method']),
		trend: result && (short as TrendInShort),
		way: inColumns<WayPoint>(
			thinned(path, MOST_WAY).map((p) => ({ ...p, at: Date.parse(p.at) })),
			['at', 'mean', 'sd', 'usePerDay', 'useSd', 'dosingPerDay']
		)
	};
}

/**
 * The way of every measured parameter, for one time axis that begins with the first reading of any: each a promise of its own,
 * so that the page stands before the models are done.
 */
export async function waysOf(
	asker: Asker,
	systemId: string
): Promise<{ from: string | null; lines: { parameter: string; way: Promise<Columns<LevelPoint>> }[] }> {
	const [measured, events, bands] = await Promise.all([
		measuredSince(asker, systemId),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId)
	]);
	const done = events.map(dated);
	const wayOf = async (parameter: string): Promise<Columns<LevelPoint>> => {
		const result = await overAll(asker, systemId, parameter, done, bands[parameter]);
		const path = (result?.path ?? []).map(({ at, mean, sd }) => ({ at: Date.parse(at), mean, sd }));
		return inColumns(thinned(path), ['at', 'mean', 'sd']);
	};
	const lines = PARAMETERS.filter((p) => measured.has(p.id)).map(({ id }) => ({
		parameter: id,
		way: wayOf(id)
	}));
	// Whoever left before the answer leaves nobody to hear of a failure.
	for (const { way } of lines) way.catch(() => undefined);
	const first = Math.min(...[...measured.values()].map((since) => since.getTime()));
	return { from: Number.isFinite(first) ? new Date(first).toISOString() : null, lines };
}

/** Readings that do not fit all the others of their parameter, by id. */
export async function unusualOf(asker: Asker, systemId: string, parameters?: string[]): Promise<string[]> {
	const [measured, events, bands] = await Promise.all([
		parameters ?? measuredIn(asker, systemId),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId)
	]);
	const found: string[] = [];
	for (const parameter of measured) {
		const { unit, points } = await pointsOf(asker, systemId, parameter);
		const result = await overAll(asker, systemId, parameter, events.map(dated), bands[parameter], () =>
			Promise.resolve({ unit, points })
		);
		found.push(...(result?.unusual ?? []).map((i) => points[i]!.id));
	}
	return found;
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
		const request =
			newest.length > 0
				? requestOf(parameter, newest[0]!.unit, newest.map(pointOf).reverse(), done, bands[parameter])
				: undefined;
		const result = request && (await solved(request, () => request));
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
