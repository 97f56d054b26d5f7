import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { now } from '../src/lib/server/clock';
import { aloneOnDatabase, bringUpToDate, sender } from '../src/lib/server/db/migrate';
import { bringReadingsUpToDate } from '../src/lib/server/stores/readings/again';
import { installShippedMethods } from '../src/lib/server/stores/methods';
import { backup } from './backup-file';
import { say } from './failure';
import { secret } from './machine';
import { openOwnDatabase } from './own-mariadb';
import { dataFolder, migrations, newestMigration } from './places';

/** Runs a command on the database, whether a server runs on it or not; what was not running is stopped again. */
export async function withDatabase(work: () => Promise<void>): Promise<void> {
	const folder = dataFolder();
	if (process.env['DATABASE_URL']) {
		if (existsSync(join(folder, 'secret'))) process.env['TEVRIK_SECRET'] ??= secret(join(folder, 'secret'));
		return work();
	}
	const own = await openOwnDatabase(folder);
	process.env['DATABASE_URL'] = own.url;
	process.env['TEVRIK_SECRET'] ??= secret(join(folder, 'secret'));
	try {
		await work();
	} finally {
		if (!own.found) await own.stop();
	}
}

/**
 * The database as this copy needs it, with the methods that come along: one process at a time, with a backup before anything that
 * is kept is changed. `more` is done under the same lock.
 */
export async function bringStoredUpToDate(more: () => Promise<void> = async () => {}): Promise<void> {
	await aloneOnDatabase(process.env['DATABASE_URL']!, async (db) => {
		await bringUpToDate(migrations(), sender(db), backupBefore);
		await installShippedMethods(now());
		const changed = await bringReadingsUpToDate();
		if (changed) say(`computed ${changed} readings again from what was seen: this version reads them better`);
		await more();
	});
}

async function backupBefore(): Promise<void> {
	const folder = join(dataFolder(), 'backups');
	mkdirSync(folder, { recursive: true, mode: 0o700 });
	const file = join(folder, `before-${newestMigration()}-${Date.now()}.backup`);
	say('this version changes how data is kept: backing up what there is first');
	await backup(file);
}
