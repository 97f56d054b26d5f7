import { and, asc, desc, eq, max, sql } from 'drizzle-orm';
import type { Qualifier } from '../../../../core/methods';
import type { Reading } from '../../../api/readings';
import { database, type Connection } from '../../db/connection';
import { method, methodVersion, reading, revision } from '../../db/schema';
import { mayUse, type Asker } from '../../identity/asker';
import { pointsAsProved, provedKits, readingsAsProved } from '../proof';
import { readings, tankSource, toReading } from './rows';

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
	/** Whether it counts: read by a chart of the keeper's own. */
	ownChart: boolean;
}

/** Every reading of one parameter of the tank's own water that counts, oldest first, and their unit. */
export async function pointsOf(
	asker: Asker,
	systemId: string,
	parameter: string
): Promise<{ unit: string; points: StoredPoint[] }> {
	const db = database();
	await mayUse(asker, systemId, 'read');
	const tank = await tankSource(db, systemId);
	if (!tank) return { unit: '', points: [] };
	const { qualifier, value, standardUncertainty, repeatability, low, high, ownChart, methodVersionId } =
		revision;
	const [rows, versions, proved] = await Promise.all([
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
				ownChart,
				methodVersionId
			})
			.from(reading, { forceIndex: 'span_of_source' })
			.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
			.where(and(eq(reading.sourceId, tank), eq(reading.parameter, parameter), eq(revision.voided, false)))
			.orderBy(asc(reading.takenAt), asc(reading.id)),
		versionNames(db, parameter),
		provedKits(asker, systemId)
	]);
	const points = rows.map(({ takenAt, unit: _unit, methodVersionId: version, ...row }) => ({
		...row,
		at: takenAt.getTime(),
		...versions.get(version)!
	}));
	return { unit: rows[0]?.unit ?? '', points: pointsAsProved(points, proved[parameter]) };
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
