import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync, renameSync, rmSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { once } from 'node:events';
import { createGunzip, createGzip } from 'node:zlib';
import { createConnection, type Connection } from 'mysql2/promise';
import { serversOf } from '../src/lib/server/db/client';
import { appliedUpTo, sender } from '../src/lib/server/db/migrate';
import { now } from '../src/lib/server/clock';
import { Failure, say } from './failure';
import { newestMigration } from './places';

/**
 * What `tevrik backup FILE` and `tevrik restore FILE` do. A backup is gzipped lines of JSON: what it is, the rows of
 * every table from one moment, and a hash over all of it.
 */
const FORMAT = 'tevrik.backup/1';
/** What is of a moment only: devices that are signed in, tries, links under way. After a restore people sign in again. */
const LEFT_OUT = ['session', 'verification', 'attempt', 'stamp', '__drizzle_migrations', 'migration_step'];
const AT_ONCE = 500;
/** Columns that older versions had: an older backup is taken without them. */
const GONE = ['user.calendar_token'];

interface Head {
	format: string;
	/** The newest migration the rows were written under. */
	migration: number;
	madeAt: string;
	tables: Record<string, string[]>;
}
type Row = (string | number | null)[];

const connect = (): Promise<Connection> =>
	createConnection({
		uri: serversOf(process.env['DATABASE_URL']!)[0]!,
		charset: 'utf8mb4',
		// Rows go as the database writes them, so that they come back as they were: JSON (a BLOB to the driver) as text.
		dateStrings: true,
		typeCast: (field, next) => (['BLOB', 'JSON'].includes(String(field.type)) ? field.string() : next())
	});

async function columnsOf(db: Connection): Promise<Record<string, string[]>> {
	const [rows] = await db.query(
		`select table_name as t, column_name as c from information_schema.columns
		 where table_schema = database() and is_generated = 'NEVER' order by table_name, ordinal_position`
	);
	const tables: Record<string, string[]> = {};
	for (const { t, c } of rows as { t: string; c: string }[])
		if (!LEFT_OUT.includes(t)) (tables[t] ??= []).push(c);
	return tables;
}
const quoted = (name: string) => `\`${name.replaceAll('`', '``')}\``;

/** Everything as it stands now into one file, under whatever version it was written. */
export async function backup(file: string): Promise<void> {
	const db = await connect();
	const unfinished = `${file}.part`;
	try {
		await db.query('set transaction isolation level repeatable read');
		await db.query('start transaction with consistent snapshot, read only');
		const tables = await columnsOf(db);
		const zip = createGzip();
		const out = createWriteStream(unfinished, { mode: 0o600 });
		const failed = once(out, 'error').then(([error]) => Promise.reject(error as Error));
		failed.catch(() => undefined);
		zip.pipe(out);
		const hash = createHash('sha256');
		let count = 0;
		const write = async (line: unknown) => {
			const text = `${JSON.stringify(line)}\n`;
			hash.update(text);
			if (!zip.write(text)) await Promise.race([once(zip, 'drain'), failed]);
		};
		const head: Head = {
			format: FORMAT,
			migration: await appliedUpTo(sender(db)),
			madeAt: now().toISOString(),
			tables
		};
		await write(head);
		for (const [table, columns] of Object.entries(tables)) {
			let rows: Row[] = [];
			// Prepared: as text the database would round numbers in their last bit.
			const stream = (
				db as unknown as { connection: { execute: (o: object) => { stream: () => AsyncIterable<Row> } } }
			).connection
				.execute({ sql: `select ${columns.map(quoted).join(', ')} from ${quoted(table)}`, rowsAsArray: true })
				.stream();
			for await (const row of stream) {
				rows.push(row);
				count++;
				if (rows.length < AT_ONCE) continue;
				await write({ table, rows });
				rows = [];
			}
			if (rows.length) await write({ table, rows });
		}
		zip.end(`${JSON.stringify({ end: count, sha256: hash.digest('hex') })}\n`);
		await Promise.race([once(out, 'close'), failed]);
		renameSync(unfinished, file);
		say(
			`${count} rows of ${Object.keys(tables).length} tables are in ${file}. It holds people's password hashes: keep it safe.`
		);
	} catch (error) {
		rmSync(unfinished, { force: true });
		throw error;
	} finally {
		await db.end();
	}
}

