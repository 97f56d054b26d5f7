import { getTableName } from 'drizzle-orm';
import { getTableConfig } from 'drizzle-orm/mysql-core';
import { expect, it } from 'vitest';
import { system, user } from '../db/schema';
import { OF_PERSON, WITHOUT_KEYS, hangingOn, nameOf, personKeys, tables } from './belongings';

it('says of every column that names a person what becomes of it', () => {
	expect(personKeys().map(nameOf).sort()).toEqual(Object.keys(OF_PERSON).sort());
});

it('knows every table: it hangs on a tank or a person by a foreign key, or is named', () => {
	const hanging = new Set([...hangingOn(system), ...hangingOn(user)]);
	const others = tables().filter((t) => !getTableConfig(t).foreignKeys.length);
	expect(others.map(getTableName).sort()).toEqual(Object.keys(WITHOUT_KEYS).sort());
	for (const table of tables())
		expect(hanging.has(table) || getTableName(table) in WITHOUT_KEYS, getTableName(table)).toBe(true);
});

it('no column names a tank or a person without a foreign key', () => {
	for (const table of tables()) {
		const { columns, foreignKeys } = getTableConfig(table);
		const keyed = foreignKeys.flatMap((k) => k.reference().columns.map((c) => c.name));
		const naming = columns.map((c) => c.name).filter((name) => /(^|_)(user|owner|system)_id$/.test(name));
		expect(
			naming.filter((name) => !keyed.includes(name)),
			getTableName(table)
		).toEqual([]);
	}
});

it('what is a person’s alone has nothing of others below it, and what hangs on a tank is emptied from below', () => {
	for (const key of personKeys())
		if (OF_PERSON[nameOf(key)] === 'goes') expect(hangingOn(key.of).map(getTableName)).toHaveLength(1);
	const order = hangingOn(system).map(getTableName);
	for (const [before, after] of [
		['photo', 'reading'],
		['revision', 'reading'],
		['reading', 'sample'],
		['reading', 'imported_file'],
		['run_event', 'run'],
		['sample', 'source']
	] as const)
		expect(order.indexOf(before), `${before} before ${after}`).toBeLessThan(order.indexOf(after));
	expect(order.at(-1)).toBe('system');
});
