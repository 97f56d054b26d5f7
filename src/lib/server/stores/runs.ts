import { and, asc, desc, eq, gt, gte, inArray, isNull, max } from 'drizzle-orm';
import { conductOf, runOf, type Conduct, type RunEvent } from '../../../core/run';
import type { Method } from '../../../core/instruments';
import { HOUR, bad, good, type Outcome } from '../../../core/base';
import type { KnownEvent, NewRun, RunRecord } from '../../api/runs';
import { SHORTLY, mayUse, ofTank, writing, type Asker } from '../identity/asker';
import { CLOCK_SLACK, now } from '../clock';
import { DUPLICATE, database, errnoOf, type Connection } from '../db/connection';
import { methodVersionFor } from './methods';
import { methodVersion, run, runEvent, source } from '../db/schema';
import { refuse } from '../refuse';

/** A run of more events than this is no run. */
const MOST_EVENTS = 5000;
/** A run left open longer than this is not offered to go on with, ms: a night. */
const OPEN_FOR = 16 * HOUR;

/** Begins a run under the client's id; sending it again changes nothing. */
export async function beginRun(asker: Asker, id: string, sent: NewRun): Promise<Outcome<{ id: string }>> {
	const db = database();
	const [from] = await db.select().from(source).where(eq(source.id, sent.sourceId));
	if (!from || from.systemId !== sent.systemId) return bad('/sourceId', 'is not a water of yours');
	await mayUse(asker, sent.systemId, 'write');
	const { begin } = sent;
	if (begin.kind !== 'begin') return bad('/begin/kind', 'must be begin');
	if (isAhead(begin)) return bad('/begin/at', 'lies in the future');
	const waters = await watersOf(db, sent.systemId);
	const elsewhere = begin.tests.findIndex((t) => t.sourceId !== undefined && !waters.has(t.sourceId));
	if (elsewhere >= 0) return bad(`/begin/tests/${elsewhere}/sourceId`, 'is not a water of this tank');
	const usable = await Promise.all(begin.tests.map((t) => methodVersionFor(db, asker, t.methodVersionId)));
	const unknown = usable.indexOf(undefined);
	if (unknown >= 0) return bad(`/begin/tests/${unknown}/methodVersionId`, 'is not a method you have');
	try {
		await writing(asker, sent.systemId, async (tx) => {
			await tx.insert(run).values({
				id,
				systemId: sent.systemId,
				sourceId: sent.sourceId,
				byUserId: asker.userId,
				startedAt: new Date(begin.at),
				finishedAt: null
			});
			await tx
				.insert(runEvent)
				.values({ id: begin.id, runId: id, seq: 1, byUserId: asker.userId, body: begin });
		});
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		await runFor(db, asker, id, 'read');
	}
	return good({ id });
}

/** Keeps something that happened; sending it again changes nothing. Answers where it stands in its run. */
export async function addEvent(
	asker: Asker,
	runId: string,
	eventId: string,
	event: RunEvent
): Promise<Outcome<{ id: string; seq: number }>> {
	const db = database();
	const { systemId } = await runFor(db, asker, runId, 'write');
	if (event.id !== eventId) return bad('/id', 'must be the id in the address');
	if (event.kind === 'begin') return bad('/kind', 'an evening begins once');
	if (isAhead(event)) return bad('/at', 'lies in the future');
	if (event.kind === 'add' && !(await methodVersionFor(db, asker, event.added.methodVersionId)))
		return bad('/added/methodVersionId', 'is not a method you have');
	if (event.kind === 'add' && event.added.sourceId !== undefined)
		if (!(await watersOf(db, systemId)).has(event.added.sourceId))
			return bad('/added/sourceId', 'is not a water of this tank');
	// Of its steps nothing is remembered; that it is over is.
	return writing(asker, event.kind === 'finish' ? systemId : [], async (tx) => {
		const [held] = await tx.select().from(run).where(eq(run.id, runId)).for('update');
		const [known] = await tx.select().from(runEvent).where(eq(runEvent.id, eventId));
		if (known) {
			if (known.runId !== runId) refuse(409, 'This id is in use.');
			return good({ id: eventId, seq: known.seq });
		}
		const [last] = await tx
			.select({ seq: max(runEvent.seq) })
			.from(runEvent)
			.where(eq(runEvent.runId, runId));
		const seq = (last?.seq ?? 0) + 1;
		if (seq > MOST_EVENTS) return bad('', 'this evening has more steps than anyone does; begin a new one');
		await tx.insert(runEvent).values({ id: eventId, runId, seq, byUserId: asker.userId, body: event });
		if (event.kind === 'finish' && !held!.finishedAt)
			await tx
				.update(run)
				.set({ finishedAt: new Date(event.at) })
				.where(eq(run.id, runId));
		return good({ id: eventId, seq });
	});
}

