import { DAY, HOUR } from '../../src/core/base';
import { readFileSync } from 'node:fs';
import { v7 as uuid } from 'uuid';
import { normal, uniform } from '../../src/core/simulate';
import type { Application } from '../../tests/support/application';
import { newTank } from '../../tests/support/load';
import type { Person } from '../../tests/support/person';
import { takeIn } from './book';
import type { Row } from './row';

/** Readings of a short book and of a long one, tanks of a keeper of many, and requests to one process. */
const [SHORT, LONG] = [1000, 100_000];
const TANKS = 200;
const [FEW, MANY] = [2000, 20_000];
const ROOMS = ['rack', 'readings', 'bench'];
/** Each room is asked for so often; the median counts. */
const TIMES = 15;

let asked = 0;
/** How long a page takes that is made anew, ms, once what it rests on is known. */
async function timeOf(keeper: Person, path: string): Promise<number> {
	const times: number[] = [];
	for (let i = 0; i < TIMES; i++) {
		const started = performance.now();
		const answer = await keeper.ask(`${path}?n=${asked++}`);
		await answer.text();
		if (!answer.ok) throw new Error(`${path} answered ${answer.status}`);
		times.push(performance.now() - started);
	}
	return times.sort((a, b) => a - b)[TIMES >> 1] ?? NaN;
}

/** Four parameters over the last years, one test a row. */
function sheetOf(rows: number, now: number): string {
	const gauss = normal(uniform(rows));
	const each = Math.min((4 * 365 * DAY) / rows, 6 * HOUR);
	const parameters = [
		['alkalinity', 8.3, 0.2],
		['calcium', 430, 8],
		['magnesium', 1330, 20],
		['nitrate', 8, 1]
	] as const;
	const lines = Array.from({ length: rows }, (_, i) => {
		const [name, level, spread] = parameters[i % parameters.length] ?? parameters[0];
		return `${new Date(now - (rows - i) * each).toISOString()},${name},${(level + spread * gauss()).toPrecision(4)}`;
	});
	return `time,parameter,value\n${lines.join('\n')}\n`;
}

/** Pages over a long book beside those over a short one; all tanks of a keeper of many. */
export async function growth(keeper: Person, now: string): Promise<Row[]> {
	const rows: Row[] = [];
	const [short, long] = [await newTank(keeper, 'Short book'), await newTank(keeper, 'Long book, again')];
	await takeIn(keeper, short, sheetOf(SHORT, Date.parse(now)));
	await takeIn(keeper, long, sheetOf(LONG, Date.parse(now)));
	for (const room of ROOMS) {
		await timeOf(keeper, `/s/${long}/${room}`);
		await timeOf(keeper, `/s/${short}/${room}`);
		const [over, under] = [
			await timeOf(keeper, `/s/${long}/${room}`),
			await timeOf(keeper, `/s/${short}/${room}`)
		];
		rows.push({
			what: `${room} over ${LONG} readings, made anew`,
			measured: `${over.toFixed(0)} ms`,
			against: `${(over / under).toFixed(2)} of over ${SHORT} (goal 1.5)`
		});
	}

	for (let i = 0; i < TANKS; i++) {
		const tank = await newTank(keeper, `Tank ${i}`);
		if (i % 20 === 0) await takeIn(keeper, tank, sheetOf(40, Date.parse(now)));
	}
	const first = performance.now();
	await (await keeper.ask('/tanks')).text();
	const cold = performance.now() - first;
	const known = await timeOf(keeper, '/tanks');
	rows.push({
		what: `all of ${TANKS} tanks`,
		measured: `${known.toFixed(0)} ms`,
		against: `${(known / TANKS).toFixed(2)} ms a tank (goal 2); the first time, with every model to make, ${(cold / 1000).toFixed(1)} s`
	});

	return rows;
}

/** What a server holds after many requests; every fourth is made anew. */
export async function memory(keeper: Person, application: Application): Promise<Row> {
	const { systems } = await keeper.json<{ systems: { id: string }[] }>('/api/v1/systems');
	const tank = systems[0]?.id;
	const held = () =>
		Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${application.pid}/status`, 'utf8'))?.[1]) / 1024;
	const ask = async (times: number) => {
		for (let i = 0; i < times; i += 8)
			await Promise.all(
				Array.from({ length: 8 }, async (_, k) => {
					const room = ROOMS[(i + k) % ROOMS.length] ?? 'rack';
					const answer = await keeper.ask(`/s/${tank}/${room}${k % 4 ? '' : `?id=${uuid()}`}`);
					await answer.arrayBuffer();
				})
			);
	};
	await ask(FEW);
	const few = held();
	await ask(MANY - FEW);
	return {
		what: `memory after ${MANY} requests`,
		measured: `${held().toFixed(0)} MB`,
		against: `${(held() / few).toFixed(2)} of after ${FEW} (goal 1.2)`
	};
}
