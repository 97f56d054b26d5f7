import { touch } from '../db/stamps';
import { and, asc, eq, ne } from 'drizzle-orm';
import { bad, good, type Outcome } from '../../../core/base';
import { mustBePerson, type Asker } from './asker';
import { bookFile } from '../archive/book-export';
import { now } from '../clock';
import { database, transaction, type Connection } from '../db/connection';
import {
	account,
	membership,
	method,
	methodVersion,
	pack,
	passkey,
	supplement,
	system,
	user
} from '../db/schema';
import { deleteOwn, deleteTank, usesOf } from './belongings';
import { sendMail } from './mail';
import { profileOf } from './people';
import { confirmed } from './present-password';
import { sessionsOf } from './sessions';
import { habitsOf } from '../stores/habits';
import { systemsOf } from '../stores/systems';
import { tokensOf } from './tokens';

/** All that is kept of a person, as `tevrik.account/1`: themselves, what they may use, and a `tevrik.book/1` of each of their tanks. */
export async function* accountFile(asker: Asker): AsyncGenerator<string> {
	mustBePerson(asker);
	const db = database();
	const [profile, sessions, tokens, tanks] = await Promise.all([
		profileOf(asker),
		sessionsOf(asker),
		tokensOf(asker),
		systemsOf(asker)
	]);
	const passkeys = await db
		.select({ name: passkey.name, createdAt: passkey.createdAt })
		.from(passkey)
		.where(eq(passkey.userId, asker.userId));
	const methods = await db
		.select({ version: methodVersion.version, profile: methodVersion.profile })
		.from(methodVersion)
		.innerJoin(method, eq(method.id, methodVersion.methodId))
		.where(eq(method.ownerId, asker.userId))
		.orderBy(asc(methodVersion.methodId), asc(methodVersion.version));
	const packs = await db.select().from(pack).where(eq(pack.ownerId, asker.userId));
	const bottles = await db.select().from(supplement).where(eq(supplement.ownerId, asker.userId));
	const head = {
		format: 'tevrik.account/1',
		writtenAt: now().toISOString(),
		person: profile,
		habits: await habitsOf(asker),
		sessions: sessions.map(({ id: _id, ...rest }) => rest),
		tokens: tokens.map(({ id: _id, ...rest }) => rest),
		passkeys,
		methods,
		packs: packs.map(({ ownerId: _owner, ...rest }) => rest),
		supplements: bottles.map(({ ownerId: _owner, ...rest }) => rest)
	};
	yield `${JSON.stringify(head).slice(0, -1)},"tanks":[`;
	for (const [i, { id }] of tanks.entries()) {
		if (i) yield ',';
		yield* await bookFile(asker, id);
	}
	yield ']}';
}

/**
 * Takes an account away for good: tanks nobody else is a member of go with it; in tanks of others what was measured stays, by
 * "somebody who left". Problems: a wrong password, a tank that others use and nobody else owns.
 */
export async function deleteAccount(
	asker: Asker,
	headers: Headers,
	password: string
): Promise<Outcome<null>> {
	mustBePerson(asker);
	const known = await confirmed(asker, headers, password, '/farewell');
	if (!known.ok) return known;
	const { email } = await profileOf(asker);
	const done = await transaction(async (db): Promise<Outcome<null>> => {
		const mine = await db.select().from(membership).where(eq(membership.userId, asker.userId)).for('update');
		const left: string[] = [];
		for (const { systemId, role } of mine) {
			const others = await db
				.select()
				.from(membership)
				.where(and(eq(membership.systemId, systemId), ne(membership.userId, asker.userId)))
				.for('update');
			if (!others.length) left.push(systemId);
			else if (role === 'owner' && !others.some((m) => m.role === 'owner')) {
				const [tank] = await db.select({ name: system.name }).from(system).where(eq(system.id, systemId));
				return bad('', `Others use ${tank!.name}: make one of them an owner first, or remove them.`);
			}
		}
		for (const systemId of left) await deleteTank(db, systemId);
		await deletePerson(db, asker.userId);
		// What they wrote in tanks of others bears their name no more.
		await touch(db, [asker.userId, ...mine.map((m) => m.systemId).filter((id) => !left.includes(id))]);
		return good(null);
	});
	if (done.ok)
		await sendMail(email, 'Your account of Tevrik is gone', [
			'It was deleted with all tanks that nobody else uses. Backups of the server may hold it until they are thrown away.'
		]);
	return done;
}

/** A person with every way in; of what they left in tanks of others only that somebody left it. */
async function deletePerson(db: Connection, userId: string): Promise<void> {
	await deleteOwn(db, userId);
	const [me] = await db.select({ operator: user.operator }).from(user).where(eq(user.id, userId));
	if (me?.operator) await handOver(db, userId);
	const row = eq(user.id, userId);
	if (!(await usesOf(db, userId))) await db.delete(user).where(row);
	else
		await db
			.update(user)
			.set({
				name: 'Somebody who left',
				email: `${userId}@left.invalid`,
				image: null,
				operator: false,
				twoFactorEnabled: false,
				calendarNonce: null,
				calendarHash: null,
				calendarTold: null,
				habits: null
			})
			.where(row);
}

/** Somebody has to run the server: whoever has had an account for longest. */
async function handOver(db: Connection, userId: string): Promise<void> {
	const [next] = await db
		.select({ id: user.id, email: user.email })
		.from(user)
		.innerJoin(account, eq(account.userId, user.id))
		.where(ne(user.id, userId))
		.orderBy(asc(user.createdAt))
		.limit(1);
	if (!next) return;
	await db.update(user).set({ operator: true }).where(eq(user.id, next.id));
	await sendMail(next.email, 'You run this Tevrik now', [
		'Whoever ran this server has deleted their account. You have had yours for longest, so its mail and sign-up are yours.'
	]);
}
