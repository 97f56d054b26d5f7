/**
 * `tevrik test`: two jobs at a time, so that both cores are busy and none is fought over. One line at the end counts all tests,
 * and each check that failed as one more failure. `--quick`: types, lint and unit tests without simulations. `--cluster`: only those of
 * several machines.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';

/** Tests that are named at the end, the slowest first. */
const SLOWEST = 20;
/** Lines that each failure has at the end. */
const REASON_LINES = 12;
/** The unit tests that take long: they try something thousands of times. */
const SIMULATIONS = [
	'src/core/adjust/plan/hard.test.ts',
	'src/core/adjust/plan/programme.test.ts',
	'src/core/colour/colour.test.ts',
	'src/core/picture/plunger.test.ts',
	'src/core/practice/practice.test.ts',
	'src/core/schedule/bench.test.ts',
	'src/core/simulate/corrected.test.ts',
	'src/core/misreadings/questions.test.ts',
	'src/core/trend/months.test.ts',
	'src/core/trend/tank.test.ts',
	'src/core/trend/trend.test.ts'
];

/** What runs now, each with all that it has started: it ends with this process. */
const running = new Set();
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
	process.on(signal, () => {
		for (const child of running)
			try {
				process.kill(-child.pid, 'SIGTERM');
			} catch {
				// It has just ended.
			}
		process.exit(130);
	});

const run = (title, command, ...args) =>
	new Promise((done) => {
		const started = Date.now();
		const child = spawn(command, args, {
			stdio: ['ignore', 'pipe', 'pipe'],
			env: { ...process.env, NO_COLOR: '1' },
			// A group of its own, so that all of it can be ended.
			detached: true
		});
		running.add(child);
		let said = '';
		child.stdout.on('data', (chunk) => (said += chunk));
		child.stderr.on('data', (chunk) => (said += chunk));
		child.on('close', (code) => {
			running.delete(child);
			console.log(
				`${code === 0 ? 'ok    ' : 'FAILED'} ${title} (${Math.round((Date.now() - started) / 1000)} s)`
			);
			if (code !== 0) console.log(said);
			done({ title, code, said });
		});
	});

const folder = mkdtempSync(join(tmpdir(), 'tevrik-results-'));
/** What took how long: [s, test]. */
const times = [];
/** Each test that failed: [test, why]. They are told again at the end, where whoever reads looks first. */
const failures = [];
const vitest = async (project, ...more) => {
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
		`--outputFile.json=${file}`,
		...more
	);
	let passed = 0;
	let failed = 0;
	try {
		const counted = JSON.parse(readFileSync(file, 'utf8'));
		passed = counted.numPassedTests;
		failed = counted.numFailedTests + counted.numPendingTests;
		for (const { name, assertionResults } of counted.testResults)
			for (const { duration, fullName, failureMessages } of assertionResults) {
				const test = `${relative(process.cwd(), name)}: ${fullName}`;
				times.push([(duration ?? 0) / 1000, test]);
				if (failureMessages?.length) failures.push([test, failureMessages.join('\n')]);
			}
	} catch {
		// Nothing was counted: the run itself failed.
	}
	if (result.code === 0)
		for (const line of result.said.match(/^measured: .*$/gm) ?? []) console.log(`       ${line}`);
	return { passed, failed: failed || (result.code === 0 && passed > 0 ? 0 : 1) };
};
const check = async (...command) => ({ passed: 0, failed: (await run(...command)).code === 0 ? 0 : 1 });
const types = () => check('types', 'npm', 'run', '--silent', 'check');
const lint = () => check('lint', 'npm', 'run', '--silent', 'lint');

/** Jobs in turn, two at a time: whoever is free takes the next. */
const LANES = 2;
const inLanes = async (jobs) => {
	const counts = [];
	const lane = async () => {
		for (let job = jobs.shift(); job; job = jobs.shift()) counts.push(await job());
	};
	await Promise.all(Array.from({ length: LANES }, lane));
	return counts;
};

const [mode] = process.argv.slice(2);
const without = SIMULATIONS.flatMap((file) => ['--exclude', file]);
// The longest first, so that both lanes end together.
const counts = await inLanes(
	mode === '--cluster'
		? [() => vitest('cluster')]
		: mode === '--quick'
			? [types, () => vitest('unit', ...without), lint]
			: [() => vitest('pages'), () => vitest('server'), () => vitest('unit'), types, lint]
);
rmSync(folder, { recursive: true, force: true });

if (mode !== '--quick') {
	console.log('slowest:');
	for (const [seconds, test] of times.sort((a, b) => b[0] - a[0]).slice(0, SLOWEST))
		console.log(`  ${seconds.toFixed(1).padStart(6)} s  ${test}`);
}
for (const [test, why] of failures)
	console.log(`FAILED ${test}\n${why.split('\n').slice(0, REASON_LINES).join('\n')}`);
const sum = (key) => counts.reduce((total, c) => total + c[key], 0);
console.log(`${sum('passed')} passed, ${sum('failed')} failed`);
process.exitCode = sum('failed') === 0 ? 0 : 1;
