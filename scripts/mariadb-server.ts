import { MINUTE } from '../src/core/base';
import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import {
	chmodSync,
	existsSync,
	mkdirSync,
	mkdtempSync,
	readFileSync,
	rmSync,
	statfsSync,
	writeFileSync
} from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { join, resolve } from 'node:path';
import { createConnection, type Connection } from 'mysql2/promise';
import { Failure, say } from './failure';
import { guard } from './guard';
import { find, isAlive, pause } from './machine';

/** A fresh data directory takes 120 MB; below this much free space MariaDB fails in odd ways. Bytes. */
const LEAST_FREE_SPACE = 300e6;
/** Sockets have a path limit of about 108 characters. */
const LONGEST_SOCKET_PATH = 100;
/** How long a server may take to come up or to go (crash recovery included), ms. */
const PATIENCE = MINUTE;
/** Tevrik's database and its user have this name. */
export const NAME = 'tevrik';

/** Where the files of one MariaDB server lie. */
export interface Home {
	folder: string;
	datadir: string;
	/** A server that starts clears what it takes for leftovers of its own: two in one folder take each other's tables away. */
	temporary: string;
	socket: string;
	errorLog: string;
	/** Whom it runs as; undefined: as whoever starts it. */
	account: string | undefined;
}

/** The files of a MariaDB server below `folder`, made where there are none. Runs as root or as a plain user. */
export function serverHome(folder: string): Home {
	const home = resolve(folder);
	mkdirSync(home, { recursive: true, mode: 0o755 });
	const space = statfsSync(home);
	if (space.bavail * space.bsize < LEAST_FREE_SPACE)
		throw new Failure(
			`The disk is nearly full: MariaDB needs ${LEAST_FREE_SPACE / 1e6} MB free under ${home}. Free some space and start again.`
		);
	const datadir = join(home, 'mariadb');
	const account = serverAccount(home);
	const folderOf = (path: string) => {
		mkdirSync(path, { mode: 0o700 });
		if (account) execFileSync('chown', [account, path]);
	};
	const temporary = join(home, 'mariadb-tmp');
	if (!existsSync(temporary)) folderOf(temporary);
	if (!existsSync(join(datadir, 'mysql'))) {
		say('making a database of its own');
		rmSync(datadir, { recursive: true, force: true });
		folderOf(datadir);
		install(datadir, temporary, account);
	}
	return {
		folder: home,
		datadir,
		temporary,
		socket: socketPath(home),
		errorLog: join(datadir, 'tevrik.err'),
		account
	};
}

/** Where servers listen that are not told otherwise. */
export const LOOPBACK = '127.0.0.1';

/** What every server of ours is started with: loopback only, nothing from the machine's own settings. */
const settings = (home: Home, port: number): string[] => [
	'--no-defaults',
	`--datadir=${home.datadir}`,
	`--tmpdir=${home.temporary}`,
	`--socket=${home.socket}`,
	`--port=${port}`,
	`--pid-file=${pidFile(home)}`,
	`--log-error=${home.errorLog}`,
	`--bind-address=${LOOPBACK}`,
	'--skip-name-resolve',
	'--character-set-server=utf8mb4',
	'--collation-server=utf8mb4_unicode_ci',
	'--default-time-zone=+00:00',
	...(home.account ? [`--user=${home.account}`] : [])
];
const pidFile = (home: Home): string => join(home.datadir, 'tevrik.pid');
/** The number under which a server that runs said it runs. */
export const pidOf = (home: Home): number => Number(readFileSync(pidFile(home), 'utf8'));

/** Starts the server, by a program before it where one is named, and waits until it answers; its process number. */
export async function startServer(
	home: Home,
	port: number,
	more: string[] = [],
	within: string[] = []
): Promise<number> {
	// A group of its own, so that Ctrl-C reaches the application first, which then stops it in order.
	const [program, ...given] = [...within, find('mariadbd'), ...settings(home, port), ...more];
	const child = spawn(program!, given, { stdio: 'ignore', detached: true });
	guard(child.pid, 'mariadbd');
	await answering(home, child);
	return child.pid!;
}

