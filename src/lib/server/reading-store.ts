import { error } from '@sveltejs/kit';
import { and, asc, desc, eq, inArray, max, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { marksOf } from '../../core/bench';
import { reading as readingOf } from '../../core/calculations';
import { READING_VERSION, expressedIn, type Measured, type Method, type Qualifier } from '../../core/methods';
import { bad, good, type Outcome } from '../../core/problems';
import { parameterOf } from '../../core/quantities';
import type { CorrectReading, Reading, SaveReading, VoidReadings } from '../api/readings';
import { mayUse, type Asker } from './asker';
import { CLOCK_SLACK, now } from './clock';
import { DUPLICATE, database, errnoOf, type Connection, type Database } from './db/connection';
import { method, methodVersion, reading, revision, sample, source } from './db/schema';
import { methodVersionFor, profileOf } from './method-store';
import { conductIn, runWithEvents } from './run-store';

/**
 * Saves a reading under the client's id; the value is computed here. Sending it again changes nothing and answers the
 * same. Problems: bad raw reading, unknown method or source, a time in the future.
 */
export async function saveReading(asker: Asker, id: string, sent: SaveReading): Promise<Outcome<Reading>> {
	const db = database();
	const [from] = await db.select().from(source).where(eq(source.id, sent.sourceId));
	if (!from) return bad('/sourceId', 'is not a water of yours');
	await mayUse(db, asker, from.systemId, 'write');

	const earlier = await stored(db, asker, id);
	if (earlier) return good(earlier);
	const takenAt = new Date(sent.takenAt);
	if (takenAt.getTime() > now().getTime() + CLOCK_SLACK) return bad('/takenAt', 'lies in the future');
	const evening = sent.runId === undefined ? undefined : await runWithEvents(asker, sent.runId);
	if (evening && evening.record.sourceId !== from.id)
		return bad('/runId', 'was an evening with another water');
	// Two keepers share an evening: what one of them laid out, the other may read.
	const kit =
		evening?.methods[sent.methodVersionId] ?? (await methodVersionFor(db, asker, sent.methodVersionId));
	if (!kit) return bad('/methodVersionId', 'is not a method you have');
	const result = await computed(db, asker, kit, from.id, sent);
	if (!result.ok) return result;
	const conduct = evening && conductIn(evening, id);

	try {
		await db.transaction(async (tx) => {
			await tx
				.insert(sample)
				.values({ id: sent.sampleId, sourceId: from.id, takenAt })
				.onDuplicateKeyUpdate({ set: { sourceId: sql`${sample.sourceId}` } });
			const [water] = await tx.select().from(sample).where(eq(sample.id, sent.sampleId));
			if (water?.sourceId !== from.id) error(409, 'This sample belongs to another water.');
			await tx.insert(reading).values({
				id,
				systemId: from.systemId,
				sampleId: sent.sampleId,
				sourceId: from.id,
				parameter: kit.parameter,
				takenAt,
				revision: 1,
				runId: sent.runId ?? null,
				conduct: conduct ?? null,
				marks: conduct ? marksOf(conduct) : null
			});
			await tx.insert(revision).values({
				readingId: id,
				revision: 1,
				byUserId: asker.userId,
				at: now(),
				methodVersionId: sent.methodVersionId,
				raw: sent.reading,
				sampleSize: sent.sampleSize ?? null,
				takenAwayId: sent.takenAwayId ?? null,
				...columnsOf(result.value, kit.parameter),
				calculation: READING_VERSION,
				voided: false,
				reason: null
			});
		});
	} catch (failure) {
		// Two sends of one reading at the same time: the first has stored it.
		if (errnoOf(failure) !== DUPLICATE) throw failure;
	}
	const saved = await stored(db, asker, id);
	// The id is taken by a reading of a tank that is not the asker's.
	if (!saved) error(409, 'This id is in use.');
	return good(saved);
}

/**
 * Writes down what was really seen: a new revision, computed again; the earlier ones stay. Sending it again changes nothing.
 * Problems: it was changed meanwhile, it is voided, a method of another parameter, a time ahead, a bad raw reading.
 */
export async function correctReading(
	asker: Asker,
	id: string,
	sent: CorrectReading
): Promise<Outcome<Reading>> {
	const db = database();
	const before = await stored(db, asker, id);
	if (!before) error(404, 'There is no such reading.');
	await mayUse(db, asker, before.systemId, 'write');
	const takenAt = new Date(sent.takenAt);
	if (takenAt.getTime() > now().getTime() + CLOCK_SLACK) return bad('/takenAt', 'lies in the future');
	const [current] = await db
		.select()
		.from(revision)
		.where(and(eq(revision.readingId, id), eq(revision.revision, before.revision)));
	// What it was read by may be another member's kit: it goes on to be.
	const kit =
		sent.methodVersionId === current!.methodVersionId
			? await profileOf(db, sent.methodVersionId)
			: await methodVersionFor(db, asker, sent.methodVersionId);
	if (!kit) return bad('/methodVersionId', 'is not a method you have');
	if (kit.parameter !== before.parameter)
		return bad('/methodVersionId', `measures ${kit.parameter}, and this reading is of ${before.parameter}`);
	const result = await computed(db, asker, kit, before.sourceId, sent);
	if (!result.ok) return result;
	const { reading: raw, reason, methodVersionId } = sent;
	return db.transaction(async (tx) => {
		const [held] = await tx.select().from(reading).where(eq(reading.id, id)).for('update');
		if (held!.revision !== sent.basedOn) {
			const same =
				held!.revision === sent.basedOn + 1 &&
				current!.reason === reason &&
				JSON.stringify(current!.raw) === JSON.stringify(raw);
			return same
				? good(before)
				: bad('', 'was changed meanwhile; look at it again, then repeat your correction');
		}
		if (before.voided) return bad('', 'is voided; put it back first');
		const next = held!.revision + 1;
		await tx.insert(revision).values({
			readingId: id,
			revision: next,
			byUserId: asker.userId,
			at: now(),
			methodVersionId,
			takenAt,
			raw,
			sampleSize: sent.sampleSize ?? null,
			takenAwayId: sent.takenAwayId ?? null,
			...columnsOf(result.value, kit.parameter),
			calculation: READING_VERSION,
			voided: false,
			reason
		});
		const moved = held!.takenAt.getTime() !== takenAt.getTime();
		// Another moment is another sample.
		const sampleId = moved ? uuid() : held!.sampleId;
		if (moved) await tx.insert(sample).values({ id: sampleId, sourceId: held!.sourceId, takenAt });
		await tx.update(reading).set({ revision: next, takenAt, sampleId }).where(eq(reading.id, id));
		return good((await stored(tx, asker, id))!);
	});
}

/** A raw reading in numbers, with what it takes away from the same water. */
async function computed(
	db: Connection,
	asker: Asker,
	kit: Method,
	sourceId: string,
	sent: Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'>
): Promise<Outcome<Measured>> {
	const other = sent.takenAwayId === undefined ? undefined : await stored(db, asker, sent.takenAwayId);
	if (other && (other.sourceId !== sourceId || other.parameter !== kit.takeAway?.parameter))
		return bad('/takenAwayId', 'must be what this method takes away, measured in the same water');
	return readingOf({
		method: kit,
		reading: sent.reading,
		...(other?.value == null || other.standardUncertainty === null
			? {}
			: {
					other: { [other.parameter]: { value: other.value, standardUncertainty: other.standardUncertainty } }
				}),
		...(sent.sampleSize === undefined ? {} : { sample: sent.sampleSize })
	});
}

/** Takes a reading out of the count, with a reason, or back in. A new revision each time; repeating it changes nothing. */
export async function setVoided(
	asker: Asker,
	id: string,
	voided: boolean,
	reason: string | null
): Promise<Reading> {
	const db = database();
	const before = await stored(db, asker, id);
	if (!before) error(404, 'There is no such reading.');
	await mayUse(db, asker, before.systemId, 'write');
	await db.transaction((tx) => voidWhere(tx, asker, eq(reading.id, id), voided, reason));
	return (await stored(db, asker, id))!;
}

/** The same for several readings of one tank, all or none; ids of other tanks are passed over. How many it changed. */
export async function setVoidedAll(
	asker: Asker,
	{ systemId, ids, voided, reason }: VoidReadings
): Promise<{ changed: number }> {
	const db = database();
	await mayUse(db, asker, systemId, 'write');
	const theirs = and(eq(reading.systemId, systemId), inArray(reading.id, ids))!;
	return { changed: await db.transaction((tx) => voidWhere(tx, asker, theirs, voided, reason)) };
}

/** So many readings are written at once. */
const AT_ONCE = 1000;

/**
 * Takes out of the count, or back in, what a condition on `reading` and its newest `revision` names and is not so yet, each
 * by a revision of its own. In a transaction of the caller's, who has asked whether this may be.
 */
export async function voidWhere(
	tx: Connection,
	asker: Asker,
	condition: SQL,
	voided: boolean,
	reason: string | null
): Promise<number> {
	const found = await tx
		.select({ id: reading.id })
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.where(and(condition, eq(revision.voided, !voided)))
		.for('update');
	for (let from = 0; from < found.length; from += AT_ONCE) {
		const ids = found.slice(from, from + AT_ONCE).map((r) => r.id);
		await tx.execute(sql`
			insert into revision (reading_id, revision, by_user_id, at, method_version_id, raw, sample_size, taken_away_id,
				result, calculation, qualifier, unit, value, standard_uncertainty, repeatability, low, high, voided, reason)
			select v.reading_id, v.revision + 1, ${asker.userId}, ${now()}, v.method_version_id, v.raw, v.sample_size,
				v.taken_away_id, v.result, v.calculation, v.qualifier, v.unit, v.value, v.standard_uncertainty,
				v.repeatability, v.low, v.high, ${voided}, ${reason}
			from revision v join reading r on r.id = v.reading_id and r.revision = v.revision
			where r.id in ${ids}`);
		await tx
			.update(reading)
			.set({ revision: sql`${reading.revision} + 1` })
			.where(inArray(reading.id, ids));
	}
	return found.length;
}

/** A reading as it stands, or nothing where there is none. */
export const readingFor = (asker: Asker, id: string): Promise<Reading | undefined> =>
	stored(database(), asker, id);

/** Parameters that were ever measured in this tank or its other waters. */
export const measuredIn = async (asker: Asker, systemId: string): Promise<string[]> => [
	...(await measuredSince(asker, systemId)).keys()
];

/** What each asker was told; an asker lives for one request, in which several ask. */
const measuredBy = new WeakMap<Asker, Map<string, Promise<Map<string, Date>>>>();

/** The same with the moment of the first reading. */
export function measuredSince(asker: Asker, systemId: string): Promise<Map<string, Date>> {
	const known = measuredBy.get(asker) ?? new Map<string, Promise<Map<string, Date>>>();
	measuredBy.set(asker, known);
	const found = known.get(systemId) ?? findMeasured(asker, systemId);
	known.set(systemId, found);
	return found;
}

/** One step in the index from each parameter to the next: a query over all at once would read every entry of a long book. */
async function findMeasured(asker: Asker, systemId: string): Promise<Map<string, Date>> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const [rows] = await db.execute(sql`
		with recursive p (parameter) as (
			select min(parameter) from reading where system_id = ${systemId}
			union all
			select (select min(r.parameter) from reading r where r.system_id = ${systemId} and r.parameter > p.parameter)
			from p where p.parameter is not null
		)
		select parameter, (
			select date_format(min(r.taken_at), '%Y-%m-%dT%H:%i:%s.%fZ') from reading r
			where r.system_id = ${systemId} and r.parameter = p.parameter
		) as since
		from p where parameter is not null`);
	return new Map(
		(rows as unknown as { parameter: string; since: string }[]).map((r) => [r.parameter, new Date(r.since)])
	);
}

