import { and, count, eq, getTableName, inArray, is, notInArray } from 'drizzle-orm';
import { getTableConfig, MySqlTable, type MySqlColumn } from 'drizzle-orm/mysql-core';
import type { Connection } from '../db/connection';
import * as schema from '../db/schema';

/**
 * What belongs to a tank or a person, read off the schema's foreign keys, so that a table which comes later is thought of: what hangs
 * on a tank goes with it; of every column that names a person it is said here what becomes of it.
 */

type Key = { of: MySqlTable; column: MySqlColumn; to: MySqlTable };
const TABLES: MySqlTable[] = (Object.values(schema) as unknown[]).filter((t): t is MySqlTable =>
	is(t, MySqlTable)
);
/** Every foreign key; all of them have one column. */
const KEYS: Key[] = TABLES.flatMap((of) =>
	getTableConfig(of).foreignKeys.map((key) => {
		const { columns, foreignTable } = key.reference();
		return { of, column: columns[0]! as MySqlColumn, to: foreignTable };
	})
);
/** A foreign key as it is called below: table and column. */
export const nameOf = ({ of, column }: Key): string => `${getTableName(of)}.${column.name}`;

/** What becomes of a row when the person that one of its columns names has their account deleted. */
type Fate =
	/** It is theirs alone and goes. */
	| 'goes'
	/** It is part of a tank that others use and stays; their name goes. */
	| 'stays'
	/** It goes where nothing rests on it: what was tested by a method in tanks of others was tested by it. */
	| 'goes unless used';
/** Every column that names a person. `belongings.test.ts` fails on one that is not here. */
export const OF_PERSON: Record<string, Fate> = {
	'session.user_id': 'goes',
	'account.user_id': 'goes',
	'two_factor.user_id': 'goes',
	'passkey.user_id': 'goes',
	'api_token.user_id': 'goes',
	'membership.user_id': 'goes',
	'pack.owner_id': 'goes',
	'supplement.owner_id': 'goes',
	'invitation.by_user_id': 'goes',
	'method.owner_id': 'goes unless used',
	'invitation.used_by_user_id': 'stays',
	'imported_file.by_user_id': 'stays',
	'plan.by_user_id': 'stays',
	'event.by_user_id': 'stays',
	'run.by_user_id': 'stays',
	'run_event.by_user_id': 'stays',
	'revision.by_user_id': 'stays',
	'photo.by_user_id': 'stays'
};
/** Tables without a foreign key, and whose rows they hold: what is theirs is deleted by name in `accounts.ts`. */
export const WITHOUT_KEYS: Record<string, 'tank' | 'tank or person' | 'person' | 'server'> = {
	user: 'person',
	system: 'tank',
	stamp: 'tank or person',
	verification: 'person',
	attempt: 'server',
	setting: 'server',
	mail: 'server'
};

/** Columns that name a person. */
export const personKeys = (): Key[] => KEYS.filter((key) => key.to === schema.user);
export const tables = (): MySqlTable[] => TABLES;

/** Tables whose rows hang on one of `root`, each after all that hang on it: in this order they can be emptied. */
export function hangingOn(root: MySqlTable): MySqlTable[] {
	const order: MySqlTable[] = [];
	const visit = (table: MySqlTable): void => {
		if (order.includes(table)) return;
		for (const key of KEYS) if (key.to === table && key.of !== table) visit(key.of);
		order.push(table);
	};
	visit(root);
	return order;
}

const idOf = (table: MySqlTable): MySqlColumn => (table as unknown as { id: MySqlColumn }).id;

/** Rows of a table that hang on a tank: those that name it, or name something that hangs on it. */
function ofTank(db: Connection, table: MySqlTable, systemId: string): ReturnType<typeof eq> {
	if (table === schema.system) return eq(schema.system.id, systemId);
	const direct = KEYS.find((key) => key.of === table && key.to === schema.system);
	if (direct) return eq(direct.column, systemId);
	const parents = hangingOn(schema.system);
	const key = KEYS.find((k) => k.of === table && parents.includes(k.to))!;
	return inArray(
		key.column,
		db
			.select({ id: idOf(key.to) })
			.from(key.to)
			.where(ofTank(db, key.to, systemId))
	);
}

/** Deletes a tank and all that hangs on it. */
export async function deleteTank(db: Connection, systemId: string): Promise<void> {
	for (const table of hangingOn(schema.system)) await db.delete(table).where(ofTank(db, table, systemId));
	await db.delete(schema.stamp).where(eq(schema.stamp.id, systemId));
}

/** Deletes what is a person's alone. */
export async function deleteOwn(db: Connection, userId: string): Promise<void> {
	for (const key of personKeys())
		if (OF_PERSON[nameOf(key)] === 'goes') await db.delete(key.of).where(eq(key.column, userId));
	const { method, methodVersion, pack, revision, stamp, verification } = schema;
	await db.delete(verification).where(eq(verification.value, userId));
	await db.delete(stamp).where(eq(stamp.id, userId));
	const tested = db
		.select({ id: methodVersion.methodId })
		.from(methodVersion)
		.innerJoin(revision, eq(revision.methodVersionId, methodVersion.id));
	const mine = await db
		.select({ id: method.id })
		.from(method)
		.where(
			and(
				eq(method.ownerId, userId),
				notInArray(method.id, tested),
				notInArray(method.id, db.select({ id: pack.methodId }).from(pack))
			)
		);
	if (!mine.length) return;
	const ids = mine.map((m) => m.id);
	await db.delete(methodVersion).where(inArray(methodVersion.methodId, ids));
	await db.delete(method).where(inArray(method.id, ids));
}

/** How many rows still name a person. */
export async function usesOf(db: Connection, userId: string): Promise<number> {
	let used = 0;
	for (const key of personKeys()) {
		const [found] = await db.select({ n: count() }).from(key.of).where(eq(key.column, userId));
		used += found!.n;
	}
	return used;
}
