import { sql } from 'drizzle-orm';
import { reading } from './schema';

/**
 * A reading's id as the first column of a query whose tables are joined as they are written (`straight_join`): by what it knows of
 * them the database at times begins with the methods, and reads every keeper's revisions.
 */
export const idAsWritten = sql<string>`straight_join ${reading.id}`;