/** Readings of the tank's own water for a trail, newest first: at most `each` of every parameter. */
export async function latestOfEach(asker: Asker, systemId: string, each: number): Promise<Reading[]> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const measured = await measuredIn(asker, systemId);
	return Object.values(await latestReadings(asker, systemId, measured, each)).flat();
}

/** The same by parameter, for parameters that are known to be measured. */
export async function latestReadings(
	asker: Asker,
	systemId: string,
	parameters: string[],
	each: number
): Promise<Record<string, Reading[]>> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const tank = await tankSource(db, systemId);
	if (!tank) return {};
	const found = await Promise.all(
		parameters.map((parameter) => trail(db).execute({ source: tank, parameter, each }))
	);
	return Object.fromEntries(parameters.map((parameter, i) => [parameter, found[i]!.map(toReading)]));
}

/** The query for one tube's trail, built once: building it costs more than running it. */
const trails = new WeakMap<Database, ReturnType<typeof buildTrail>>();
function trail(db: Database) {
	const known = trails.get(db) ?? buildTrail(db);
	trails.set(db, known);
	return known;
}
const buildTrail = (db: Database) =>
	counted(db, sql.placeholder('source'), sql.placeholder('parameter'))
		.limit(sql.placeholder('each'))
		.prepare();

/** The source that is the tank itself. */
async function tankSource(db: Connection, systemId: string): Promise<string | undefined> {
	const [found] = await db
		.select({ id: source.id })
		.from(source)
		.where(and(eq(source.systemId, systemId), eq(source.kind, 'tank')));
	return found?.id;
}

