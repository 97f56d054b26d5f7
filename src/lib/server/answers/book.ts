import { and, asc, desc, eq, gte, inArray, lt, lte, or, sql, type SQL } from 'drizzle-orm';
import { alias, type MySqlColumn } from 'drizzle-orm/mysql-core';
import type { Method } from '../../../core/instruments';
import type { BookEvent, BookFilter, BookLine, BookPlace, BookReading, BookRevision } from '../../api/book';
import { SHORTLY, mayUse, ofTank, type Asker } from '../identity/asker';
import { database, type Connection } from '../db/connection';
import { event, methodVersion, reading, revision, source, user } from '../db/schema';
import { provedKits, readingsAsProved } from '../stores/checks';
import { idAsWritten, rawAsTagged } from '../db/joined';
import { columns, toReading } from '../stores/readings';
import { unusualOf } from './trends';
import { refuse } from '../refuse';

/** Lines of a page of the book, and of a page of the API at most. */
export const PAGE = 50;
export const LARGEST_PAGE = 500;

/** Below a place in a list that is ordered by time and id, newest first. */
const below = (at: MySqlColumn, id: MySqlColumn, place: BookPlace | undefined): SQL | undefined =>
	place &&
	and(
		lte(at, new Date(place.at)),
		or(lt(at, new Date(place.at)), and(eq(at, new Date(place.at)), lt(id, place.id)))
	);

/** So many words are looked for at most. */
const MOST_WORDS = 8;
/** Every word stands somewhere in one of these, in small or large letters. */
const holds = (words: string | undefined, ...parts: (MySqlColumn | SQL)[]): SQL | undefined =>
	words === undefined
		? undefined
		: and(
				...words
					.split(/\s+/)
					.filter(Boolean)
					.slice(0, MOST_WORDS)
					.map((word) => {
						const all = sql.join(
							parts.map((part) => sql`lower(${part})`),
							sql`, `
						);
						const pattern = `%${word.toLowerCase().replace(/[\\%_]/g, '\\$&')}%`;
						return sql`concat_ws(' ', ${all}) like ${pattern}`;
					})
			);

/** Some lines of the book, and where those below them begin. */
interface FoundLines {
	lines: BookLine[];
	next: BookPlace | null;
}

/** A page of the book, newest first: readings and what was done, in one stream. */
export async function bookPage(
	asker: Asker,
	systemId: string,
	filter: BookFilter = {},
	before?: BookPlace,
	limit = PAGE
): Promise<FoundLines> {
	await mayUse(asker, systemId, 'read');
	// What is odd among them goes by an estimate, and that by the clock.
	return ofTank(
		asker,
		systemId,
		['book', filter, before, limit],
		() => findPage(asker, systemId, filter, before, limit),
		filter.show === 'unusual' ? SHORTLY : undefined
	);
}

async function findPage(
	asker: Asker,
	systemId: string,
	filter: BookFilter,
	before: BookPlace | undefined,
	limit: number
): Promise<FoundLines> {
	const db = database();
	// Whoever looks for a parameter, a kit or what is odd looks for readings.
	const readingsAlone =
		filter.method !== undefined || filter.source !== undefined || filter.show === 'unusual';
	const [readings, events] = await Promise.all([
		filter.lines === 'events' ? [] : readingLines(db, asker, systemId, filter, before, limit + 1),
		filter.lines === 'readings' || readingsAlone ? [] : eventLines(db, systemId, filter, before, limit + 1)
	]);
	const lines = [...readings, ...events]
		.sort((a, b) => b.takenAt.localeCompare(a.takenAt) || b.id.localeCompare(a.id))
		.slice(0, limit);
	const last = lines.at(-1);
	const more = readings.length + events.length > limit;
	return { lines, next: more && last ? { at: last.takenAt, id: last.id } : null };
}

const first = alias(revision, 'first');
/** Who wrote a reading first. */
const writtenBy = sql<string>`coalesce(${first.attributedTo}, ${user.name})`;

