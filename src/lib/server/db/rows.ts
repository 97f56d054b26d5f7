import { getTableColumns, getTableName, sql } from 'drizzle-orm';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import { format } from 'mysql2';
import type { Connection } from './connection';

/**
 * Writes many rows of a table as one text: placeholders by the thousand cost more than the rows. All rows have the same
 * fields. `otherwise` says what becomes of a row whose key is there already. How many were written.
 */
export async function writeRows<T extends MySqlTable>(
	db: Connection,
	table: T,
	rows: Partial<T['$inferInsert']>[],
	otherwise: 'fail' | 'leave out' = 'fail'
): Promise<number> {
	if (!rows.length) return 0;
	const columns = getTableColumns(table);
	const used = Object.keys(rows[0]!);
	const values = rows.map((row) => used.map((key) => asStored((row as Record<string, unknown>)[key])));
	const text = format(
		`insert ${otherwise === 'fail' ? '' : 'ignore'} into ?? (??) values ?`,
		[getTableName(table), used.map((key) => columns[key]!.name), values] as never,
		false,
		'Z'
	);
	const [result] = await db.execute(sql.raw(text));
	return (result as unknown as { affectedRows: number }).affectedRows;
}

const asStored = (value: unknown): unknown =>
	value !== null && typeof value === 'object' && !(value instanceof Date) ? JSON.stringify(value) : value;