/** A reading with what estimates rest on, the moment in ms; in the parameter's own unit. */
export interface StoredPoint {
	id: string;
	at: number;
	qualifier: Qualifier;
	value: number | null;
	standardUncertainty: number | null;
	repeatability: number | null;
	low: number | null;
	high: number | null;
	methodId: string;
	methodName: string;
}

/** Every reading of one parameter of the tank's own water that counts, oldest first, and their unit. */
export async function pointsOf(
	asker: Asker,
	systemId: string,
	parameter: string
): Promise<{ unit: string; points: StoredPoint[] }> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const tank = await tankSource(db, systemId);
	if (!tank) return { unit: '', points: [] };
	const { qualifier, value, standardUncertainty, repeatability, low, high, methodVersionId } = revision;
	const [rows, versions] = await Promise.all([
		db
			.select({
				id: reading.id,
				takenAt: reading.takenAt,
				unit: revision.unit,
				qualifier,
				value,
				standardUncertainty,
				repeatability,
				low,
				high,
				methodVersionId
			})
			.from(reading, { forceIndex: 'span_of_source' })
			.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
			.where(and(eq(reading.sourceId, tank), eq(reading.parameter, parameter), eq(revision.voided, false)))
			.orderBy(asc(reading.takenAt), asc(reading.id)),
		versionNames(db, parameter)
	]);
	return {
		unit: rows[0]?.unit ?? '',
		points: rows.map(({ takenAt, unit: _unit, methodVersionId: version, ...row }) => ({
			...row,
			at: takenAt.getTime(),
			...versions.get(version)!
		}))
	};
}

