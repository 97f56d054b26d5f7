import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { database } from '../../src/lib/server/db/connection';
import { touch } from '../../src/lib/server/db/stamps';
import type { Asker } from '../../src/lib/server/identity/asker';
import { bookPage } from '../../src/lib/server/answers/book';
import { packsOf } from '../../src/lib/server/stores/packs';
import { latestOfEach, measuredIn, voidedOf } from '../../src/lib/server/stores/readings';
import { openRunOf } from '../../src/lib/server/stores/runs';
import { systemsOf } from '../../src/lib/server/stores/systems';
import { connectAsRoot } from '../../scripts/mariadb-server';
import { again, openStores } from '../support/stores';

/** Readings that a long book has more than the demo's, every ten minutes into the past: what is asked for first is the newest. */
const MANY = 40_000;
/** Tanks of other keepers, and what each has of four parameters. */
const OTHERS = { tanks: 250, readings: 80 };
/** So many rows may be read for one that is shown (its revision, its method, its neighbours in an index), and beside them. */
const FACTOR = 8;
const BESIDE = 400;

const TABLES = ['reading', 'revision', 'sample', 'method_version'];

let keeper: Asker;
let tank: string;
/** The demo's other tank, with a short book. */
let short: string;
let close: () => Promise<void>;

const rows = async <T>(query: ReturnType<typeof sql>): Promise<T[]> =>
	((await database().execute(query)) as unknown as [T[]])[0];
/** Rows the database has read so far, for whomever. */
const readSoFar = async (): Promise<number> =>
	(await rows<{ Variable_name: string; Value: string }>(sql`show global status like 'Handler_read%'`)).reduce(
		(sum, r) => sum + Number(r.Value),
		0
	);

beforeAll(async () => {
	({ keeper, close } = await openStores(new Date('2026-05-06T20:10:00Z')));
	[tank = '', short = ''] = (await systemsOf(keeper)).map((s) => s.id);
	await database().execute(sql`set session foreign_key_checks = 0`);
	// Copies of one reading of alkalinity, with a sample and a revision each.
	const [one] = await rows<{ id: string }>(
		sql`select id from reading where system_id = ${tank} and parameter = 'alkalinity' order by taken_at limit 1`
	);
	const numbered = sql.raw(`seq_1_to_${MANY}`);
	const id = sql`concat(lpad(hex(s.seq), 8, '0'), '-0000-4000-8000-000000000000')`;
	const at = sql`date_sub(r.taken_at, interval 10 * s.seq minute)`;
	const from = sql`from ${numbered} s join reading r on r.id = ${one!.id}`;
	await database().execute(
		sql`insert into sample (id, source_id, taken_at) select ${id}, r.source_id, ${at} ${from}`
	);
	await database().execute(
		sql`insert into reading (id, system_id, sample_id, source_id, parameter, taken_at, revision) select ${id}, r.system_id, ${id}, r.source_id, r.parameter, ${at}, 1 ${from}`
	);
	await database().execute(
		sql`insert into revision (reading_id, revision, by_user_id, at, method_version_id, raw, result, calculation, qualifier, unit, value, standard_uncertainty, repeatability, low, high, voided)
			select ${id}, 1, v.by_user_id, v.at, v.method_version_id, v.raw, v.result, v.calculation, v.qualifier, v.unit, v.value, v.standard_uncertainty, v.repeatability, v.low, v.high, 0
			from ${numbered} s join revision v on v.reading_id = ${one!.id} and v.revision = 1`
	);
	// And many small books of others, of which nothing is to be read.
	const theirs = sql`concat(lpad(hex(s.seq), 8, '0'), '-0000-4000-8000-00000000ffff')`;
	const their = sql`concat(lpad(hex(s.seq mod ${OTHERS.tanks}), 8, '0'), '-0000-4000-8000-0000000fffff')`;
	const parameter = sql`elt(1 + floor(s.seq / ${OTHERS.tanks}) mod 4, 'alkalinity', 'calcium', 'magnesium', 'nitrate')`;
	const small = sql.raw(`seq_1_to_${OTHERS.tanks * OTHERS.readings}`);
	const like = sql`from ${small} s join reading r on r.id = ${one!.id}`;
	await database().execute(
		sql`insert into reading (id, system_id, sample_id, source_id, parameter, taken_at, revision) select ${theirs}, ${their}, ${theirs}, ${their}, ${parameter}, ${at}, 1 ${like}`
	);
	await database().execute(
		sql`insert into revision (reading_id, revision, by_user_id, at, method_version_id, raw, result, calculation, qualifier, unit, value, standard_uncertainty, repeatability, low, high, voided)
			select ${theirs}, 1, v.by_user_id, v.at, v.method_version_id, v.raw, v.result, v.calculation, v.qualifier, v.unit, v.value, v.standard_uncertainty, v.repeatability, v.low, v.high, 0
			from ${small} s join revision v on v.reading_id = ${one!.id} and v.revision = 1`
	);
}, 300_000);
afterAll(() => close());

