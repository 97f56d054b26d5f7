import { HOUR } from '../../../core/base';
import { createHash } from 'node:crypto';
import { PARAMETERS, parameterOf, type Phase } from '../../../core/catalogue';
import {
	COUPLED,
	asTrendReading,
	inputsFor,
	inputsSince,
	type DatedEvent,
	type TrendRequest,
	type TrendResult
} from '../../../core/trend';
import { downsample } from '../../../core/series';
import { inColumns } from '../../api/columns';
import type { Point, TrendInShort, Way, WayPoint } from '../../api/trends';
import { SHORTLY, mayUse, ofTank, type Asker } from '../identity/asker';
import { lastKnown, noteLast, remembered, unlessBusy, type Known } from '../memory';
import { CLOCK_SLACK, now } from '../clock';
import { eventsOfTank } from '../stores/events';
import { provedKits } from '../stores/checks';
import {
	MOST_POINTS,
	measuredIn,
	measuredSince,
	olderPointsOf,
	pointsOf,
	stampOf,
	type StoredPoint
} from '../stores/readings';
import { bandsOf, systemFor } from '../stores/systems';
import { inThread } from '../work/pool';

/** Estimates are made anew every so often, ms; a new reading or event makes them anew at once. */
const EVERY = HOUR;
const HORIZON = 30;
/** Points of the way of one parameter: a drawn span of it has enough of them. */
const MOST_WAY = 1500;
/** What follows from a question is the same whenever it is asked. */
const solved = <T>(asked: unknown, make: () => Promise<T>): Promise<T> =>
	remembered(createHash('sha256').update(JSON.stringify(asked)).digest('base64'), make);

/** What a parameter's neighbours say of it: by which share its error is smaller, and whose tests that rests on. */
interface Learnt {
	share: number;
	from: string[];
}
interface Estimates {
	results: Record<string, TrendResult>;
	learnt: Record<string, Learnt>;
	/** Tests that do not fit their neighbours, by parameter. */
	suspects: Record<string, { index: number; probability: number }[]>;
}
/** By less than this share nothing is said of it. */
const WORTH_SAYING = 0.05;

/** Each parameter's estimate; those that are one water are estimated together. */
export async function estimatesOf(requests: TrendRequest[]): Promise<Estimates> {
	const coupled = requests.filter((r) => (COUPLED as readonly string[]).includes(r.parameter));
	const alone = coupled.length < 2 ? requests : requests.filter((r) => !coupled.includes(r));
	const found: Estimates = { results: {}, learnt: {}, suspects: {} };
	const singly = alone.map(async (request) => {
		const result = await solved(request, () => inThread('models', 'trend', request));
		if (result) found.results[request.parameter] = result;
	});
	const together = async () => {
		if (coupled.length < 2) return;
		const now = coupled
			.map((r) => r.now)
			.sort()
			.at(-1)!;
		const asked = coupled.map((r) => ({ ...r, now }));
		const result = await solved(asked, () => inThread('models', 'tank', asked));
		if (!result) return;
		Object.assign(found.results, result.parameters);
		for (const { parameter, ...suspect } of result.suspects)
			found.suspects[parameter] = [...(found.suspects[parameter] ?? []), suspect];
		const sharpened = Object.entries(result.coupling?.sharpened ?? {});
		for (const [parameter, share] of sharpened)
			if (share >= WORTH_SAYING)
				found.learnt[parameter] = { share, from: sharpened.map(([p]) => p).filter((p) => p !== parameter) };
	};
	await Promise.all([...singly, together()]);
	return found;
}

/** Of several readings those that estimates may rest on: a chart that is not the keeper's says nothing of the water. */
export const counting = <T extends { ownChart: boolean }>(readings: T[]): T[] =>
	readings.filter((r) => r.ownChart);

/** The moment an estimate is of: this hour's beginning, or what happened since. */
function momentOf(newest: number, events: DatedEvent[]): number {
	const present = now().getTime();
	// A device's clock may be a little ahead: what it wrote down has happened all the same.
	const happened = events.map((e) => Date.parse(e.at)).filter((at) => at <= present + CLOCK_SLACK);
	return Math.max(Math.floor(present / EVERY) * EVERY, newest, ...happened.slice(-1));
}

/** What a parameter's estimate is held against: its band, and the tank's phase. */
interface Aim {
	band: { lower: number; upper: number } | undefined;
	phase: Phase;
}

/** What an estimate over every reading says of one parameter. */
interface OverAll {
	result: TrendResult;
	learnt: Learnt | undefined;
}

/**
 * The estimate over every reading of a parameter, and of those that are one water with it; readings are fetched only where it is
 * not known.
 */
async function overAll(
	asker: Asker,
	systemId: string,
	parameter: string,
	events: DatedEvent[],
	aim: Omit<Aim, 'band'> & { bands: Record<string, { lower: number; upper: number }> }
): Promise<OverAll | undefined> {
	const neighbours = (COUPLED as readonly string[]).includes(parameter) ? COUPLED : [parameter];
	const stamps = (
		await Promise.all(
			neighbours.map(async (p) => ({ parameter: p, stamp: await stampOf(asker, systemId, p) }))
		)
	).flatMap((s) => (s.stamp ? [{ ...s, stamp: s.stamp }] : []));
	if (!stamps.some((s) => s.parameter === parameter)) return undefined;
	const proved = await provedKits(asker, systemId);
	const asked = stamps.map(({ parameter: p, stamp }) => ({
		stamp,
		proved: proved[p] ?? [],
		parameter: p,
		events: inputsFor(p, events),
		band: aim.bands[p],
		phase: aim.phase,
		at: momentOf(stamp.newest, events)
	}));
	const all = await solved({ overAll: asked }, async () => {
		const requests = await Promise.all(
			stamps.map(async ({ parameter: p }) => {
				const { unit, points: all } = await pointsOf(asker, systemId, p);
				const points = counting(all);
				const its = { band: aim.bands[p], phase: aim.phase };
				return points.length ? [requestOf(p, unit, points, events, its)] : [];
			})
		);
		return estimatesOf(requests.flat());
	});
	const result = all.results[parameter];
	return result && { result, learnt: all.learnt[parameter] };
}