/**
 * What tells one state of all readings of a parameter in the tank's own water from every other: a revision never changes, so
 * the set of newest revisions says it all. Nothing where there are none.
 */
export async function stampOf(
	asker: Asker,
	systemId: string,
	parameter: string
): Promise<{ source: string; count: number; set: string; newest: number } | undefined> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const tank = await tankSource(db, systemId);
	if (!tank) return undefined;
	const [found] = await db
		.select({
			count: sql<number>`count(*)`.mapWith(Number),
			set: sql<string>`concat(sum(${reading.revision}), ' ', bit_xor(crc32(concat(${reading.id}, ${reading.revision}))))`,
			newest: max(reading.takenAt)
		})
		.from(reading, { forceIndex: 'span_of_source' })
		.where(and(eq(reading.sourceId, tank), eq(reading.parameter, parameter)));
	return found?.newest
		? { source: tank, count: found.count, set: found.set, newest: found.newest.getTime() }
		: undefined;
}

/** A reading as such a point. */
export const pointOf = (r: Reading): StoredPoint => ({
	id: r.id,
	at: Date.parse(r.takenAt),
	qualifier: r.qualifier,
	value: r.value,
	standardUncertainty: r.standardUncertainty,
	repeatability: r.repeatability,
	low: r.interval[0],
	high: r.interval[1],
	methodId: r.methodId,
	methodName: r.methodName
});