/** The lines of a backup; a sentence where it is none, or was cut or changed. */
async function* linesOf(
	file: string
): AsyncGenerator<Head | { table: string; rows: Row[] } | { end: number; sha256: string }> {
	const input = createReadStream(file);
	const unzipped = input.pipe(createGunzip());
	const broken = new Promise<never>((_, refuse) => {
		for (const stream of [input, unzipped])
			stream.once('error', (e: Error) => refuse(new Failure(`${file} cannot be read: ${e.message}`)));
	});
	broken.catch(() => undefined);
	const lines = createInterface({ input: unzipped, crlfDelay: Infinity })[Symbol.asyncIterator]();
	for (;;) {
		const { done, value } = await Promise.race([lines.next(), broken]);
		if (done) return;
		try {
			yield JSON.parse(value) as Head;
		} catch {
			throw new Failure(`${file} is no backup of Tevrik, or was changed.`);
		}
	}
}

/** Reads a backup through without writing anything; throws a sentence where it is not to be trusted. */
async function checked(file: string, known: Record<string, string[]>): Promise<Head> {
	const hash = createHash('sha256');
	let head: Head | undefined;
	let rows = 0;
	let end: { end: number; sha256: string } | undefined;
	for await (const line of linesOf(file)) {
		if (end) throw new Failure(`${file} goes on after its end; it was changed.`);
		if ('end' in line) {
			end = line;
			continue;
		}
		hash.update(`${JSON.stringify(line)}\n`);
		if (!head) {
			head = line as Head;
			if (head.format !== FORMAT) throw new Failure(`${file} is no backup of Tevrik (${FORMAT}).`);
			if (head.migration > newestMigration())
				throw new Failure(`${file} was made by a newer Tevrik than this copy. Update this copy first.`);
			for (const [table, columns] of Object.entries(head.tables))
				for (const column of columns)
					if (!known[table]?.includes(column) && !GONE.includes(`${table}.${column}`))
						throw new Failure(`${file} holds ${table}.${column}, which this copy does not know.`);
		} else if ('table' in line) {
			const width = head.tables[line.table]?.length;
			if (!width || line.rows.some((r) => r.length !== width))
				throw new Failure(`${file} has rows of ${line.table} that do not fit; it was changed.`);
			rows += line.rows.length;
		}
	}
	if (!head || !end) throw new Failure(`${file} ends too early; the copy is not whole.`);
	if (end.end !== rows || end.sha256 !== hash.digest('hex'))
		throw new Failure(`${file} is not as it was made: its hash does not fit.`);
	return head;
}

/** Puts a backup in place of what is kept, in one transaction: until it stands whole, everybody sees the old. */
export async function restore(file: string): Promise<void> {
	if (!existsSync(file)) throw new Failure(`There is no file ${file}.`);
	const db = await connect();
	try {
		const known = await columnsOf(db);
		const head = await checked(file, known);
		await db.query('set foreign_key_checks = 0');
		await db.beginTransaction();
		for (const table of [...Object.keys(known), 'session', 'verification'])
			await db.query(`delete from ${quoted(table)}`);
		let count = 0;
		for await (const line of linesOf(file)) {
			if (!('table' in line)) continue;
			const { table } = line;
			const columns = head.tables[table]!;
			const here = columns.flatMap((column, i) => (known[table]!.includes(column) ? [i] : []));
			await db.query(
				`insert into ${quoted(table)} (${here.map((i) => quoted(columns[i]!)).join(', ')}) values ?`,
				[line.rows.map((row) => here.map((i) => row[i]!))]
			);
			count += line.rows.length;
		}
		// A server that runs on it remembers what was here before, people who were signed in among it: no stamp of then holds.
		await db.query('delete from stamp');
		for (const table of ['system', 'user'])
			await db.query(
				`insert into stamp (id, value) select id, floor(rand() * pow(2, 48)) from ${quoted(table)}`
			);
		await db.commit();
		say(`${count} rows as of ${head.madeAt} stand. Everybody signs in again.`);
	} catch (error) {
		await db.rollback().catch(() => undefined);
		throw error;
	} finally {
		await db.end();
	}
}