async function readingLines(
	db: Connection,
	asker: Asker,
	systemId: string,
	filter: BookFilter,
	before: BookPlace | undefined,
	limit: number
): Promise<BookReading[]> {
	const { parameter, show = 'counted' } = filter;
	const unusual =
		show === 'unusual' ? await unusualOf(asker, systemId, parameter ? [parameter] : undefined) : undefined;
	if (unusual?.length === 0) return [];
	const versions =
		filter.method === undefined
			? undefined
			: await db
					.select({ id: methodVersion.id })
					.from(methodVersion)
					.where(eq(methodVersion.methodId, filter.method));
	if (versions?.length === 0) return [];
	// Which lines, by the index; then all about them: in one query the database begins at the wrong end of a long book.
	const lines = db
		.select({ id: idAsWritten })
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.$dynamic();
	if (filter.words !== undefined)
		lines
			.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
			.innerJoin(source, eq(source.id, reading.sourceId))
			.innerJoin(first, and(eq(first.readingId, reading.id), eq(first.revision, 1)))
			.innerJoin(user, eq(user.id, first.byUserId));
	const found = await lines
		.where(
			and(
				eq(reading.systemId, systemId),
				parameter === undefined ? undefined : eq(reading.parameter, parameter),
				filter.source === undefined ? undefined : eq(reading.sourceId, filter.source),
				versions &&
					inArray(
						revision.methodVersionId,
						versions.map((v) => v.id)
					),
				filter.from === undefined ? undefined : gte(reading.takenAt, new Date(filter.from)),
				filter.to === undefined ? undefined : lt(reading.takenAt, new Date(filter.to)),
				show === 'all' ? undefined : eq(revision.voided, show === 'voided'),
				unusual && inArray(reading.id, unusual),
				holds(filter.words, reading.parameter, methodVersion.name, source.name, revision.reason, writtenBy),
				below(reading.takenAt, reading.id, before)
			)
		)
		.orderBy(desc(reading.takenAt), desc(reading.id))
		.limit(limit);
	if (!found.length) return [];
	const rows = await db
		.select({
			...columns,
			methodVersionId: revision.methodVersionId,
			takenAwayId: revision.takenAwayId,
			reason: revision.reason,
			importId: reading.importId,
			sourceName: source.name,
			sourceKind: source.kind,
			by: writtenBy
		})
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.innerJoin(source, eq(source.id, reading.sourceId))
		.innerJoin(first, and(eq(first.readingId, reading.id), eq(first.revision, 1)))
		.innerJoin(user, eq(user.id, first.byUserId))
		.where(
			inArray(
				reading.id,
				found.map((r) => r.id)
			)
		)
		.orderBy(desc(reading.takenAt), desc(reading.id));
	const proved = await provedKits(asker, systemId);
	return rows.map(({ importId, low, high, ...row }) => ({
		...row,
		...readingsAsProved([toReading({ ...row, low, high })], proved)[0]!,
		line: 'reading',
		imported: importId !== null
	}));
}

/** What is said of an event in words. */
const SAID = ['kind', 'parameter', 'supplement', 'text', 'method', 'by', 'lab', 'sample'];
async function eventLines(
	db: Connection,
	systemId: string,
	{ parameter, from, to, words, show = 'counted' }: BookFilter,
	before: BookPlace | undefined,
	limit: number
): Promise<BookEvent[]> {
	const rows = await db
		.select({
			id: event.id,
			takenAt: event.at,
			event: event.body,
			by: sql<string>`coalesce(${event.attributedTo}, ${user.name})`,
			voided: event.voided,
			reason: event.reason
		})
		.from(event)
		.innerJoin(user, eq(user.id, event.byUserId))
		.where(
			and(
				eq(event.systemId, systemId),
				parameter === undefined ? undefined : sql`json_value(${event.body}, '$.parameter') = ${parameter}`,
				from === undefined ? undefined : gte(event.at, new Date(from)),
				to === undefined ? undefined : lt(event.at, new Date(to)),
				show === 'all' ? undefined : eq(event.voided, show === 'voided'),
				holds(
					words,
					...SAID.map((field) => sql`json_value(${event.body}, ${`$.${field}`})`),
					event.reason,
					sql`coalesce(${event.attributedTo}, ${user.name})`
				),
				below(event.at, event.id, before)
			)
		)
		.orderBy(desc(event.at), desc(event.id))
		.limit(limit);
	return rows.map((row) => ({ ...row, line: 'event', takenAt: row.takenAt.toISOString() }));
}

/** The method a reading was made with, as it was then, whoever's it is. */
export async function methodOfReading(asker: Asker, id: string): Promise<Method> {
	const db = database();
	const [held] = await db
		.select({ systemId: reading.systemId, profile: methodVersion.profile })
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.where(eq(reading.id, id));
	if (!held) refuse(404, 'There is no such reading.');
	await mayUse(asker, held.systemId, 'read');
	return held.profile;
}

/** Every state a reading was in, oldest first. */
export async function historyOf(asker: Asker, id: string): Promise<BookRevision[]> {
	const db = database();
	const [held] = await db.select({ systemId: reading.systemId }).from(reading).where(eq(reading.id, id));
	if (!held) refuse(404, 'There is no such reading.');
	await mayUse(asker, held.systemId, 'read');
	const rows = await db
		.select({ ...revisionColumns, by: sql<string>`coalesce(${revision.attributedTo}, ${user.name})` })
		.from(revision)
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.innerJoin(user, eq(user.id, revision.byUserId))
		.where(eq(revision.readingId, id))
		.orderBy(asc(revision.revision));
	return rows.map(({ low, high, at, takenAt, ...row }) => ({
		...row,
		interval: [low, high],
		at: at.toISOString(),
		takenAt: takenAt?.toISOString() ?? null
	}));
}
const revisionColumns = {
	revision: revision.revision,
	at: revision.at,
	methodName: methodVersion.name,
	raw: rawAsTagged,
	qualifier: revision.qualifier,
	value: revision.value,
	standardUncertainty: revision.standardUncertainty,
	low: revision.low,
	high: revision.high,
	unit: revision.unit,
	takenAt: revision.takenAt,
	voided: revision.voided,
	reason: revision.reason,
	calculation: revision.calculation
};
