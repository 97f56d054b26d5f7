import { error } from '@sveltejs/kit';
import { and, asc, desc, eq, min, sql, type Placeholder } from 'drizzle-orm';
import { marksOf } from '../../core/bench';
import { reading as readingOf } from '../../core/calculations';
import { READING_VERSION, expressedIn, type Measured, type Qualifier } from '../../core/methods';
import { bad, good, type Outcome } from '../../core/problems';
import { parameterOf } from '../../core/quantities';
import type { Reading, SaveReading } from '../api/readings';
import { mayUse, type Asker } from './asker';
import { CLOCK_SLACK, now } from './clock';
import { DUPLICATE, database, errnoOf, type Connection, type Database } from './db/connection';
import { method, methodVersion, reading, revision, sample, source } from './db/schema';
import { methodVersionFor } from './method-store';
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
	const other = sent.takenAwayId === undefined ? undefined : await stored(db, asker, sent.takenAwayId);
	if (other && (other.sourceId !== from.id || other.parameter !== kit.takeAway?.parameter))
		return bad('/takenAwayId', 'must be what this method takes away, measured in the same water');
	const result = readingOf({
		method: kit,
		reading: sent.reading,
		...(other?.value == null || other.standardUncertainty === null
			? {}
			: {
					other: { [other.parameter]: { value: other.value, standardUncertainty: other.standardUncertainty } }
				}),
		...(sent.sampleSize === undefined ? {} : { sample: sent.sampleSize })
	});
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
	await db.transaction(async (tx) => {
		const [held] = await tx.select().from(reading).where(eq(reading.id, id)).for('update');
		const [current] = await tx
			.select()
			.from(revision)
			.where(and(eq(revision.readingId, id), eq(revision.revision, held!.revision)));
		if (current!.voided === voided) return;
		const next = held!.revision + 1;
		await tx
			.insert(revision)
			.values({ ...current!, revision: next, byUserId: asker.userId, at: now(), voided, reason });
		await tx.update(reading).set({ revision: next }).where(eq(reading.id, id));
	});
	return (await stored(db, asker, id))!;
}

/** Parameters that were ever measured in this tank or its other waters. */
export const measuredIn = async (asker: Asker, systemId: string): Promise<string[]> => [
	...(await measuredSince(asker, systemId)).keys()
];

/** The same with the moment of the first reading. */
export async function measuredSince(asker: Asker, systemId: string): Promise<Map<string, Date>> {
	const db = database();
	await mayUse(db, asker, systemId, 'read');
	// The index answers this without reading rows; a query over all parameters at once would read them all.
	const rows = await db
		.select({ parameter: reading.parameter, since: min(reading.takenAt) })
		.from(reading)
		.where(eq(reading.systemId, systemId))
		.groupBy(reading.parameter);
	return new Map(rows.map((r) => [r.parameter, r.since!]));
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
			.from(reading)
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

/** A reading as such a point. */
export const pointOf = (r: Reading): StoredPoint => ({
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

const columns = {
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

type Row = Awaited<ReturnType<typeof readings>>[number];

const toReading = ({ low, high, takenAt, ...row }: Row): Reading => ({
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
