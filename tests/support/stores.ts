import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 as uuid } from 'uuid';
import { openOwnDatabase } from '../../scripts/own-mariadb';
import type { Asker } from '../../src/lib/server/identity/asker';
import { closeDatabase, database } from '../../src/lib/server/db/connection';
import { aloneOnDatabase, bringUpToDate, sender } from '../../src/lib/server/db/migrate';
import { user } from '../../src/lib/server/db/schema';
import { loadDemo } from '../../src/lib/server/demo/tanks';
import { installShippedMethods } from '../../src/lib/server/stores/methods';
import { createSystem, sourcesOf } from '../../src/lib/server/stores/systems';

/** Stores on a database of their own with the demo in it, at one moment; `close` takes it all away. */
export async function openStores(now: Date): Promise<{ keeper: Asker; close: () => Promise<void> }> {
	const folder = mkdtempSync(join(tmpdir(), 'tevrik-stores-'));
	const own = await openOwnDatabase(folder);
	process.env['DATABASE_URL'] = own.url;
	process.env['TEVRIK_NOW'] = now.toISOString();
	process.env['TEVRIK_SECRET'] = 'a secret of the tests, long enough for anyone';
	await aloneOnDatabase(own.url, (db) => bringUpToDate('drizzle', sender(db)));
	await installShippedMethods(now);
	await loadDemo();
	const [first] = await database().select().from(user);
	return {
		keeper: { userId: first!.id },
		close: async () => {
			await closeDatabase();
			await own.stop();
			for (const name of ['DATABASE_URL', 'TEVRIK_NOW', 'TEVRIK_SECRET']) delete process.env[name];
			rmSync(folder, { recursive: true, force: true });
		}
	};
}

/** Somebody else with an account and nothing in it. */
export async function newPerson(name: string): Promise<Asker> {
	const userId = uuid();
	const at = new Date();
	await database()
		.insert(user)
		.values({ id: userId, name, email: `${userId}@x.example`, createdAt: at, updatedAt: at });
	return { userId };
}

/** A tank that holds nothing yet, and its water. */
export async function newTank(keeper: Asker): Promise<{ tank: string; water: string }> {
	const tank = uuid();
	await createSystem(again(keeper), {
		id: tank,
		name: `Tank ${tank.slice(-4)}`,
		netVolumeL: 100,
		timeZone: 'Europe/Dublin',
		alkalinity: { lower: 7, upper: 9 }
	});
	const [water] = await sourcesOf(again(keeper), tank);
	return { tank, water: water!.id };
}

/** Askers live for one request; each use is a new one. */
export const again = (asker: Asker): Asker => ({ ...asker });

/** The status with which something was refused; 200 where it was not. */
export const status = (work: Promise<unknown>): Promise<number | undefined> =>
	work.then(
		() => 200,
		(refusal: { status?: number }) => refusal.status
	);
