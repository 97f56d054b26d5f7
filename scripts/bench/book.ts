import { MINUTE } from '../../src/core/base';
import { Readable } from 'node:stream';
import type { Browser } from 'puppeteer-core';
import { v7 as uuid } from 'uuid';
import type { ImportProgress } from '../../src/lib/api/imports';
import { understand } from '../../src/lib/sheets/parse';
import { normal, uniform } from '../../src/core/simulate';
import { DESK, newDevice, visit } from '../../tests/support/browser';
import { newTank } from '../../tests/support/load';
import { databaseOf, type Person } from '../../tests/support/person';
import type { Row } from './row';

/** Takes a sheet in as the page does, and says how long it took, ms. */
export async function takeIn(keeper: Person, tank: string, text: string): Promise<number> {
	const { separator, layout } = understand(text);
	const { doubts: _doubts, sense: _sense, ...plain } = layout;
	const form = new FormData();
	form.set('choice', JSON.stringify({ id: uuid(), name: 'bench.csv', separator, layout: plain }));
	form.set('file', new Blob([text]), 'bench.csv');
	const started = performance.now();
	const answer = await keeper.ask(`/api/v1/systems/${tank}/imports`, { method: 'POST', body: form });
	const last = JSON.parse((await answer.text()).trim().split('\n').at(-1)!) as ImportProgress;
	if (last.kind !== 'done' || last.added === 0)
		throw new Error(`nothing was taken in: ${JSON.stringify(last)}`);
	return performance.now() - started;
}

const ROWS = 100_000;
/** Readings for the page of a long book. */
const MINUTES = 21;

/** A sheet of one test a row, over some years. */
function longSheet(): string {
	const gauss = normal(uniform(11));
	const lines = ['time,parameter,value'];
	const from = Date.parse('2020-01-01T00:00:00Z');
	const parameters = [
		['alkalinity', 8.3, 0.2],
		['calcium', 430, 8],
		['magnesium', 1330, 20],
		['nitrate', 8, 1]
	] as const;
	for (let i = 0; i < ROWS; i++) {
		const [name, level, spread] = parameters[i % 4]!;
		lines.push(
			`${new Date(from + i * MINUTES * MINUTE).toISOString()},${name},${(level + spread * gauss()).toPrecision(4)}`
		);
	}
	return `${lines.join('\n')}\n`;
}

/** A text in pieces that a packet of the database holds. */
function* packets(text: string): Generator<Buffer> {
	const whole = Buffer.from(text);
	for (let from = 0; from < whole.length; from += 1 << 20) yield whole.subarray(from, from + (1 << 20));
}

const TABLES = ['sample', 'reading', 'revision'] as const;

/** The database's own way of taking in the very rows that the import wrote, into tables of the same make. */
async function loadData(folder: string, tank: string): Promise<number> {
	const db = await databaseOf(folder);
	const cell = (value: unknown): string =>
		value === null
			? '\\N'
			: String(value).replaceAll('\\', '\\\\').replaceAll('\t', '\\t').replaceAll('\n', '\\n');
	let took = 0;
	try {
		for (const table of TABLES) {
			const which = {
				sample: 'source_id in (select id from source where system_id = ?)',
				reading: 'system_id = ?',
				revision: 'reading_id in (select id from reading where system_id = ?)'
			}[table];
			const [rows] = await db.query({
				sql: `select * from ${table} where ${which}`,
				values: [tank],
				rowsAsArray: true,
				dateStrings: true,
				typeCast: (field: { type: string; string: () => string | null }, next: () => unknown) =>
					['BLOB', 'JSON'].includes(field.type) ? field.string() : next()
			} as never);
			const text = (rows as unknown[][]).map((r) => r.map(cell).join('\t')).join('\n');
			await db.query(`create table bench_${table} like ${table}`);
			const started = performance.now();
			await db.query({
				sql: `load data local infile 'rows' into table bench_${table} character set utf8mb4`,
				infileStreamFactory: () => Readable.from(packets(text))
			} as never);
			took += performance.now() - started;
			const [[found]] = (await db.query(`select count(*) as n from bench_${table}`)) as unknown as [
				{ n: number }[]
			];
			if (Number(found!.n) !== (rows as unknown[]).length)
				throw new Error(`LOAD DATA left rows of ${table} out`);
			await db.query(`drop table bench_${table}`);
		}
	} finally {
		await db.end();
	}
	return took;
}

/** A long sheet taken in beside LOAD DATA; the book's page over it beside an empty one; the book out and in beside its JSON. */
export async function book(browser: Browser, keeper: Person, origin: string, folder: string): Promise<Row[]> {
	const [full, empty] = [await newTank(keeper, 'Long book'), await newTank(keeper, 'Empty book')];
	const sheet = longSheet();
	const took = await takeIn(keeper, full, sheet);
	const loaded = await loadData(folder, full);

	const page = await newDevice(browser, DESK);
	await visit(page, origin);
	const open = async (path: string, ready: string) => {
		const times: number[] = [];
		for (let i = 0; i < 5; i++) {
			const started = performance.now();
			await page.goto(origin + path);
			await page.waitForSelector(ready);
			times.push(performance.now() - started);
		}
		return times.sort((a, b) => a - b)[2]!;
	};
	const nothing = await open(`/s/${empty}/readings`, 'h1');
	const long = await open(`/s/${full}/readings`, '[data-line]');
	const deep = await open(`/s/${full}/readings?to=2020-06-01T00:00:00.000Z`, '[data-line]');
	await page.browserContext().close();

	let started = performance.now();
	const text = await (await keeper.ask(`/api/v1/systems/${full}/book`)).text();
	const out = performance.now() - started;
	started = performance.now();
	const parsed = JSON.parse(text) as object;
	JSON.stringify(parsed);
	const json = performance.now() - started;
	started = performance.now();
	const answer = await keeper.ask(`/api/v1/systems/${uuid()}/book`, {
		method: 'PUT',
		headers: { 'content-type': 'application/json' },
		body: text
	});
	if (!answer.ok) throw new Error(`the book was not taken in: ${(await answer.text()).slice(0, 300)}`);
	const back = performance.now() - started;
	const s = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
	return [
		{
			what: `a sheet of ${ROWS} rows taken in: read, computed, written`,
			measured: s(took),
			against: `${(took / loaded).toFixed(2)} of LOAD DATA of the same rows (${s(loaded)}); goal 3`
		},
		{
			what: `the book’s page at ${ROWS} readings, at its top and six years down`,
			measured: `${long.toFixed(0)} / ${deep.toFixed(0)} ms`,
			against: `${(long / nothing).toFixed(2)} / ${(deep / nothing).toFixed(2)} of an empty book (${nothing.toFixed(0)} ms)`
		},
		{
			what: `tevrik.book/1 of ${ROWS} readings (${(text.length / 1e6).toFixed(0)} MB) out, and in as a copy`,
			measured: `${s(out)} / ${s(back)}`,
			against: `${(out / json).toFixed(1)} / ${(back / json).toFixed(1)} of reading and writing its JSON (${s(json)})`
		}
	];
}
