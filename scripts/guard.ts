import { spawn, type ChildProcess } from 'node:child_process';

/**
 * Processes that end when this one does, however it ends: a process beside it holds the other end of a pipe, and ends them when that
 * closes. For tests and measurements (`TEVRIK_GUARDED`); a server that people use leaves its database running when it crashes.
 */

/** Ends what was named on its input, each by its number and a word of its command line, so that no later process of that number is hit. */
const WATCH = `
const { readFileSync } = require('node:fs');
let said = '';
process.stdin.on('data', (text) => (said += text));
process.stdin.on('end', () => {
	for (const line of said.trim().split('\\n')) {
		const [pid, word] = line.split(' ');
		try {
			if (readFileSync('/proc/' + pid + '/cmdline', 'utf8').includes(word)) process.kill(Number(pid), 'SIGTERM');
		} catch {}
	}
});`;

let guardian: ChildProcess | undefined;

/** A child that is to end with this process, known by a word of its command line. */
export function guard(pid: number | undefined, word: string): void {
	if (!process.env['TEVRIK_GUARDED'] || pid === undefined) return;
	if (!guardian) {
		guardian = spawn(process.execPath, ['-e', WATCH], {
			stdio: ['pipe', 'ignore', 'ignore'],
			detached: true
		});
		guardian.unref();
		(guardian.stdin as unknown as { unref: () => void }).unref();
	}
	guardian.stdin!.write(`${pid} ${word}\n`);
}