/** Which method each version for a parameter is of, and what it is called. */
async function versionNames(db: Connection, parameter: string) {
	const rows = await db
		.select({ id: methodVersion.id, methodId: methodVersion.methodId, methodName: methodVersion.name })
		.from(methodVersion)
		.innerJoin(method, eq(method.id, methodVersion.methodId))
		.where(eq(method.parameter, parameter));
	return new Map(rows.map(({ id, ...names }) => [id, names]));
}

/** The newest readings of one parameter that were taken out, oldest first. */
export async function voidedOf(asker: Asker, systemId: string, parameter: string): Promise<Reading[]> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	const rows = await readings(db)
		.where(and(eq(reading.systemId, systemId), eq(reading.parameter, parameter), eq(revision.voided, true)))
		.orderBy(desc(reading.takenAt), desc(reading.id))
		.limit(MOST_VOIDED);
	return rows.map(toReading).reverse();
}

/** As many as a picture can show beside those that count. */
const MOST_VOIDED = 200;

export const columns = {
	id: reading.id,
	systemId: reading.systemId,
	sourceId: reading.sourceId,
	parameter: reading.parameter,
	takenAt: reading.takenAt,
	revision: reading.revision,
	qualifier: revision.qualifier,
	value: revision.value,
	standardUncertainty: revision.standardUncertainty,
	repeatability: revision.repeatability,
	low: revision.low,
	high: revision.high,
	raw: revision.raw,
	voided: revision.voided,
	marks: reading.marks,
	methodId: methodVersion.methodId,
	methodName: methodVersion.name,
	unit: revision.unit
};

/** Readings with their newest revision and method. */
const readings = (db: Connection) =>
	db
		.select(columns)
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId));

/** Those of one water that are not voided, newest first. */
const counted = (db: Connection, from: string | Placeholder, parameter: string | Placeholder) =>
	readings(db)
		.where(and(eq(reading.sourceId, from), eq(reading.parameter, parameter), eq(revision.voided, false)))
		.orderBy(desc(reading.takenAt), desc(reading.id));

async function stored(db: Connection, asker: Asker, id: string): Promise<Reading | undefined> {
	const [row] = await readings(db).where(eq(reading.id, id));
	if (!row) return undefined;
	await mayUse(db, asker, row.systemId, 'read');
	return toReading(row);
}

export type Row = Awaited<ReturnType<typeof readings>>[number];

export const toReading = ({ low, high, takenAt, ...row }: Row): Reading => ({
	...row,
	takenAt: takenAt.toISOString(),
	interval: [low, high]
});

/** The result and its numbers in the parameter's own unit. */
export function columnsOf(result: Measured, parameter: string) {
	const own = expressedIn(result, parameter, parameterOf(parameter)?.unit ?? result.unit);
	return {
		result,
		qualifier: own.qualifier,
		unit: own.unit,
		value: own.value,
		standardUncertainty: own.standardUncertainty,
		repeatability: own.repeatability,
		low: own.interval[0],
		high: own.interval[1]
	};
}
