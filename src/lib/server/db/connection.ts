import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import { createPool, type Pool } from 'mysql2/promise';
import * as schema from './schema';

export type Database = MySql2Database<typeof schema>;
/** A database or one transaction on it. */
export type Connection = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

let pool: Pool | undefined;
let opened: Database | undefined;

/** The database named by `DATABASE_URL`, opened at first use. */
export function database(): Database {
	if (opened) return opened;
	const url = process.env['DATABASE_URL'];
	if (!url) throw new Error('DATABASE_URL is not set; start Tevrik with ./tevrik start');
	pool = createPool({ uri: url, timezone: 'Z', connectionLimit: 10, charset: 'utf8mb4' });
	opened = drizzle(pool, { schema, mode: 'default' });
	return opened;
}

/** The pool itself, with callbacks, for a library that asks for one. */
export function rawPool() {
	database();
	return pool!.pool;
}
export const databaseName = (): string => new URL(process.env['DATABASE_URL']!).pathname.slice(1);

/** Lets the process end: an open pool keeps it alive. */
export async function closeDatabase(): Promise<void> {
	await pool?.end();
	pool = opened = undefined;
}

/** MariaDB's error number behind drizzle's error, or undefined. */
export const errnoOf = (error: unknown): number | undefined =>
	(error as { cause?: { errno?: number } }).cause?.errno ?? (error as { errno?: number }).errno;

/** A row with this key is there already. */
export const DUPLICATE = 1062;