/** Runs the server for one question about its files, and gives all it wrote. */
export function askServer(home: Home, more: string[]): string {
	const log = join(home.datadir, 'asked.err');
	rmSync(log, { force: true });
	spawnSync(find('mariadbd'), [...settings(home, 0), `--log-error=${log}`, ...more]);
	return existsSync(log) ? readFileSync(log, 'utf8') : '';
}

/** Makes Tevrik's database, and lets its user in with the password from an address. */
export async function letIn(home: Home, password: string, from = LOOPBACK): Promise<void> {
	const root = await connectAsRoot(home);
	await root.query(`CREATE DATABASE IF NOT EXISTS ${NAME}`);
	await root.query(`CREATE USER IF NOT EXISTS ${NAME}@'${from}' IDENTIFIED BY '${password}'`);
	await root.query(`SET PASSWORD FOR ${NAME}@'${from}' = PASSWORD('${password}')`);
	await root.query(`GRANT ALL ON ${NAME}.* TO ${NAME}@'${from}'`);
	await root.end();
}

export const connectAsRoot = ({ socket: socketPath }: Home): Promise<Connection> =>
	createConnection({
		socketPath,
		user: userInfo().uid === 0 ? 'root' : userInfo().username,
		connectTimeout: 5_000
	}).catch(() => createConnection({ socketPath, user: 'root', connectTimeout: 5_000 }));

/** MariaDB declines to run as root: then it runs as mysql, where that account can reach the folder. */
function serverAccount(home: string): string | undefined {
	if (userInfo().uid !== 0) return undefined;
	const reaches = spawnSync('runuser', ['-u', 'mysql', '--', 'test', '-x', home]).status === 0;
	return reaches ? 'mysql' : 'root';
}

function install(datadir: string, temporary: string, account: string | undefined): void {
	const made = spawnSync(
		find('mariadb-install-db'),
		[
			'--no-defaults',
			`--datadir=${datadir}`,
			`--tmpdir=${temporary}`,
			'--auth-root-authentication-method=socket',
			`--auth-root-socket-user=${userInfo().username}`,
			'--skip-test-db',
			...(account ? [`--user=${account}`] : [])
		],
		{ encoding: 'utf8' }
	);
	if (made.status !== 0)
		throw new Failure(
			`MariaDB could not make its files in ${datadir}: ${lastLines(made.stderr || made.stdout)}`
		);
}

function socketPath(home: string): string {
	const near = join(home, 'mariadb', 's.sock');
	if (near.length <= LONGEST_SOCKET_PATH) return near;
	const note = join(home, 'socket-folder');
	if (!existsSync(note) || !existsSync(readFileSync(note, 'utf8'))) {
		const folder = mkdtempSync(join(tmpdir(), 'tevrik-'));
		chmodSync(folder, 0o777);
		writeFileSync(note, folder);
	}
	return join(readFileSync(note, 'utf8'), 's.sock');
}

async function answering(home: Home, child: ChildProcess): Promise<void> {
	const { errorLog } = home;
	const end = Date.now() + PATIENCE;
	while (Date.now() < end) {
		if (child.exitCode !== null || child.signalCode !== null) {
			const log = existsSync(errorLog) ? readFileSync(errorLog, 'utf8') : '';
			if (/no space left|disk full|errno: 28/i.test(log))
				throw new Failure('MariaDB did not start: the disk is full. Free some space and start again.');
			throw new Failure(`MariaDB did not start. Its last words: ${lastLines(log)}`);
		}
		const connection = await connectAsRoot(home).catch(() => undefined);
		if (connection) return connection.end();
		await pause(50);
	}
	throw new Failure(`MariaDB did not answer within ${PATIENCE / 1000} s. Its log is ${errorLog}.`);
}

/** Asks the server to end in order and waits for it. */
export async function stopServer(pid: number): Promise<void> {
	const end = Date.now() + PATIENCE;
	if (isAlive(pid)) process.kill(pid, 'SIGTERM');
	while (isAlive(pid) && Date.now() < end) await pause(30);
}

const lastLines = (text: string) => text.trim().split('\n').slice(-3).join(' / ').slice(-400);
