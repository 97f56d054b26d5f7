import { sql } from 'drizzle-orm';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { database, errnoOf } from './connection';

const NO_SUCH_TABLE = 1146;

/** Brings the database to this version of Tevrik. Throws a sentence where it belongs to a newer one. */
export async function bringUpToDate(folder: string): Promise<void> {
	const db = database();
	const journal = JSON.parse(readFileSync(join(folder, 'meta', '_journal.json'), 'utf8')) as {
		entries: { when: number }[];
	};
	const newestKnown = Math.max(...journal.entries.map((e) => e.when));
	const applied = await db
		.execute(sql`select max(created_at) as newest from __drizzle_migrations`)
		.then(([rows]) => Number((rows as unknown as { newest: string | null }[])[0]?.newest ?? 0))
		.catch((failure: unknown) => {
			if (errnoOf(failure) === NO_SUCH_TABLE) return 0;
			throw failure;
		});
	if (applied > newestKnown) throw new NewerDatabase();
	await migrate(db, { migrationsFolder: folder });
}

export class NewerDatabase extends Error {
	constructor() {
		super(
			'This database was last used by a newer Tevrik than this one. Update this copy (git pull), or point DATABASE_URL or TEVRIK_DATA at other data.'
		);
	}
}
