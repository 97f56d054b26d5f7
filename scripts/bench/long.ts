import { spawn } from 'node:child_process';
import type { Row } from './row';

/** Runs tests at their full length and gives what they measured, a row a line of theirs; an error where one fails. */
export function measuredBy(...args: string[]): Promise<Row[]> {
	return new Promise((done, failed) => {
		const child = spawn('npx', ['vitest', 'run', ...args], {
			stdio: ['ignore', 'pipe', 'pipe'],
			env: { ...process.env, NO_COLOR: '1', TEVRIK_LONG: '1' }
		});
		let said = '';
		for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += String(text)));
		child.once('close', (code) => {
			if (code !== 0) return failed(new Error(said.slice(-3000)));
			done(
				[...said.matchAll(/^measured: ([^:]+): (.*)$/gm)].map(([, what, measured]) => ({
					what: what!,
					measured: '',
					against: measured!
				}))
			);
		});
	});
}
