import { createInterface } from 'node:readline';
import { calculate, parseJson, readyFor } from '../src/lib/server/calculate';
import type { Outcome } from '../src/core/base';

/** `tevrik calc NAME [--lines]`: a request on standard input, its result on standard output; exit 0, or 2 with problems. */
async function main(): Promise<number> {
	const [name, ...flags] = process.argv.slice(2);
	if (!name || flags.some((f) => f !== '--lines')) {
		process.stderr.write('Write: ./tevrik calc NAME [--lines] < request.json\n');
		return 2;
	}
	await readyFor(name);
	const answer = (text: string): Outcome<unknown> => {
		const request = parseJson(text);
		return request.ok ? calculate(name, request.value) : request;
	};
	if (!flags.includes('--lines')) {
		const chunks: Buffer[] = [];
		for await (const chunk of process.stdin) chunks.push(chunk as Buffer);
		return print(answer(Buffer.concat(chunks).toString('utf8')));
	}
	let code = 0;
	for await (const line of createInterface({ input: process.stdin }))
		if (line.trim()) code = Math.max(code, print(answer(line)));
	return code;
}

function print(outcome: Outcome<unknown>): number {
	const said = outcome.ok ? outcome.value : { error: 'invalid', problems: outcome.problems };
	process.stdout.write(`${JSON.stringify(said)}\n`);
	return outcome.ok ? 0 : 2;
}

process.exitCode = await main();
