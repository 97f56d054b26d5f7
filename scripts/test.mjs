/**
 * `tevrik test`: types and lint beside each other, then unit tests, then tests of pages and of the server beside each other. One
 * line at the end counts all tests, and each check that failed as one more failure. `--cluster`: only those of several machines.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const run = (title, command, ...args) =>
	new Promise((done) => {
		const started = Date.now();
		const child = spawn(command, args, {
			stdio: ['ignore', 'pipe', 'pipe'],
			env: { ...process.env, NO_COLOR: '1' }
		});
		let said = '';
		child.stdout.on('data', (chunk) => (said += chunk));
		child.stderr.on('data', (chunk) => (said += chunk));
		child.on('close', (code) => {
			console.log(
				`${code === 0 ? 'ok    ' : 'FAILED'} ${title} (${Math.round((Date.now() - started) / 1000)} s)`
			);
			if (code !== 0) console.log(said);
			done({ title, code, said });
		});
	});

const folder = mkdtempSync(join(tmpdir(), 'tevrik-results-'));
const vitest = async (project) => {
	const file = join(folder, `${project}.json`);
	const result = await run(
		`${project} tests`,
		'npx',
		'vitest',
		'run',
		'--project',
		project,
		'--reporter=default',
		'--reporter=json',
		`--outputFile.json=${file}`
	);
	let passed = 0;
	let failed = 0;
	try {
		const counted = JSON.parse(readFileSync(file, 'utf8'));
		passed = counted.numPassedTests;
		failed = counted.numFailedTests + counted.numPendingTests;
	} catch {
		// Nothing was counted: the run itself failed.
	}
	if (result.code === 0)
		for (const line of result.said.match(/^measured: .*$/gm) ?? []) console.log(`       ${line}`);
	return { passed, failed: failed || (result.code === 0 && passed > 0 ? 0 : 1) };
};
const check = async (...command) => ({ passed: 0, failed: (await run(...command)).code === 0 ? 0 : 1 });

const counts = [];
if (process.argv.includes('--cluster')) counts.push(await vitest('cluster'));
else {
	counts.push(
		...(await Promise.all([
			check('types', 'npm', 'run', '--silent', 'check'),
			check('lint', 'npm', 'run', '--silent', 'lint')
		]))
	);
	counts.push(await vitest('unit'));
	// Pages wait for the browser, servers for the disk: beside each other they keep both cores busy.
	counts.push(...(await Promise.all([vitest('pages'), vitest('server')])));
}
rmSync(folder, { recursive: true, force: true });

const sum = (key) => counts.reduce((total, c) => total + c[key], 0);
console.log(`${sum('passed')} passed, ${sum('failed')} failed`);
process.exitCode = sum('failed') === 0 ? 0 : 1;
