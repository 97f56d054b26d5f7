import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Failure } from './failure';

/** What the commands ask of the machine they run on: ports, processes, programs, files that only their owner reads. */

/** A secret made once and kept where only its owner reads it. */
export function secret(file: string): string {
	try {
		// Of several that start at once one makes it.
		writeFileSync(file, randomBytes(24).toString('hex'), { mode: 0o600, flag: 'wx' });
	} catch (error) {
		if ((error as { code?: string }).code !== 'EEXIST') throw error;
	}
	return readFileSync(file, 'utf8').trim();
}

/** The port of last time if it is free, else a free one, remembered. */
export async function rememberedPort(file: string): Promise<number> {
	const before = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
	const port = (await tryPort(before)) ?? (await tryPort(0))!;
	writeFileSync(file, String(port));
	return port;
}

/** The port itself where it can be listened on (0: any), or undefined. */
export const tryPort = (port: number, host = '127.0.0.1'): Promise<number | undefined> =>
	new Promise((done) => {
		const server = createServer();
		server.once('error', () => done(undefined));
		server.listen(port, host, () => {
			const { port: got } = server.address() as { port: number };
			server.close(() => done(got));
		});
	});

/** Where a program of Debian's lies. */
export function find(program: string): string {
	for (const folder of [...(process.env['PATH'] ?? '').split(':'), '/usr/sbin', '/usr/local/sbin'])
		if (existsSync(join(folder, program))) return join(folder, program);
	throw new Failure(
		`${program} is not on this machine. As root, ./tevrik installs it; otherwise ask for Debian's package that holds it, or, for the database, set DATABASE_URL to one elsewhere.`
	);
}

/** Whether a process of that number runs. */
export function isAlive(pid: number): boolean {
	try {
		process.kill(pid, 0);
		return true;
	} catch {
		return false;
	}
}

export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));
