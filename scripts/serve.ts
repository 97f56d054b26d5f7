import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { closeDatabase } from '../src/lib/server/db/connection';
import { bringUpToDate } from '../src/lib/server/db/migrate';
import { isEmpty, loadDemo } from '../src/lib/server/demo-store';
import { now } from '../src/lib/server/clock';
import { installShippedMethods } from '../src/lib/server/method-store';
import { Failure, fail, say } from './failure';
import { openOwnDatabase, secret, tryPort, type OwnDatabase } from './own-mariadb';

/** `tevrik demo` and `tevrik start`: the database, its schema, perhaps the demo, then the application until Ctrl-C. */

const HOST = '127.0.0.1';
const PORT = Number(process.env['PORT'] ?? 4173);
const root = resolve(fileURLToPath(import.meta.url), '../../..');
const folder = resolve(process.env['TEVRIK_DATA'] ?? join(root, '.data'));

let own: OwnDatabase | undefined;
let ending = false;

async function main(mode: string): Promise<void> {
	if (!(PORT >= 1 && PORT <= 65535))
		throw new Failure(`PORT must be a number from 1 to 65535, not “${process.env['PORT']}”.`);
	if ((await tryPort(PORT, HOST)) === undefined)
		throw new Failure(
			`Port ${PORT} is taken. Stop what runs there, or choose another: PORT=${PORT + 1} ./tevrik ${mode}`
		);
	mkdirSync(folder, { recursive: true });
	if (!process.env['DATABASE_URL']) {
		refuseSecondStart();
		own = await openOwnDatabase(folder);
		writeFileSync(lock, String(process.pid));
		process.env['DATABASE_URL'] = own.url;
	}
	process.env['TEVRIK_SECRET'] ??= secret(join(folder, 'secret'));
	if (mode === 'demo') process.env['TEVRIK_DEMO'] = '1';
	await bringUpToDate(join(root, 'drizzle'));
	await installShippedMethods(now());
	if (mode === 'demo' && (await isEmpty())) {
		say('loading the demo: months of a boathouse and its two tanks');
		await loadDemo();
	}
	process.env['PORT'] = String(PORT);
	// Books and sheets are long; letters say their own limit.
	process.env['BODY_SIZE_LIMIT'] ??= '400M';
	process.env['HOST'] = HOST;
	process.env['ORIGIN'] ??= `http://${HOST}:${PORT}`;
	// The bundled server listens as soon as it is imported, and ends in order on SIGTERM and Ctrl-C.
	await import('../app/index.js' as string);
	say(`ready at ${process.env['ORIGIN']} (Ctrl-C ends it)`);
	lookAfter();
	process.on('sveltekit:shutdown', () => void end());
}

/** How often the database is looked after, ms. */
const LOOK = 500;

/** A database of our own that dies is started again: what was acknowledged is on its disk. */
function lookAfter(): void {
	let opening = false;
	setInterval(() => {
		if (!own || opening || ending || isAlive(own.pid)) return;
		opening = true;
		say('the database has died; starting it again');
		openOwnDatabase(folder)
			.then(
				(again) => (own = again),
				(error: unknown) => say(`it did not start: ${(error as Error).message}`)
			)
			.finally(() => (opening = false));
	}, LOOK).unref();
}
function isAlive(pid: number): boolean {
	try {
		process.kill(pid, 0);
		return true;
	} catch {
		return false;
	}
}

const lock = join(folder, 'running');

/** Two servers on one data folder would fight over it. */
function refuseSecondStart(): void {
	if (!existsSync(lock)) return;
	const pid = Number(readFileSync(lock, 'utf8'));
	if (pid !== process.pid && isTevrik(pid))
		throw new Failure(
			`Tevrik already runs on this data (process ${pid}). Use it, stop it, or set TEVRIK_DATA to another folder.`
		);
}

function isTevrik(pid: number): boolean {
	try {
		return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('serve.mjs');
	} catch {
		return false;
	}
}

async function end(): Promise<void> {
	ending = true;
	await closeDatabase();
	if (own) {
		say('stopping the database');
		await own.stop();
		rmSync(lock, { force: true });
	}
	say('ended');
}

try {
	await main(process.argv[2] ?? 'start');
} catch (error) {
	await closeDatabase().catch(() => undefined);
	await own?.stop();
	fail(error);
}
