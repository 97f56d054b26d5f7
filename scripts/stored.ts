import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openOwnDatabase, secret } from './own-mariadb';

const root = resolve(fileURLToPath(import.meta.url), '../../..');
/** Where this copy keeps its data. */
export const dataFolder = (): string => resolve(process.env['TEVRIK_DATA'] ?? join(root, '.data'));
export const migrations = (): string => join(root, 'drizzle');

/** Runs a command on the database, whether a server runs on it or not; what was not running is stopped again. */
export async function withDatabase(work: () => Promise<void>): Promise<void> {
	const folder = dataFolder();
	if (process.env['DATABASE_URL']) return work();
	const own = await openOwnDatabase(folder);
	process.env['DATABASE_URL'] = own.url;
	process.env['TEVRIK_SECRET'] ??= secret(join(folder, 'secret'));
	try {
		await work();
	} finally {
		if (!own.found) await own.stop();
	}
}

/** The newest migration this copy knows, as it is kept in the database. */
export function newestMigration(): number {
	const journal = join(migrations(), 'meta', '_journal.json');
	if (!existsSync(journal)) throw new Error(`${journal} is missing`);
	const { entries } = JSON.parse(readFileSync(journal, 'utf8')) as { entries: { when: number }[] };
	return Math.max(...entries.map((e) => e.when));
}
