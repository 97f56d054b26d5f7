import { AsyncLocalStorage } from 'node:async_hooks';
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import type { MySqlTransactionConfig } from 'drizzle-orm/mysql-core';
import { again, calledBack, isFull, openClient, serversOf, type Client } from './client';
import * as schema from './schema';

export { Unavailable, again, errnoOf, isFull, isUnavailable } from './client';

export type Database = MySql2Database<typeof schema>;
/** A database or one transaction on it. */
export type Connection = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

let client: Client | undefined;
let opened: Database | undefined;
/** The transaction that runs here: whatever is asked for inside it is asked of its one connection. */
const running = new AsyncLocalStorage<Database>();

const url = (): string => {
	const named = process.env['DATABASE_URL'];
	if (!named) throw new Error('DATABASE_URL is not set; start Tevrik with ./tevrik start');
	return named;
};

/** What was heard of the database in the request that runs: libraries between here and there tell their callers something else. */
const heard = new AsyncLocalStorage<{ away: boolean; full: boolean }>();
/** Does something during which it is noted whether the database could not be reached. */
export const listening = <T>(work: () => T): T => heard.run({ away: false, full: false }, work);
/** Whether it could not, so far. */
export const wasAway = (): boolean => heard.getStore()?.away === true;
/** Whether it had no room to write, so far. */
export const wasFull = (): boolean => heard.getStore()?.full === true;
/** When it had no room last, by this process's clock that never jumps, ms. */
let fullAt = -Infinity;
export const fullSince = (): number => performance.now() - fullAt;
/** For writes that only note that somebody looked: where there is no room for them, looking goes on. */
export function unlessFull(failure: unknown): void {
	if (!isFull(failure)) throw failure;
	const here = heard.getStore();
	if (here) here.full = false;
}
const noteAway = (): void => {
	const here = heard.getStore();
	if (here) here.away = true;
};
const noteFull = (): void => {
	fullAt = performance.now();
	const here = heard.getStore();
	if (here) here.full = true;
};

const connected = (): Client => (client ??= openClient(url(), { away: noteAway, full: noteFull }));
const open = (): Database => (opened ??= drizzle(connected() as never, { schema, mode: 'default' }));

/** The database named by `DATABASE_URL`, opened at first use; inside a transaction that transaction. */
export const database = (): Database => running.getStore() ?? open();

/**
 * All of it or nothing, on one connection, tried again where it met another's write: work may run more than once, and changes
 * nothing but the database. Inside another transaction it is part of that one.
 */
export function transaction<T>(
	work: (db: Connection) => Promise<T>,
	config?: MySqlTransactionConfig
): Promise<T> {
	const outer = running.getStore();
	if (outer) return work(outer);
	const db = open();
	return again(
		() => db.transaction((tx) => running.run(tx as unknown as Database, () => work(tx)), config),
		serversOf(url()).length > 1
	);
}

/** Whether what is asked now is part of a transaction: it may see what is not so for anyone else yet. */
export const inTransaction = (): boolean => running.getStore() !== undefined;

/** The pool with callbacks, for a library that asks for one. */
export const callbackPool = () => calledBack(connected);
export const databaseName = (): string => new URL(serversOf(url())[0]!).pathname.slice(1);

/** Lets the process end: an open pool keeps it alive. */
export async function closeDatabase(): Promise<void> {
	const closing = client;
	client = opened = undefined;
	await closing?.end();
}

/** A row with this key is there already. */
export const DUPLICATE = 1062;
