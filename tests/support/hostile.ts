import { request as httpRequest } from 'node:http';
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Application } from './application';
import { until } from './load';

/** For `startApplication`: a server that tells how late its event loop is. */
export const PROBED = {
	NODE_OPTIONS: `--import ${pathToFileURL(resolve('tests/support/loop-delay.mjs')).href}`
};
interface Probe {
	/** Of the event loop since the last question, ms. */
	loopDelay: { p99: number; most: number };
	/** Resident, bytes. */
	memory: number;
}
/** Asks a probed server. */
export async function probe({ pid, said }: Pick<Application, 'pid' | 'said'>): Promise<Probe> {
	const told = () => said().match(/^\{"loopDelay".*$/gm) ?? [];
	const before = told().length;
	process.kill(pid, 'SIGUSR2');
	await until('the answer of the probe', () => told().length > before, 10_000);
	return JSON.parse(told().at(-1)!) as Probe;
}

/** Letters that cost their sender little and a careless server much: each is answered with a refusal or a result. */
export const DEAR: [path: string, body: string][] = [
	[
		'trend',
		JSON.stringify({ parameter: 'alkalinity', unit: 'dKH', readings: Array(4000).fill(1), now: 'x' })
	],
	['trend', JSON.stringify(Object.fromEntries(Array.from({ length: 20_000 }, (_, n) => [`k${n}`, n])))],
	[
		'trend',
		JSON.stringify({
			parameter: 'alkalinity',
			unit: 'dKH',
			band: { lower: 7, upper: 9 },
			now: '2026-05-06T20:00:00Z',
			readings: Array.from({ length: 3000 }, (_, n) => ({
				at: new Date(Date.UTC(2020, 0, 1, 12 * n)).toISOString(),
				value: 8 + Math.sin(n / 9),
				standardUncertainty: 0.1
			}))
		})
	],
	[
		'bench',
		JSON.stringify({
			effort: 60_000,
			tests: Array.from({ length: 12 }, (_, n) => ({
				id: `t${n}`,
				steps: [
					{ label: 'shake', hands: 40 + 7 * n, then: { wait: 200 + 31 * n } },
					{ label: 'read', hands: 30 }
				]
			}))
		})
	],
	['quick', JSON.stringify({ text: 'kh 8,2 '.repeat(2400) })],
	['chart', `{"a":${'['.repeat(50_000)}${']'.repeat(50_000)}}`],
	['convert', JSON.stringify({ quantity: 'x'.repeat(500_000) })]
];

/** Strangers who send those as fast as they are answered, each from a place of its own, until `stop`. */
export function flood(origin: string, strangers: number): { stop: () => Promise<Record<number, number>> } {
	const statuses: Record<number, number> = {};
	let going = true;
	const one = async (who: number) => {
		for (let n = who; going; n++) {
			const [name, body] = DEAR[n % DEAR.length]!;
			const answer = await fetch(`${origin}/api/v1/calc/${name}`, {
				method: 'POST',
				headers: { 'content-type': 'application/json', 'x-forwarded-for': `10.${who}.${n % 200}.9` },
				body
			}).catch(() => undefined);
			await answer?.text();
			const status = answer?.status ?? 0;
			statuses[status] = (statuses[status] ?? 0) + 1;
		}
	};
	const all = Array.from({ length: strangers }, (_, who) => one(who));
	return {
		stop: async () => {
			going = false;
			await Promise.all(all);
			return statuses;
		}
	};
}

/** Offers a body of so many bytes without saying how long it is; the answer, and how much was taken off our hands. */
export function offer(
	url: string,
	headers: Record<string, string>,
	bytes: number,
	text: string
): Promise<{ status: number; said: string; sent: number; closed: boolean }> {
	return new Promise((done) => {
		let sent = 0;
		let over = false;
		const request = httpRequest(url, { method: 'POST', headers, agent: false }, (answer) => {
			let said = '';
			answer.on('data', (chunk) => (said += String(chunk)));
			answer.once('close', () => {
				over = true;
				done({ status: answer.statusCode!, said, sent, closed: answer.headers.connection === 'close' });
				request.destroy();
			});
		});
		request.on('error', () => !over && done({ status: 0, said: '', sent, closed: true }));
		const piece = text.repeat(Math.ceil(65_536 / text.length));
		const more = () => {
			while (!over && sent < bytes) {
				sent += piece.length;
				if (!request.write(piece)) return void request.once('drain', more);
			}
			if (!over) request.end();
		};
		more();
	});
}
