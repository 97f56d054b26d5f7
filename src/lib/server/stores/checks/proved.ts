import { DAY } from '../../../../core/base';
import { and, eq, gte, sql } from 'drizzle-orm';
import { asProved, type Proved } from '../../../../core/methods';
import { duplicatesOf, ownScatter } from '../../../../core/quality';
import { parameterOf } from '../../../../core/catalogue';
import type { KeptReading } from '../../../../core/trend';
import type { Reading } from '../../../api/readings';
import { now } from '../../clock';
import { database } from '../../db/connection';
import { methodVersion, reading, revision, run } from '../../db/schema';
import { SHORTLY, ofTank, type Asker } from '../../identity/asker';
import { eventsOfTank } from '../events';
import { sourcesOf } from '../systems';
import {
	checkOf,
	correctionsIn,
	labAnswers,
	openedOf,
	parametersOfLabs,
	referencesOf,
	rowsOf,
	spansOf,
	untilOf,
	within,
	type Correction,
	type Known,
	type Row,
	type Span
} from './evidence';

/** What was learnt of a kit: of a pack of it, from checks, or by its keeper's word; and what repeats scatter by. */
export interface ProvedKit extends Proved {
	methodId: string;
	/** When it was last checked, or its keeper's word; of repeats, when the newest was read. */
	checkedAt: string;
	/** What it holds for: readings from when to when, ms. */
	from: number;
	until: number;
}
/** A reading with what estimates rest on, the moment in ms; in the parameter's own unit. */
export interface StoredPoint extends KeptReading {
	id: string;
	methodName: string;
	/** Whether it counts: read by a chart of the keeper's own. */
	ownChart: boolean;
}

/** A check speaks of the kit until the next is due, every few months, ms. */
const HOLDS = 120 * DAY;

/** The kits of a tank that were proved, by parameter, a keeper's word first; whoever asks has been let in. */
export const provedKits = (asker: Asker, systemId: string): Promise<Record<string, ProvedKit[]>> =>
	ofTank(
		asker,
		systemId,
		['proved kits'],
		async () => {
			const [sources, events] = await Promise.all([
				sourcesOf(asker, systemId),
				eventsOfTank(asker, systemId)
			]);
			const proved: Record<string, ProvedKit[]> = {};
			const checked = sources.flatMap((s) => Object.keys(s.content?.values ?? {}));
			const [byLab, scatters] = await Promise.all([parametersOfLabs(systemId), scattersOf(systemId)]);
			const said = correctionsIn(events).map((w) => w.event.parameter);
			for (const parameter of new Set([...checked, ...byLab, ...said])) {
				const known = referencesOf(sources, parameter);
				// A lab speaks of the tank's own water.
				const tank = byLab.has(parameter) ? sources.filter((s) => s.kind === 'tank') : [];
				const waters = new Set([...known, ...tank].map((s) => s.id));
				const rows = await rowsOf([...waters], parameter);
				const references = [...known, ...labAnswers(rows)];
				const its = correctionsIn(events, parameter);
				const kits = [...new Set([...rows.map((r) => r.methodId), ...its.map((w) => w.event.methodId)])];
				const packs = kits.length ? await openedOf(systemId, kits) : new Map<string, number[]>();
				proved[parameter] = kits.flatMap((methodId) => {
					const spans = spansOf(packs.get(methodId) ?? []);
					return [
						...its.filter((w) => w.event.methodId === methodId).flatMap((w) => bySayingSo(w, spans)),
						...spans.flatMap((span) => byChecks(rows, methodId, references, parameter, span))
					];
				});
			}
			for (const { parameter, ...kit } of scatters) proved[parameter] = [...(proved[parameter] ?? []), kit];
			return proved;
		},
		SHORTLY
	);

