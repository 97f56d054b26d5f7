import { and, desc, eq, gt, min, sql, type SQL } from 'drizzle-orm';
import type { EarlierReading, Reading } from '../../../api/readings';
import { database, type Database } from '../../db/connection';
import { methodVersion, reading, revision } from '../../db/schema';
import { mayUse, ofTank, type Asker } from '../../identity/asker';
import { provedKits, readingsAsProved } from '../checks';
import { columns, tankSource, toReading, type Row } from './rows';

type Kept = ReturnType<typeof toReading>;

/** Parameters that were ever measured in this tank or its other waters. */
export const measuredIn = async (asker: Asker, systemId: string): Promise<string[]> => [
	...(await measuredSince(asker, systemId)).keys()
];

/** The same with the moment of the first reading. */
export async function measuredSince(asker: Asker, systemId: string): Promise<Map<string, Date>> {
	await mayUse(asker, systemId, 'read');
	return ofTank(asker, systemId, ['measured since'], () => findMeasured(systemId));
}

/**
 * From each parameter one step in the index to the next, however many readings lie between, and one to its first: a query over all at
 * once, also one that steps by itself, reads every entry of a long book. A least value the database looks up, whatever it believes.
 */
async function findMeasured(systemId: string): Promise<Map<string, Date>> {
	const db = database();
	const found = new Map<string, Date>();
	for (let last = ''; ;) {
		const of = (which: SQL) => and(eq(reading.systemId, systemId), which);
		const [next] = await db
			.select({ parameter: min(reading.parameter) })
			.from(reading, { forceIndex: 'span_of_parameter' })
			.where(of(gt(reading.parameter, last)));
		if (!next?.parameter) return found;
		last = next.parameter;
		const [first] = await db
			.select({ since: min(reading.takenAt) })
			.from(reading, { forceIndex: 'span_of_parameter' })
			.where(of(eq(reading.parameter, last)));
		if (first?.since) found.set(last, first.since);
	}
}

/** Readings of the tank's own water for a trail, newest first: at most `each` of every parameter. */
export async function latestOfEach(asker: Asker, systemId: string, each: number): Promise<Reading[]> {
	return Object.values(await latestReadings(asker, systemId, await measuredIn(asker, systemId), each)).flat();
}

/** The same as the bench needs them. */
export const earlierOf = async (asker: Asker, systemId: string, each: number): Promise<EarlierReading[]> =>
	(await latestOfEach(asker, systemId, each)).map(
		({ systemId: _system, marks: _marks, revision: _revision, voided: _voided, ...rest }) => rest
	);

/** The same by parameter: at most {@link MOST_NEWEST} of each. */
export async function latestReadings(
	asker: Asker,
	systemId: string,
	parameters: string[],
	each: number
): Promise<Record<string, Reading[]>> {
	// The same for whoever asks: rack, bench and estimates look at the same readings.
	const [measured, proved] = await Promise.all([measuredIn(asker, systemId), provedKits(asker, systemId)]);
	const found = await ofTank(asker, systemId, ['latest'], async () => {
		const tank = await tankSource(database(), systemId);
		if (!tank) return {} as Record<string, Kept[]>;
		return newestCounted(database(), tank, measured, MOST_NEWEST);
	});
	return Object.fromEntries(
		parameters.map((p) => [p, readingsAsProved((found[p] ?? []).slice(0, each), proved)])
	);
}

/** Of each parameter so many are kept at hand: a season or two of testing. */
export const MOST_NEWEST = 80;

/** Beside those that count so many that do not are looked at first: people take back a few. */
const SOME_VOIDED = 20;

/**
 * The newest that are not voided, of several parameters at once: looks further back where many are, as after a file that was
 * taken out again.
 */
async function newestCounted(
	db: Database,
	tank: string,
	parameters: string[],
	each: number
): Promise<Record<string, Kept[]>> {
	const found: Record<string, Kept[]> = {};
	let open = parameters;
	for (let look = each + SOME_VOIDED; open.length; look *= 8) {
		const rows = new Map<string, Row[]>(open.map((parameter) => [parameter, []]));
		for (const row of await newestRows(db, tank, open, look)) rows.get(row.parameter)!.push(row);
		const unsure = new Set<string>();
		for (const [parameter, its] of rows) {
			const counting = its.filter((r) => !r.voided);
			if (counting.length < each && its.length === look) unsure.add(parameter);
			found[parameter] = counting.slice(0, each).map(toReading);
		}
		open = open.filter((parameter) => unsure.has(parameter));
	}
	return found;
}

/**
 * First which ones, by the index in order of time, for each parameter by itself; then all about them: in one join the database
 * begins at the wrong end.
 */
function newestRows(db: Database, tank: string, parameters: string[], look: number): Promise<Row[]> {
	const trail = (parameter: string) => sql`(
		select ${reading.id} from ${reading} force index (span_of_source)
		where ${reading.sourceId} = ${tank} and ${reading.parameter} = ${parameter}
		order by ${reading.takenAt} desc, ${reading.id} desc limit ${look})`;
	const newest = sql`(${sql.join(parameters.map(trail), sql` union all `)}) newest`;
	return db
		.select(columns)
		.from(newest)
		.innerJoin(reading, eq(reading.id, sql`newest.id`))
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
		.orderBy(desc(reading.takenAt), desc(reading.id));
}