const ASKED: [string, (asker: Asker) => Promise<unknown[]>][] = [
	['the tanks of a person', (asker) => systemsOf(asker)],
	['parameters that are measured', (asker) => measuredIn(asker, tank)],
	['the newest of each parameter', (asker) => latestOfEach(asker, tank, 80)],
	['the newest of each parameter of a short book', (asker) => latestOfEach(asker, short, 80)],
	['a page of a short book', async (asker) => (await bookPage(asker, short)).lines],
	['a page of the book', async (asker) => (await bookPage(asker, tank)).lines],
	[
		'a page of one parameter',
		async (asker) => (await bookPage(asker, tank, { parameter: 'alkalinity' })).lines
	],
	['what was voided', (asker) => voidedOf(asker, tank, 'calcium')],
	['packs on the shelf', (asker) => packsOf(asker)],
	['an evening under way', async (asker) => [await openRunOf(asker, tank)]]
];
describe.each(['believes it small', 'has counted it'])('a long book of which the database %s', (belief) => {
	beforeAll(async () => {
		if (belief === 'has counted it') {
			for (const table of TABLES) await database().execute(sql.raw(`analyze table ${table}`));
			return;
		}
		// As on a server that was filled before it found the time to count.
		const [{ socket }] = (await rows<{ socket: string }>(sql`select @@socket socket`)) as [
			{ socket: string }
		];
		const root = await connectAsRoot({ socket } as Parameters<typeof connectAsRoot>[0]);
		for (const table of TABLES)
			await root.query(`alter table tevrik.${table} stats_persistent = 1, stats_auto_recalc = 0`);
		await root.query(`update mysql.innodb_table_stats set n_rows = 1 where table_name in (?)`, [TABLES]);
		await root.query(
			`update mysql.innodb_index_stats set stat_value = 1 where stat_name like 'n_diff%' and table_name in (?)`,
			[TABLES]
		);
		// It reads them when it meets a table for the first time, under whatever name.
		for (const table of TABLES) {
			await root.query(`rename table tevrik.${table} to tevrik.${table}_x`);
			await root.query(`rename table tevrik.${table}_x to tevrik.${table}`);
		}
		await root.end();
	});
	it.each(ASKED)('is read little more than is shown: %s', async (what, ask) => {
		// Nothing is remembered of before.
		await touch(database(), [tank, short, keeper.userId]);
		const before = await readSoFar();
		const shown = (await ask(again(keeper))).length;
		const read = (await readSoFar()) - before;
		console.log(`measured: ${what}: ${read} rows read for ${shown}`);
		// What a pack has left is counted: every reading since it was opened.
		expect(read).toBeLessThan(BESIDE + FACTOR * shown + (what.startsWith('packs') ? 5 * 2000 : 0));
	});
});
