import { and, eq } from 'drizzle-orm';
import { type RawReading } from '../../../../core/instruments';
import { READING_VERSION, expressedIn, type Measured } from '../../../../core/methods';
import { parameterOf } from '../../../../core/catalogue';
import { marksOf, type Conduct } from '../../../../core/run';
import type { Reading } from '../../../api/readings';
import { database, type Connection } from '../../db/connection';
import { idAsWritten, rawAsTagged } from '../../db/joined';
import { methodVersion, reading, revision, source } from '../../db/schema';
import { mayUse, type Asker } from '../../identity/asker';
import { provedKits, readingsAsProved } from '../checks';

/** A reading as it stands, or nothing where there is none. */
export const readingFor = (asker: Asker, id: string): Promise<Reading | undefined> =>
	stored(database(), asker, id);

/** The source that is the tank itself. */
export async function tankSource(db: Connection, systemId: string): Promise<string | undefined> {
	const [found] = await db
		.select({ id: source.id })
		.from(source)
		.where(and(eq(source.systemId, systemId), eq(source.kind, 'tank')));
	return found?.id;
}

/** What is asked of readings; first of all in which order their tables are joined. */
export const columns = {
	id: idAsWritten,
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
	raw: rawAsTagged,
	sampleSize: revision.sampleSize,
	voided: revision.voided,
	marks: reading.marks,
	methodId: methodVersion.methodId,
	methodName: methodVersion.name,
	ownChart: revision.ownChart,
	unit: revision.unit
};

/** Readings with their newest revision and method, looked for by an index where one is named. */
export const readings = (db: Connection, forceIndex?: 'span_of_parameter') =>
	db
		.select(columns)
		.from(reading, forceIndex && { forceIndex })
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId));

export async function stored(db: Connection, asker: Asker, id: string): Promise<Reading | undefined> {
	const [row] = await readings(db).where(eq(reading.id, id));
	if (!row) return undefined;
	await mayUse(asker, row.systemId, 'read');
	const [found] = readingsAsProved([toReading(row)], await provedKits(asker, row.systemId));
	return found;
}

export type Row = Awaited<ReturnType<typeof readings>>[number];

/** A reading as it was kept; what checks have taught of its kit comes after (`readingsAsProved`). */
export const toReading = ({ low, high, takenAt, ...row }: Row): Omit<Reading, 'proof'> => ({
	...row,
	takenAt: takenAt.toISOString(),
	interval: [low, high]
});

/** What one revision of a reading says. */
export interface Said {
	readingId: string;
	revision: number;
	byUserId: string;
	at: Date;
	methodVersionId: string;
	raw: RawReading;
	result: Measured;
	/** Whether the chart is the keeper's own, and that of what was taken away. */
	ownChart: boolean;
	/** Where it differs from now: an imported book keeps what was computed then. */
	calculation?: string;
	takenAt?: Date | undefined;
	sampleSize?: string | undefined;
	takenAwayId?: string | undefined;
	voided?: boolean;
	reason?: string | undefined;
	/** Who it was, where that is nobody here. */
	attributedTo?: string | null;
}

/** A revision as it is stored: what was seen, what was computed, and its numbers in the parameter's own unit. */
export function revisionRow(parameter: string, said: Said) {
	const own = expressedIn(said.result, parameter, parameterOf(parameter)?.unit ?? said.result.unit);
	return {
		...said,
		calculation: said.calculation ?? READING_VERSION,
		takenAt: said.takenAt ?? null,
		sampleSize: said.sampleSize ?? null,
		takenAwayId: said.takenAwayId ?? null,
		voided: said.voided ?? false,
		reason: said.reason ?? null,
		attributedTo: said.attributedTo ?? null,
		qualifier: own.qualifier,
		unit: own.unit,
		value: own.value,
		standardUncertainty: own.standardUncertainty,
		repeatability: own.repeatability,
		low: own.interval[0],
		high: own.interval[1]
	};
}

/** What belongs to a reading whatever its revisions say. */
export interface About {
	id: string;
	systemId: string;
	sourceId: string;
	sampleId: string;
	parameter: string;
	takenAt: Date;
	/** How many revisions it has. */
	revisions?: number;
	runId?: string | undefined;
	/** How its steps went in that run. */
	conduct?: Conduct[] | undefined;
	importId?: string;
}

/** A reading as it is stored, beside its revisions. */
export const readingRow = ({ revisions = 1, runId, conduct, importId, ...about }: About) => ({
	...about,
	revision: revisions,
	runId: runId ?? null,
	conduct: conduct ?? null,
	marks: conduct ? marksOf(conduct) : null,
	importId: importId ?? null
});
