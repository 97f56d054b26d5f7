import { MINUTE } from '../../../core/base';
import { and, desc, eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { mustBePerson, standing, writing, type Asker } from './asker';
import { auth } from './auth';
import { cookieOf, onlyCookie, sessionCookie } from './cookies';
import { database, transaction, wasFull } from '../db/connection';
import { touch } from '../db/stamps';
import { session } from '../db/schema';

interface Person {
	name: string;
	sessionId: string;
	/** What they ask as; it has been looked up already what they have. */
	asker: Asker;
}

/** What the library said of a session is believed for so long, ms, while the person's stamp stays what it was. */
const BELIEVED = MINUTE;
const sessions = new LRUCache<string, { userId: string; name: string; sessionId: string; stamp: number }>({
	max: 10_000,
	ttl: BELIEVED
});

/**
 * Whoever has a session on this request, or nobody. The library's answer is remembered for a moment: every session that ends
 * gives its person another stamp, which is asked for anyway, so that it ends at once, in every process.
 */
export async function personBehind(headers: Headers): Promise<Person | undefined> {
	const token = cookieOf(headers, sessionCookie());
	if (token === undefined) return undefined;
	// What is checked is what is remembered: this value, and no other cookie that came along.
	const checked = onlyCookie(sessionCookie(), token);
	const known = sessions.get(token);
	if (known) {
		const asker = { userId: known.userId };
		if ((await standing(asker)).stamp === known.stamp) return { ...known, asker };
		sessions.delete(token);
	}
	const found = await sessionBehind(checked);
	if (!found) return undefined;
	const asker = { userId: found.user.id };
	const { stamp } = await standing(asker);
	// A session that ended between the two questions must not be remembered under the stamp of its end.
	if (stamp !== undefined && (await sessionBehind(checked)))
		sessions.set(token, {
			userId: found.user.id,
			name: found.user.name,
			sessionId: found.session.id,
			stamp
		});
	return { name: found.user.name, sessionId: found.session.id, asker };
}

/** What the library says of a session; where there is no room to note that it was used, it is not prolonged. */
async function sessionBehind(headers: Headers) {
	try {
		return await auth().api.getSession({ headers });
	} catch (failure) {
		if (!wasFull()) throw failure;
		return auth().api.getSession({ headers, query: { disableRefresh: true } });
	}
}

/** A session of theirs has ended: what is remembered of them is of before. */
const sessionEnded = (userId: string): Promise<void> => touch(database(), [userId]);

/** Ends this session and takes its cookie. */
export async function signOut(headers: Headers): Promise<void> {
	const found = await auth().api.getSession({ headers });
	await auth().api.signOut({ headers });
	if (found) await sessionEnded(found.user.id);
}

/** Where the asker is signed in, newest first. */
export async function sessionsOf(asker: Asker) {
	mustBePerson(asker);
	return database()
		.select({
			id: session.id,
			createdAt: session.createdAt,
			updatedAt: session.updatedAt,
			place: session.ipAddress,
			device: session.userAgent
		})
		.from(session)
		.where(eq(session.userId, asker.userId))
		.orderBy(desc(session.updatedAt));
}

export async function endSession(asker: Asker, id: string): Promise<void> {
	mustBePerson(asker);
	await writing(asker, asker.userId, (db) =>
		db.delete(session).where(and(eq(session.id, id), eq(session.userId, asker.userId)))
	);
}

/** The session this request has, so that a new one on the same device can end it. */
export async function sessionTokenOf(headers: Headers): Promise<string | undefined> {
	return (await auth().api.getSession({ headers }))?.session.token;
}
export async function endSessionOf(token: string | undefined): Promise<void> {
	if (token === undefined) return;
	await transaction(async (db) => {
		const [ends] = await db.select({ userId: session.userId }).from(session).where(eq(session.token, token));
		await db.delete(session).where(eq(session.token, token));
		if (ends) await touch(db, [ends.userId]);
	});
}