export function requestOf(
	parameter: string,
	unit: string,
	readings: StoredPoint[],
	events: DatedEvent[],
	{ band, phase }: Aim
): TrendRequest {
	const moment = momentOf(readings.at(-1)!.at, events);
	return {
		parameter,
		unit: parameterOf(parameter)?.unit ?? unit,
		readings: readings.map(asTrendReading),
		events: inputsSince(parameter, events, readings[0]!.at),
		...(band ? { band } : {}),
		phase,
		now: new Date(moment).toISOString(),
		horizonDays: HORIZON
	};
}

export const dated = (e: { at: string; event: object }): DatedEvent =>
	({ ...e.event, at: e.at }) as DatedEvent;

/** All readings of one parameter and the estimate over them, as columns. */
export async function trendOf(asker: Asker, systemId: string, parameter: string) {
	await mayUse(asker, systemId, 'read');
	const find = (model: Model) => findTrend(asker, systemId, parameter, model);
	return unlessBusy(
		() => ofTank(asker, systemId, ['trend', parameter], () => find(modelNow), SHORTLY),
		() => find(modelBefore)
	);
}

/** The estimate over every reading of a parameter: as it is now, or as it was known last. */
type Model = (...asked: Parameters<typeof overAll>) => Promise<Known<OverAll | undefined>>;
const nameOf = (systemId: string, parameter: string): string => `trend ${systemId} ${parameter}`;
const modelNow: Model = async (asker, systemId, parameter, ...rest) => {
	const result = await overAll(asker, systemId, parameter, ...rest);
	if (result) noteLast(nameOf(systemId, parameter), result);
	return { result };
};
const modelBefore = async (
	_asker: Asker,
	systemId: string,
	parameter: string
): Promise<Known<OverAll | undefined>> => lastKnown(nameOf(systemId, parameter), undefined);

async function findTrend(asker: Asker, systemId: string, parameter: string, model: Model) {
	const [{ points }, events, bands, { phase }] = await Promise.all([
		pointsOf(asker, systemId, parameter),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId),
		systemFor(asker, systemId)
	]);
	const older = await olderPointsOf(
		asker,
		systemId,
		parameter,
		points.length < MOST_POINTS ? undefined : points[0]
	);
	const drawn = [...older.points, ...points];
	const methods = [...new Map(drawn.map((p) => [p.methodId, p.methodName]))].map(([id, name]) => ({
		id,
		name
	}));
	const places = new Map(methods.map((m, i) => [m.id, i]));
	const rows: Point[] = drawn.map((p) => ({
		...p,
		method: places.get(p.methodId)!,
		own: p.ownChart
	}));
	const { result: known, ...asOf } = await model(asker, systemId, parameter, events.map(dated), {
		bands,
		phase
	});
	const { path = [], offsets: _offsets, ...short } = known?.result ?? {};
	return {
		...asOf,
		methods,
		points: inColumns(rows, [
			'at',
			'qualifier',
			'value',
			'standardUncertainty',
			'low',
			'high',
			'method',
			'own'
		]),
		trend: known && (short as TrendInShort),
		learnt: known?.learnt,
		/** How many are older than those the estimate rests on, and how many of them are drawn. */
		older: { of: older.of, drawn: older.points.length },
		way: inColumns<WayPoint>(
			downsample(path, MOST_WAY).map((p) => ({ ...p, at: Date.parse(p.at) })),
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
): Promise<{ from: string | null; lines: { parameter: string; way: Promise<Way> }[] }> {
	const [measured, events, bands, { phase }] = await Promise.all([
		measuredSince(asker, systemId),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId),
		systemFor(asker, systemId)
	]);
	const done = events.map(dated);
	const wayOf = async (parameter: string): Promise<Way> => {
		const { result: known, ...asOf } = await unlessBusy(
			() => modelNow(asker, systemId, parameter, done, { bands, phase }),
			() => modelBefore(asker, systemId, parameter)
		);
		const path = (known?.result.path ?? []).map(({ at, mean, sd }) => ({ at: Date.parse(at), mean, sd }));
		return { points: inColumns(downsample(path), ['at', 'mean', 'sd']), ...asOf };
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
	const [measured, events, bands, { phase }] = await Promise.all([
		parameters ?? measuredIn(asker, systemId),
		eventsOfTank(asker, systemId),
		bandsOf(asker, systemId),
		systemFor(asker, systemId)
	]);
	const found: string[] = [];
	for (const parameter of measured) {
		const points = counting((await pointsOf(asker, systemId, parameter)).points);
		const known = await overAll(asker, systemId, parameter, events.map(dated), { bands, phase });
		found.push(...(known?.result.unusual ?? []).map((i) => points[i]!.id));
	}
	return found;
}
