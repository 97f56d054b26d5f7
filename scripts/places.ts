import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = resolve(fileURLToPath(import.meta.url), '../../..');
/** Where this copy keeps its data. */
export const dataFolder = (): string => resolve(process.env['TEVRIK_DATA'] ?? join(root, '.data'));
export const migrations = (): string => join(root, 'drizzle');

/** The newest migration this copy knows, as it is kept in the database. */
export function newestMigration(): number {
	const journal = join(migrations(), 'meta', '_journal.json');
	if (!existsSync(journal)) throw new Error(`${journal} is missing`);
	const { entries } = JSON.parse(readFileSync(journal, 'utf8')) as { entries: { when: number }[] };
	return Math.max(...entries.map((e) => e.when));
}
