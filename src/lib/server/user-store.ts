import { asc } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import type { Asker } from './asker';
import { now } from './clock';
import { database } from './db/connection';
import { user } from './db/schema';

let known: string | undefined;

/** The one keeper of this machine: the first in the database, made where there is none. */
export async function localKeeper(): Promise<Asker> {
	if (known) return { userId: known };
	const db = database();
	const [first] = await db
		.select({ id: user.id })
		.from(user)
		.orderBy(asc(user.createdAt), asc(user.id))
		.limit(1);
	const userId = first?.id ?? uuid();
	if (!first) await db.insert(user).values({ id: userId, name: 'Keeper', createdAt: now() });
	known = userId;
	return { userId };
}
