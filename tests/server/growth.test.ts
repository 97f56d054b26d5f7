import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { database } from '../../src/lib/server/db/connection';
import { touch } from '../../src/lib/server/db/stamps';
import type { Asker } from '../../src/lib/server/identity/asker';
import { bookPage } from '../../src/lib/server/stores/book';
import { packsOf } from '../../src/lib/server/stores/packs';
import { latestOfEach, measuredIn, voidedOf } from '../../src/lib/server/stores/readings';
import { openRunOf } from '../../src/lib/server/stores/runs';
import { systemsOf } from '../../src/lib/server/stores/systems';
import { again, openStores } from '../support/stores';

/** Readings that a long book has more than the demo's, every ten minutes into the past: what is asked for first is the newest. */
const MANY = 40_000;
/** So many rows may be read for one that is shown (its revision, its method, its neighbours in an index), and beside them. */
const FACTOR = 8;
const BESIDE = 400;

let keeper: Asker;
let tank: string;
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
	tank = (await systemsOf(keeper))[0]!.id;
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
	for (const table of ['reading', 'revision', 'sample'])
		await database().execute(sql.raw(`analyze table ${table}`));
}, 300_000);
afterAll(() => close());

it.each<[string, (asker: Asker) => Promise<unknown[]>]>([
	['the tanks of a person', (asker) => systemsOf(asker)],
	['parameters that are measured', (asker) => measuredIn(asker, tank)],
	['the newest of each parameter', (asker) => latestOfEach(asker, tank, 80)],
	['a page of the book', async (asker) => (await bookPage(asker, tank)).lines],
	[
		'a page of one parameter',
		async (asker) => (await bookPage(asker, tank, { parameter: 'alkalinity' })).lines
	],
	['what was voided', (asker) => voidedOf(asker, tank, 'calcium')],
	['packs on the shelf', (asker) => packsOf(asker)],
	['an evening under way', async (asker) => [await openRunOf(asker, tank)]]
])('reads little more than it shows of a long book: %s', async (what, ask) => {
	// Nothing is remembered of before.
	await touch(database(), [tank, keeper.userId]);
	const before = await readSoFar();
	const shown = (await ask(again(keeper))).length;
	const read = (await readSoFar()) - before;
	console.log(`measured: ${what}: ${read} rows read for ${shown}`);
	// What a pack has left is counted: every reading since it was opened.
	expect(read).toBeLessThan(BESIDE + FACTOR * shown + (what.startsWith('packs') ? 5 * 2000 : 0));
});