/** The waters of a tank, itself among them. */
async function watersOf(db: Connection, systemId: string): Promise<Set<string>> {
	const rows = await db.select({ id: source.id }).from(source).where(eq(source.systemId, systemId));
	return new Set(rows.map((r) => r.id));
}

/** Whether something of this water was to be tested in a run. */
export const testedIn = (
	{ record, events }: Pick<Awaited<ReturnType<typeof runWithEvents>>, 'record' | 'events'>,
	sourceId: string
): boolean =>
	record.sourceId === sourceId ||
	events
		.flatMap(({ event }) =>
			event.kind === 'begin' ? event.tests : event.kind === 'add' ? [event.added] : []
		)
		.some((t) => t.sourceId === sourceId);

/** What happened after a place in the list, for a device that follows. */
export async function eventsOf(asker: Asker, runId: string, after: number): Promise<KnownEvent[]> {
	const db = database();
	await runFor(db, asker, runId, 'read');
	return storedEvents(db, runId, after);
}

/** A run with all that happened in it and the methods its tests are done by. */
export async function runWithEvents(asker: Asker, runId: string) {
	const db = database();
	const record = await runFor(db, asker, runId, 'read');
	const events = await storedEvents(db, runId, 0);
	const methods = await methodsOfEvents(
		db,
		events.map((e) => e.event)
	);
	return { record, events, methods: Object.fromEntries(methods) };
}

/** The run that is under way in a tank, if there is one. */
export async function openRunOf(asker: Asker, systemId: string): Promise<RunRecord | undefined> {
	await mayUse(asker, systemId, 'read');
	const find = async () => {
		const [found] = await database()
			.select()
			.from(run)
			.where(
				and(
					eq(run.systemId, systemId),
					isNull(run.finishedAt),
					gte(run.startedAt, new Date(now().getTime() - OPEN_FOR))
				)
			)
			.orderBy(desc(run.startedAt))
			.limit(1);
		return found && toRecord(found);
	};
	return ofTank(asker, systemId, ['open run'], find, SHORTLY);
}

/** How a reading was made, from the events of its run; undefined where they do not tell. */
export function conductIn(
	{ events, methods }: Pick<Awaited<ReturnType<typeof runWithEvents>>, 'events' | 'methods'>,
	readingId: string
): Conduct[] | undefined {
	const state = runOf(
		events.map((e) => e.event),
		(versionId) => methods[versionId]
	);
	for (const test of state?.tests ?? []) {
		if (test.taken?.readingId === readingId) return conductOf(test);
		const earlier = test.before.find((b) => b.taken.readingId === readingId);
		if (earlier) return conductOf(test, earlier.done);
	}
	return undefined;
}

async function runFor(
	db: Connection,
	asker: Asker,
	id: string,
	access: 'read' | 'write'
): Promise<RunRecord> {
	const [found] = await db.select().from(run).where(eq(run.id, id));
	if (!found) refuse(404, 'There is no such evening.');
	await mayUse(asker, found.systemId, access);
	return toRecord(found);
}

const toRecord = (row: typeof run.$inferSelect): RunRecord => ({
	id: row.id,
	systemId: row.systemId,
	sourceId: row.sourceId,
	startedAt: row.startedAt.toISOString(),
	finishedAt: row.finishedAt?.toISOString() ?? null
});

async function storedEvents(db: Connection, runId: string, after: number): Promise<KnownEvent[]> {
	const rows = await db
		.select({ seq: runEvent.seq, event: runEvent.body })
		.from(runEvent)
		.where(and(eq(runEvent.runId, runId), gt(runEvent.seq, after)))
		.orderBy(asc(runEvent.seq));
	return rows;
}

const versionsIn = (events: RunEvent[]): string[] =>
	events.flatMap((e) =>
		e.kind === 'begin'
			? e.tests.map((t) => t.methodVersionId)
			: e.kind === 'add'
				? [e.added.methodVersionId]
				: []
	);

/** Methods that events name, by version, whoever's they are: they were theirs who wrote the event. */
async function methodsOfEvents(db: Connection, events: RunEvent[]): Promise<Map<string, Method>> {
	const ids = versionsIn(events);
	if (!ids.length) return new Map();
	const rows = await db
		.select({ id: methodVersion.id, profile: methodVersion.profile })
		.from(methodVersion)
		.where(inArray(methodVersion.id, ids));
	return new Map(rows.map((r) => [r.id, r.profile]));
}

const isAhead = (event: RunEvent): boolean => Date.parse(event.at) > now().getTime() + CLOCK_SLACK;