/** Repeats of one water by one kit in the runs of a year: what one test scatters by in these hands, whatever the pack. */
const HANDS = 365 * DAY;
async function scattersOf(systemId: string): Promise<(ProvedKit & { parameter: string })[]> {
	const found = await database()
		.select({
			id: sql<string>`straight_join ${reading.id}`,
			parameter: reading.parameter,
			methodId: methodVersion.methodId,
			sourceId: reading.sourceId,
			takenAt: reading.takenAt,
			value: revision.value,
			standardUncertainty: revision.standardUncertainty,
			repeatability: revision.repeatability
		})
		.from(run, { forceIndex: 'run_of_system' })
		.innerJoin(reading, eq(reading.runId, run.id))
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(
			and(
				eq(run.systemId, systemId),
				gte(run.startedAt, new Date(now().getTime() - HANDS)),
				eq(revision.voided, false),
				eq(revision.ownChart, true),
				eq(revision.qualifier, '=')
			)
		);
	const rows = found.flatMap(({ takenAt, value, standardUncertainty, repeatability, ...row }) =>
		value === null || !standardUncertainty || !repeatability
			? []
			: [{ ...row, at: takenAt.getTime(), value, standardUncertainty, repeatability }]
	);
	return [...new Map(rows.map((r) => [r.methodId, r.parameter]))].flatMap(([methodId, parameter]) => {
		const scatter = ownScatter(duplicatesOf(rows, methodId));
		const last = Math.max(...rows.filter((r) => r.methodId === methodId).map((r) => r.at));
		const always = { from: -Infinity, until: Infinity, checkedAt: new Date(last).toISOString() };
		return scatter ? [{ parameter, methodId, scatter, ...always }] : [];
	});
}

/** What checks within a pack's time have taught; a verdict that is none narrows nothing. */
function byChecks(
	rows: Row[],
	methodId: string,
	references: Known[],
	parameter: string,
	span: Span
): ProvedKit[] {
	const { from, until } = span;
	const unit = parameterOf(parameter)?.unit ?? '';
	const check = checkOf(within(rows, span), methodId, references, parameter, unit, span);
	if (!check?.result.trueness || check.result.verdict === 'unsure') return [];
	return [
		{
			methodId,
			trueness: check.result.trueness.after,
			by: check.source,
			checkedAt: check.last,
			from: Math.max(from, Date.parse(check.first) - HOLDS),
			until: Math.min(until, Date.parse(check.last) + HOLDS)
		}
	];
}

function bySayingSo(word: Correction, spans: Span[]): ProvedKit[] {
	const { methodId, takenOff, standardUncertainty: trueness, by } = word.event;
	const from = Date.parse(word.at);
	return [{ methodId, trueness, takenOff, by, checkedAt: word.at, from, until: untilOf(word, spans) }];
}

/** What was learnt of the kit a reading was made with, for its moment: by check or word, and by repeats. */
export function provedFor(
	proved: ProvedKit[] | undefined,
	methodId: string,
	at: number
): ProvedKit | undefined {
	const its = proved?.filter((k) => k.methodId === methodId && at >= k.from && at < k.until) ?? [];
	const scatter = its.find((k) => k.scatter)?.scatter;
	const known = its.find((k) => !k.scatter) ?? its[0];
	return known && scatter ? { ...known, scatter } : known;
}

const saidOf = ({ trueness, takenOff, by, scatter }: ProvedKit): Proved => ({
	...(trueness === undefined ? {} : { trueness }),
	...(takenOff === undefined ? {} : { takenOff }),
	...(by === undefined ? {} : { by }),
	...(scatter ? { scatter } : {})
});

/** What was learnt of each kit that is good now, by its id: the bench reads by it. */
export async function provedNow(asker: Asker, systemId: string): Promise<Record<string, Proved>> {
	const proved = Object.values(await provedKits(asker, systemId)).flat();
	const at = now().getTime();
	return Object.fromEntries(
		proved.flatMap(({ methodId }) => {
			const kit = provedFor(proved, methodId, at);
			return kit ? [[methodId, saidOf(kit)]] : [];
		})
	);
}

/** Readings as they stand now: what was kept is what was read, and what is known of its kit is known of all it read. */
export const readingsAsProved = <T extends Omit<Reading, 'proof'>>(
	readings: T[],
	proved: Record<string, ProvedKit[]>
): (T & Pick<Reading, 'proof'>)[] =>
	readings.map((r) => {
		const kit = provedFor(proved[r.parameter], r.methodId, Date.parse(r.takenAt));
		const now = kit && asProved(r, kit);
		return !kit || !now || now === r
			? { ...r, proof: null }
			: { ...now, proof: { ...saidOf(kit), at: kit.checkedAt } };
	});

/** The same of points. */
export const pointsAsProved = (points: StoredPoint[], proved: ProvedKit[] | undefined): StoredPoint[] =>
	!proved?.length
		? points
		: points.map((p) => {
				const kit = provedFor(proved, p.methodId, p.at);
				if (!kit) return p;
				const { interval, ...now } = asProved({ ...p, interval: [p.low, p.high] }, kit);
				return { ...now, low: interval[0], high: interval[1] };
			});
