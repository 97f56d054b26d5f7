import { readMigrationFiles } from 'drizzle-orm/migrator';
import { createConnection, type Connection, type RowDataPacket } from 'mysql2/promise';
import { errnoOf, serversOf } from './client';

const NO_SUCH_TABLE = 1146;
/** What MariaDB says of a change of tables that has been made already: table, column, key or constraint is there, or is gone. */
const DONE_ALREADY = [1050, 1060, 1061, 1091, 1005, 1051, 1826];
/** Whoever waits for another process to bring the database up to date, s. */
const PATIENCE = 300;
const LOCK = 'tevrik.migration';

/** One statement sent to the database. The tests stop it anywhere. */
export type Send = (statement: string, values?: unknown[]) => Promise<RowDataPacket[]>;

export class NewerDatabase extends Error {
	constructor() {
		super(
			'This database was last used by a newer Tevrik than this one. Update this copy (git pull), or point DATABASE_URL or TEVRIK_DATA at other data.'
		);
	}
}
export class MigrationRefused extends Error {
	constructor(tag: number, step: number, cause: unknown) {
		super(
			`The database could not be brought to this version: MariaDB refused step ${step + 1} of change ${tag} (its number ${errnoOf(cause) ?? 'unknown'}: ${String((cause as { sqlMessage?: string }).sqlMessage ?? '').slice(0, 200)}). What was kept is unchanged as far as that step. Mend the cause and start again: it goes on where it stopped.`,
			{ cause }
		);
	}
}

/**
 * Does something while no other process that shares the database does the same: a lock of that name, held by a connection of
 * its own, so that it is free again when its holder is gone. All processes ask the same one of several servers.
 */
export async function aloneOnDatabase<T>(url: string, work: (db: Connection) => Promise<T>): Promise<T> {
	const db = await firstOf([...serversOf(url)].sort());
	try {
		const [[held]] = await db.query<RowDataPacket[]>('select get_lock(?, ?) as held', [LOCK, PATIENCE]);
		if (held?.['held'] !== 1)
			throw new Error(
				'Another process has been changing the database for minutes. Look at its words, then start again.'
			);
		return await work(db);
	} finally {
		// The lock goes with it.
		await db.end().catch(() => db.destroy());
	}
}
async function firstOf(servers: string[]): Promise<Connection> {
	let failure: unknown;
	for (const uri of servers)
		try {
			return await createConnection({ uri, charset: 'utf8mb4', timezone: 'Z', connectTimeout: 3000 });
		} catch (refused) {
			failure = refused;
		}
	throw failure;
}

/**
 * Brings the database to this version of Tevrik, statement by statement: how far it came is written down, so that one who was
 * stopped anywhere goes on there. `before` runs once if something is to be changed in a database that holds something.
 */
export async function bringUpToDate(
	folder: string,
	send: Send,
	before: () => Promise<void> = async () => {}
): Promise<void> {
	const migrations = readMigrationFiles({ migrationsFolder: folder });
	const newest = await appliedUpTo(send);
	if (newest > Math.max(...migrations.map((m) => m.folderMillis))) throw new NewerDatabase();
	const due = migrations.filter((m) => m.folderMillis > newest);
	if (!due.length) return;
	if (newest > 0) await before();
	await send(`create table if not exists __drizzle_migrations (
		id serial primary key, hash text not null, created_at bigint)`);
	await send(`create table if not exists migration_step (
		migration bigint primary key, begun int not null, done int not null)`);
	for (const { sql, folderMillis, hash } of due) {
		await send('insert ignore into migration_step values (?, 0, 0)', [folderMillis]);
		const [at] = await send('select begun, done from migration_step where migration = ?', [folderMillis]);
		const [begun, done] = [Number(at!['begun']), Number(at!['done'])];
		for (let step = done; step < sql.length; step++) {
			const statement = sql[step]!.trim();
			await send('update migration_step set begun = ? where migration = ?', [step + 1, folderMillis]);
			try {
				if (statement)
					await (changesRows(statement) ? asOne(send, statement, step, folderMillis) : send(statement));
			} catch (failure) {
				// It was under way when somebody stopped: it may have been made and not been written down.
				const resumed = step === done && begun > done;
				if (!resumed || !DONE_ALREADY.includes(errnoOf(failure) ?? 0))
					throw errnoOf(failure) === undefined ? failure : new MigrationRefused(folderMillis, step, failure);
			}
			await send('update migration_step set done = ? where migration = ?', [step + 1, folderMillis]);
		}
		await send('start transaction');
		await send('insert into __drizzle_migrations (hash, created_at) values (?, ?)', [hash, folderMillis]);
		await send('delete from migration_step where migration = ?', [folderMillis]);
		await send('commit');
	}
}

const changesRows = (statement: string): boolean => /^(?:insert|update|delete|replace)\b/i.test(statement);

/** A statement that changes rows, and the note that it was made: both or neither. */
async function asOne(send: Send, statement: string, step: number, migration: number): Promise<void> {
	await send('start transaction');
	try {
		await send(statement);
		await send('update migration_step set done = ? where migration = ?', [step + 1, migration]);
		await send('commit');
	} catch (failure) {
		await send('rollback');
		throw failure;
	}
}

/** The newest change the database has, as its number; 0 where it is empty. */
export async function appliedUpTo(send: Send): Promise<number> {
	try {
		const [found] = await send('select max(created_at) as newest from __drizzle_migrations');
		return Number(found?.['newest'] ?? 0);
	} catch (failure) {
		if (errnoOf(failure) === NO_SUCH_TABLE) return 0;
		throw failure;
	}
}

export const sender =
	(db: Connection): Send =>
	async (statement, values) =>
		(await db.query<RowDataPacket[]>(statement, values))[0];
