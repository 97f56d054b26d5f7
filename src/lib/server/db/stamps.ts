import { randomInt } from 'node:crypto';
import { sql } from 'drizzle-orm';
import type { Connection } from './connection';
import { stamp } from './schema';

/** Below 2^48, so that a double holds it. */
const MOST = 2 ** 48 - 1;

/**
 * Gives tanks or people, by their ids, another stamp: every writer does this last in its transaction, so that the lock on it is
 * held for a moment only, and in one order, so that two writers never wait for each other.
 */
export async function touch(db: Connection, ids: string[]): Promise<void> {
	if (!ids.length) return;
	await db
		.insert(stamp)
		.values([...new Set(ids)].sort().map((id) => ({ id, value: randomInt(MOST) })))
		.onDuplicateKeyUpdate({ set: { value: sql`values(${stamp.value})` } });
}
