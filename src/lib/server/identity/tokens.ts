import { and, desc, eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { HOUR, bad, flawOfName, good, type Outcome } from '../../../core/base';
import { mustBePerson, roleOf, type Asker } from './asker';
import { now } from '../clock';
import { database, unlessFull } from '../db/connection';
import { apiToken } from '../db/schema';
import { notify } from './notices';
import { confirmed, needsNoPassword } from './present-password';
import { newToken, tokenHash } from './secret';

/** Tokens one person may have; past this something makes them in a loop. */
const MOST = 50;
/** When a token was used last is kept to the hour, ms. */
const USED_STEP = HOUR;

interface NewToken {
	name: string;
	/** Null: every tank of this person, those to come too. */
	systems: string[] | null;
	writes: boolean;
	/** From then on it opens nothing; null: until it is revoked. */
	expiresAt: Date | null;
	/** A new password ends it too. */
	endsWithPassword: boolean;
}

/** The asker's tokens, newest first; their secrets are not kept. */
export async function tokensOf(asker: Asker) {
	mustBePerson(asker);
	const { id, name, systems, writes, createdAt, usedAt, expiresAt, endsWithPassword } = apiToken;
	return database()
		.select({ id, name, systems, writes, createdAt, usedAt, expiresAt, endsWithPassword })
		.from(apiToken)
		.where(eq(apiToken.userId, asker.userId))
		.orderBy(desc(apiToken.createdAt));
}

/** Makes a token and tells it, this once. Problems: a wrong password, no name, a tank that is not theirs, too many. */
export async function makeToken(
	asker: Asker,
	sent: NewToken,
	headers: Headers,
	password: string
): Promise<Outcome<{ token: string }>> {
	mustBePerson(asker);
	const db = database();
	const name = sent.name.trim();
	if (!name || name.length > 80) return bad('/name', 'must have 1 to 80 characters');
	const misspelt = flawOfName(name);
	if (misspelt) return bad('/name', misspelt);
	for (const id of sent.systems ?? [])
		if (!(await roleOf(asker, id))) return bad('/systems', 'names a tank that is not yours');
	if (sent.expiresAt && sent.expiresAt <= now()) return bad('/expiresAt', 'lies behind us');
	if (sent.systems?.length === 0) return bad('/systems', 'choose at least one tank');
	if ((await tokensOf(asker)).length >= MOST) return bad('', `you have ${MOST} tokens; revoke one first`);
	if (!(await needsNoPassword(asker))) {
		const known = await confirmed(asker, headers, password, '/tokenPassword');
		if (!known.ok) return known;
	}
	const { token, hash } = newToken('tvk_');
	await db.insert(apiToken).values({
		id: uuid(),
		userId: asker.userId,
		name,
		hash,
		systems: sent.systems,
		writes: sent.writes,
		expiresAt: sent.expiresAt,
		endsWithPassword: sent.endsWithPassword,
		createdAt: now()
	});
	await notify(asker.userId, 'A token for your Tevrik was made', [
		`It is called “${name}” and ${sent.writes ? 'reads and writes' : 'reads'} ${sent.systems ? 'the tanks you chose' : 'all your tanks'}.`
	]);
	return good({ token });
}

export async function revokeToken(asker: Asker, id: string): Promise<void> {
	mustBePerson(asker);
	await database()
		.delete(apiToken)
		.where(and(eq(apiToken.id, id), eq(apiToken.userId, asker.userId)));
}

/** Who asks with a token, or nobody. */
export async function askerOfToken(token: string): Promise<Asker | undefined> {
	const db = database();
	const [found] = await db
		.select()
		.from(apiToken)
		.where(eq(apiToken.hash, tokenHash(token)));
	if (!found || (found.expiresAt && found.expiresAt <= now())) return undefined;
	if (!found.usedAt || now().getTime() - found.usedAt.getTime() > USED_STEP)
		await db.update(apiToken).set({ usedAt: now() }).where(eq(apiToken.id, found.id)).catch(unlessFull);
	return { userId: found.userId, token: { systems: found.systems ?? null, writes: found.writes } };
}
