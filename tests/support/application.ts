import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { TestProject } from 'vitest/node';
import { tryPort } from '../../scripts/own-mariadb';

declare module 'vitest' {
	interface ProvidedContext {
		origin: string;
	}
}

/** The moment every browser test happens at. */
export const NOW = '2026-05-06T20:10:00Z';

export interface Application {
	origin: string;
	/** The folder of its database and secrets. */
	data: string;
	stop: () => Promise<void>;
	/** Ends it as a power cut would; its database goes on. */
	kill: () => Promise<void>;
}

/**
 * The real application with the demo, on a database and a port of its own; ended and removed after the tests. `now` as in
 * TEVRIK_NOW: a moment, or a file that tells it.
 */
export async function startApplication({
	now = NOW,
	mode = 'demo',
	data = mkdtempSync(join(tmpdir(), 'tevrik-test-')),
	port
}: { now?: string; mode?: 'demo' | 'start'; data?: string; port?: number } = {}): Promise<Application> {
	port ??= await tryPort(0);
	const { DATABASE_URL: _elsewhere, ORIGIN: _other, ...environment } = process.env;
	const child = spawn(process.execPath, [resolve('build/bin/serve.mjs'), mode], {
		env: { ...environment, PORT: String(port), TEVRIK_DATA: data, TEVRIK_NOW: now, TEVRIK_LOG: 'warn' },
		stdio: ['ignore', 'pipe', 'pipe']
	});
	const ended = new Promise<void>((done) => child.once('exit', () => done()));
	await ready(child);
	return {
		origin: `http://127.0.0.1:${port}`,
		data,
		kill: async () => {
			child.kill('SIGKILL');
			await ended;
		},
		stop: async () => {
			child.kill('SIGTERM');
			await ended;
			rmSync(data, { recursive: true, force: true });
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

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
	const application = await startApplication();
	project.provide('origin', application.origin);
	return application.stop;
}
