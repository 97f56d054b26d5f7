import type { Connection } from 'mysql2/promise';
import { NAME, connectAsRoot, serverHome } from '../../scripts/mariadb-server';

/** Where the rows of the first day lie, beside the database itself. */
const KEPT = 'first_day';

/** Tables with the columns that hold something of their own. */
async function tablesOf(db: Connection): Promise<[table: string, columns: string][]> {
	const [rows] = await db.query(
		`select table_name as t, group_concat(concat('\`', column_name, '\`')) as columns from information_schema.columns
		where table_schema = ? and coalesce(generation_expression, '') = '' group by table_name`,
		[NAME]
	);
	return (rows as { t: string; columns: string }[]).map(({ t, columns }) => [t, columns]);
}

/** Keeps every row of an application's database as it is now. */
export async function keepFirstDay(data: string): Promise<void> {
	const db = await connectAsRoot(serverHome(data));
	await db.query(`create database ${KEPT}`);
	for (const [table, columns] of await tablesOf(db))
		await db.query(`create table ${KEPT}.\`${table}\` as select ${columns} from ${NAME}.\`${table}\``);
	await db.end();
}

/**
 * Brings every row back. Stamps come back too: they name the state that tanks and people are in again, so whatever a running
 * application remembers under them is right.
 */
export async function backToFirstDay(data: string): Promise<void> {
	const db = await connectAsRoot(serverHome(data));
	await db.query('set foreign_key_checks = 0');
	for (const [table, columns] of await tablesOf(db)) {
		await db.query(`delete from ${NAME}.\`${table}\``);
		await db.query(
			`insert into ${NAME}.\`${table}\` (${columns}) select ${columns} from ${KEPT}.\`${table}\``
		);
	}
	await db.end();
}
