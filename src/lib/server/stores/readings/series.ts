import { and, asc, desc, eq, inArray, max, sql } from 'drizzle-orm';
import type { Reading } from '../../../api/readings';
import { database, type Connection } from '../../db/connection';
import { method, methodVersion, reading, revision } from '../../db/schema';
import { mayUse, type Asker } from '../../identity/asker';
import { pointsAsProved, provedKits, readingsAsProved, type StoredPoint } from '../checks';
import { readings, tankSource, toReading } from './rows';

export type { StoredPoint };

/** Estimates rest on so many of the newest: ten years of daily tests, which take a third of a second (`calculations.ts`, trend). */
export const MOST_POINTS = 4000;
/** What is older is drawn from so many parts of it, by the least and the most of each. */
const OLDER_PARTS = 1000;

/** Readings of one parameter of the tank's own water that count, oldest first, and their unit: the newest, {@link MOST_POINTS} at most. */
export async function pointsOf(
	asker: Asker,
	systemId: string,
	parameter: string
): Promise<{ unit: string; points: StoredPoint[] }> {
	const db = database();
	await mayUse(asker, systemId, 'read');
	const tank = await tankSource(db, systemId);
	if (!tank) return { unit: '', points: [] };
	const rows = await pointRows(db, 'span_of_source')
		.where(counted(tank, parameter))
		.orderBy(desc(reading.takenAt), desc(reading.id))
		.limit(MOST_POINTS);
	return {
		unit: rows[0]?.unit ?? '',
		points: await asPoints(asker, systemId, parameter, rows.reverse())
	};
}

/**
 * What is older than the newest {@link MOST_POINTS}, thinned by the database before any of it is sent here: of each of a thousand parts
 * of its time the least and the most, so that what stands out stays. Oldest first; `of` says how many there are.
 */
export async function olderPointsOf(
	asker: Asker,
	systemId: string,
	parameter: string,
	before: StoredPoint | undefined
): Promise<{ of: number; points: StoredPoint[] }> {
	const db = database();
	await mayUse(asker, systemId, 'read');
	const tank = await tankSource(db, systemId);
	if (!tank || !before) return { of: 0, points: [] };
	const older = and(
		counted(tank, parameter),
		sql`(${reading.takenAt}, ${reading.id}) < (${new Date(before.at)}, ${before.id})`
	)!;
	const height = sql`coalesce(${revision.value}, ${revision.low}, ${revision.high})`;
	const parted = db.$with('parted').as(
		db
			.select({
				id: reading.id,
				height: sql<number>`${height}`.as('height'),
				part: sql<number>`ntile(${sql.raw(String(OLDER_PARTS))}) over (order by ${reading.takenAt}, ${reading.id})`.as(
					'part'
				)
			})
			.from(reading, { forceIndex: 'span_of_source' })
			.innerJoin(revision, newest)
			.where(older)
	);
	const placed = db.$with('placed').as(
		db
			.select({
				id: parted.id,
				least: sql<number>`row_number() over (partition by part order by height)`.as('least'),
				most: sql<number>`row_number() over (partition by part order by height desc)`.as('most'),
				total: sql<number>`count(*) over ()`.as('total')
			})
			.from(parted)
	);
	const kept = await db
		.with(parted, placed)
		.select({ id: placed.id, total: placed.total })
		.from(placed)
		.where(sql`least = 1 or most = 1`);
	if (!kept.length) return { of: 0, points: [] };
	const ids = kept.map((k) => k.id);
	const rows = await pointRows(db)
		.where(inArray(reading.id, ids))
		.orderBy(asc(reading.takenAt), asc(reading.id));
	return { of: Number(kept[0]!.total), points: await asPoints(asker, systemId, parameter, rows) };
}

const newest = and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision))!;
const counted = (tank: string, parameter: string) =>
	and(eq(reading.sourceId, tank), eq(reading.parameter, parameter), eq(revision.voided, false))!;

const { unit, qualifier, value, standardUncertainty, repeatability, low, high, ownChart, methodVersionId } =
	revision;
const pointRows = (db: Connection, forceIndex?: string) =>
	db
		.select({
			id: reading.id,
			takenAt: reading.takenAt,
			unit,
			qualifier,
			value,
			standardUncertainty,
			repeatability,
			low,
			high,
			ownChart,
			methodVersionId
		})
		.from(reading, forceIndex === undefined ? {} : { forceIndex })
		.innerJoin(revision, newest)
		.$dynamic();

async function asPoints(
	asker: Asker,
	systemId: string,
	parameter: string,
	rows: Awaited<ReturnType<typeof pointRows>>
): Promise<StoredPoint[]> {
	const [versions, proved] = await Promise.all([
		versionNames(database(), parameter),
		provedKits(asker, systemId)
	]);
	const points = rows.map(({ takenAt, unit: _unit, methodVersionId: version, ...row }) => ({
		...row,
		at: takenAt.getTime(),
		...versions.get(version)!
	}));
	return pointsAsProved(points, proved[parameter]);
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
	await mayUse(asker, systemId, 'read');
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
	methodName: r.methodName,
	ownChart: r.ownChart
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
	await mayUse(asker, systemId, 'read');
	const rows = await readings(db, 'span_of_parameter')
		.where(and(eq(reading.systemId, systemId), eq(reading.parameter, parameter), eq(revision.voided, true)))
		.orderBy(desc(reading.takenAt), desc(reading.id))
		.limit(MOST_VOIDED);
	return readingsAsProved(rows.map(toReading), await provedKits(asker, systemId)).reverse();
}

/** As many as a picture can show beside those that count. */
const MOST_VOIDED = 200;
