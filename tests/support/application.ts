import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { tryPort } from '../../scripts/machine';

/** The moment every browser test happens at. */
export const NOW = '2026-05-06T20:10:00Z';

export interface Application {
	origin: string;
	/** The folder of its database and secrets. */
	data: string;
	pid: number;
	/** What it wrote so far: its log. */
	said: () => string;
	stop: () => Promise<void>;
	/** Ends it as a power cut would; its database goes on. */
	kill: () => Promise<void>;
}

type Mode = 'demo' | 'start';
interface Options {
	/** As in TEVRIK_NOW: a moment, or a file that tells it. */
	now?: string;
	mode?: Mode;
	data?: string;
	port?: number;
	/** The name it is reached by. */
	host?: string;
	environment?: Record<string, string>;
}

/** The real application, with the demo or new, on a database and a port of its own; ended and removed after the tests. */
export async function startApplication(options: Options = {}): Promise<Application> {
	const { now = NOW, mode = 'demo' } = options;
	const data = options.data ?? mkdtempSync(join(tmpdir(), 'tevrik-test-'));
	if (!options.data && now === NOW) execFileSync('cp', ['-a', `${await firstDay(mode)}/.`, data]);
	return run({ ...options, now, mode, data });
}

const KEPT = 'tevrik-first-day-';
/**
 * The data folder of an application that has been started once, at `NOW`: made by the first test that asks for it since the
 * last build, and copied for the others, so that not each has to make the same database.
 */
async function firstDay(mode: Mode): Promise<string> {
	const built = [...['build/made', 'build/bin/serve.mjs'].map((file) => statSync(file).mtimeMs)].join('-');
	const name = `${KEPT}${mode}-${built}`;
	const kept = join(tmpdir(), name);
	if (isFolder(kept)) return kept;
	const making = mkdtempSync(join(tmpdir(), 'tevrik-test-'));
	const application = await run({ now: NOW, mode, data: making });
	await application.end();
	for (const own of ['database-port', 'running']) rmSync(join(making, own), { force: true });
	for (const old of readdirSync(tmpdir()))
		if (old.startsWith(`${KEPT}${mode}-`) && old !== name)
			rmSync(join(tmpdir(), old), { recursive: true, force: true });
	try {
		renameSync(making, kept);
	} catch {
		// Another was quicker.
		rmSync(making, { recursive: true, force: true });
	}
	return kept;
}
const isFolder = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isDirectory() === true;

async function run({
	now,
	mode,
	data,
	port,
	host = '127.0.0.1',
	environment: more = {}
}: Options & { now: string; mode: Mode; data: string }): Promise<Application & { end: () => Promise<void> }> {
	port ??= await tryPort(0);
	mkdirSync(data, { recursive: true });
	const { DATABASE_URL: _elsewhere, ORIGIN: _other, TEVRIK_GUARDED: _ours, ...environment } = process.env;
	const child = spawn(process.execPath, [resolve('build/bin/serve.mjs'), mode], {
		env: {
			...environment,
			PORT: String(port),
			ORIGIN: `http://${host}:${port}`,
			TEVRIK_DATA: data,
			TEVRIK_NOW: now,
			TEVRIK_LOG: 'warn',
			TEVRIK_ENDS_WITH_PARENT: '1',
			...more
		},
		// Its input stays open as long as this process lives.
		stdio: ['pipe', 'pipe', 'pipe']
	});
	const ended = new Promise<void>((done) => child.once('exit', () => done()));
	let said = '';
	for (const stream of [child.stdout, child.stderr])
		stream?.on('data', (chunk: Buffer) => (said = (said + String(chunk)).slice(-2_000_000)));
	await ready(child);
	const end = async () => {
		child.kill('SIGTERM');
		await ended;
	};
	return {
		origin: `http://${host}:${port}`,
		data,
		pid: child.pid!,
		said: () => said,
		end,
		kill: async () => {
			child.kill('SIGKILL');
			await ended;
		},
		stop: async () => {
			await end();
			// A database that is going still writes for a moment.
			rmSync(data, { recursive: true, force: true, maxRetries: 10, retryDelay: 200 });
		}
	};
}

/** Waits until the server says it is ready; fails with all it said where it ends instead. */
function ready(child: ChildProcess): Promise<void> {
	return new Promise((done, failed) => {
		let said = '';
		const listen = (chunk: Buffer) => {
			said += String(chunk);
			if (said.includes('ready at')) done();
		};
		child.stdout?.on('data', listen);
		child.stderr?.on('data', listen);
		child.once('exit', (code) => failed(new Error(`the application ended (${code}): ${said}`)));
	});
}
