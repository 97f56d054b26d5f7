import { sql, type SQL } from 'drizzle-orm';
import type { RawReading } from '../../../core/instruments';
import { methodVersion, reading, revision } from './schema';

/**
 * A reading's id as the first column of a query whose tables are joined as they are written (`straight_join`): by what it knows of
 * them the database at times begins with the methods, and reads every keeper's revisions.
 */
export const idAsWritten = sql<string>`straight_join ${reading.id}`;

/** A raw reading with its tag; those stored before there was one are of their method's kind. The query joins both tables. */
export const rawAsTagged = sql`json_insert(${revision.raw}, '$.reads', ${methodVersion.reads})`.mapWith(
	revision.raw
) as SQL<RawReading>;
