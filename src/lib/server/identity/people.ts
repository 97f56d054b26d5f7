import { isHttpError } from '@sveltejs/kit';
import { and, count, desc, eq, isNull, ne } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { v7 as uuid } from 'uuid';
import { bad, good, type Outcome } from '../../../core/problems';
import { mustBePerson, standing, writing, type Asker } from './asker';
import { fromPlace, succeeded, tryOnce, wasRight } from './attempts';
import { auth } from './auth';
import { now } from '../clock';
import { database, transaction } from '../db/connection';
import { touch } from '../db/stamps';
import { account, session, user } from '../db/schema';
import { DEMO_EMAIL, isDemo } from '../demo/keeper';
import { acceptInvitation, invitationBehind } from './members';
import { endLinksOf, notify, passwordChanged } from './notices';
import { log, someone } from '../log';
import { LONGEST_PASSWORD, flawOf, hashed } from './password';
import { derivedSecret, tokenHash } from './secret';
import { claimFirst, makeOperator, releaseFirst, signUpIsOpen } from './settings';

/** RFC 5321: an address is no longer than this, characters. */
const LONGEST_EMAIL = 254;

export interface SignUp {
	name: string;
	email: string;
	password: string;
}

interface Person {
	name: string;
	sessionId: string;
	/** What they ask as; it has been looked up already what they have. */
	asker: Asker;
}

/** What the library said of a session is believed for so long, ms, while the person's stamp stays what it was. */
const BELIEVED = 60_000;
const sessions = new LRUCache<string, { userId: string; name: string; sessionId: string; stamp: number }>({
	max: 10_000,
	ttl: BELIEVED
});
const TOKEN = /(?:^|;\s*)(?:__Secure-)?tevrik\.session_token=([^;]+)/;

/**
 * Whoever has a session on this request, or nobody. The library's answer is remembered for a moment: every session that ends
 * gives its person another stamp, which is asked for anyway, so that it ends at once, in every process.
 */
export async function personBehind(headers: Headers): Promise<Person | undefined> {
	const token = TOKEN.exec(headers.get('cookie') ?? '')?.[1];
	if (token === undefined) return undefined;
	const known = sessions.get(token);
	if (known) {
		const asker = { userId: known.userId };
		if ((await standing(asker)).stamp === known.stamp) return { ...known, asker };
		sessions.delete(token);
	}
	const found = await auth().api.getSession({ headers });
	if (!found) return undefined;
	const asker = { userId: found.user.id };
	const { stamp } = await standing(asker);
	// A session that ended between the two questions must not be remembered under the stamp of its end.
	if (stamp !== undefined && (await auth().api.getSession({ headers })))
		sessions.set(token, {
			userId: found.user.id,
			name: found.user.name,
			sessionId: found.session.id,
			stamp
		});
	return { name: found.user.name, sessionId: found.session.id, asker };
}

/** A session of theirs has ended: what is remembered of them is of before. */
const sessionEnded = (userId: string): Promise<void> => touch(database(), [userId]);

/**
 * Whether nobody has an account yet: then the first one may be made, and runs the server. The demo's keeper counts only while
 * the demo is shown.
 */
export async function firstAccountIsMissing(): Promise<boolean> {
	const [found] = await database()
		.select({ n: count() })
		.from(account)
		.innerJoin(user, eq(user.id, account.userId))
		.where(isDemo() ? undefined : ne(user.email, DEMO_EMAIL));
	return found!.n === 0;
}

/** What a browser keeps to show that an account has been signed in to from there: others' wrong tries do not slow it down. */
export const KNOWN_COOKIE = 'tevrik.known';
const knownTo = (email: string): string => derivedSecret(`known ${email.toLowerCase()}`);

export interface SignIn {
	email: string;
	password: string;
	/** Where from, as `placeOf` has it. */
	place: string;
	/** What stands in `KNOWN_COOKIE`. */
	known: string | undefined;
	headers: Headers;
}
/** What a right password opens: the account, or the question for a second step. */
export interface SignedIn {
	secondStep: boolean;
	/** For `KNOWN_COOKIE`. */
	known: string;
}

/** Signs in and sets the session's cookie. Problems: a wrong address or password (never which), too many tries. */
export async function signIn({ email, password, place, known, headers }: SignIn): Promise<Outcome<SignedIn>> {
	const wrong = bad('', 'This address and password do not go together.');
	if (email.length > LONGEST_EMAIL || password.length > LONGEST_PASSWORD) return wrong;
	const account = email.toLowerCase();
	const here = `${account} ${place}`;
	await fromPlace(place);
	const isKnown = known !== undefined && known === knownTo(account);
	const slow = (await tryOnce('here', here)) ?? (isKnown ? undefined : await tryOnce('anywhere', account));
	const told = (outcome: string) => log.info({ who: someone(account), place, outcome }, 'sign-in');
	if (slow) {
		told('too many tries');
		return slow;
	}
	const before = await sessionTokenOf(headers);
	let secondStep: boolean;
	try {
		const found = await auth().api.signInEmail({ headers, body: { email, password } });
		secondStep = 'twoFactorRedirect' in found;
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		told('wrong');
		return wrong;
	}
	told(secondStep ? 'asked for a code' : 'right');
	await succeeded('here', here);
	if (!isKnown) await wasRight('anywhere', account);
	// Behind a second step wrong codes are counted under the same name.
	if (!secondStep) await endSessionOf(before);
	return good({ secondStep, known: knownTo(account) });
}

/** The second step: a code of the authenticator, or one of the recovery codes. Problems: a wrong code, too many tries, too late. */
export async function secondStep(code: string, place: string, headers: Headers): Promise<Outcome<null>> {
	const asked = code.replace(/[\s-]/g, '').slice(0, 40);
	const challenge = tokenHash(headers.get('cookie')?.match(/two_factor=([^;]+)/)?.[1] ?? '').slice(0, 40);
	const slow = (await tryOnce('here', `code ${challenge}`)) ?? (await tryOnce('asking', `codes ${place}`));
	if (slow) return slow;
	const before = await sessionTokenOf(headers);
	try {
		if (/^\d{6}$/.test(asked)) await auth().api.verifyTOTP({ headers, body: { code: asked } });
		else {
			const { user: person } = await auth().api.verifyBackupCode({
				headers,
				body: { code: code.trim().slice(0, 40) }
			});
			await notify(person.id, 'A recovery code of Tevrik was used', [
				'Somebody signed in with one of your recovery codes. If it was you, you have one less.'
			]);
		}
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		log.info({ place, outcome: 'wrong' }, 'second step');
		return said(failure);
	}
	log.info({ place, outcome: 'right' }, 'second step');
	await endSessionOf(before);
	return good(null);
}

/**
 * Makes an account and signs in. The first one may always be made; others where sign-up is open or by an invitation, which is then
 * used. Problems: sign-up is closed, a bad address, a weak password, an address in use, too many tries.
 */
export async function signUp(
	sent: SignUp,
	place: string,
	headers: Headers,
	invitation?: string
): Promise<Outcome<null>> {
	const closed = bad(
		'',
		'Accounts are made by invitation here. Ask whoever runs this server, or a member of the tank.'
	);
	const missing = await firstAccountIsMissing();
	const invited = invitation !== undefined && (await invitationBehind(invitation)) !== undefined;
	if (!missing && !invited && !(await signUpIsOpen())) return closed;
	const slow = await tryOnce('asking', place);
	if (slow) return slow;
	if (!sent.name.trim()) return bad('/name', 'write the name others see beside your readings');
	if (sent.name.length > 120) return bad('/name', 'must have at most 120 characters');
	if (sent.email.length > LONGEST_EMAIL) return bad('/email', 'is not an e-mail address');
	const flaw = await flawOf(sent.password, [sent.name, sent.email]);
	if (flaw) return bad('/password', flaw);
	const claim = missing ? await claimFirst() : undefined;
	if (missing && !claim && !invited && !(await signUpIsOpen())) return closed;
	try {
		const name = sent.name.trim();
		const kept = claim ? await takeOver({ ...sent, name }, headers) : undefined;
		const userId = kept ?? (await auth().api.signUpEmail({ headers, body: { ...sent, name } })).user.id;
		if (claim) await makeOperator(userId, claim);
		else if (invited && !(await usedInvitation(userId, invitation))) {
			// Somebody else was quicker with the same link: it was for one person.
			await removePerson(userId);
			return bad('', 'This invitation has just been used by somebody else. Ask for a new link.');
		}
	} catch (failure) {
		if (claim) await releaseFirst(claim);
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
	return good(null);
}

async function usedInvitation(userId: string, token: string): Promise<boolean> {
	try {
		await acceptInvitation({ userId }, token);
		return true;
	} catch (failure) {
		if (isHttpError(failure, 404)) return false;
		throw failure;
	}
}

/** An account that has only just been made goes again. */
async function removePerson(userId: string): Promise<void> {
	await transaction(async (db) => {
		await db.delete(session).where(eq(session.userId, userId));
		await db.delete(account).where(eq(account.userId, userId));
		await db.delete(user).where(eq(user.id, userId));
	});
}

/** What was kept here before there were accounts belongs to the first who makes one. */
async function takeOver({ name, email, password }: SignUp, headers: Headers): Promise<string | undefined> {
	const db = database();
	const [kept] = await db
		.select({ id: user.id })
		.from(user)
		.leftJoin(account, eq(account.userId, user.id))
		.where(isNull(account.id))
		.limit(1);
	// The library checks the address on the way in; here it is asked for its rules by a sign-up that it refuses.
	if (!kept || !/^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(email)) return undefined;
	await db
		.update(user)
		.set({ name, email: email.toLowerCase(), updatedAt: now() })
		.where(eq(user.id, kept.id));
	await addPassword(kept.id, password);
	await auth().api.signInEmail({ headers, body: { email, password } });
	return kept.id;
}

/** Gives a person a password without asking for an earlier one. */
export async function addPassword(userId: string, password: string): Promise<void> {
	await database()
		.insert(account)
		.values({
			id: uuid(),
			userId,
			accountId: userId,
			providerId: 'credential',
			password: await hashed(password),
			createdAt: now(),
			updatedAt: now()
		});
}

/** Ends this session and takes its cookie. */
export async function signOut(headers: Headers): Promise<void> {
	const found = await auth().api.getSession({ headers });
	await auth().api.signOut({ headers });
	if (found) await sessionEnded(found.user.id);
}

/** Sends a link for a new password, where there is such an account; the answer does not tell. Earlier links end. */
export async function forgotPassword(email: string, place: string): Promise<Outcome<null>> {
	const slow = await tryOnce('asking', place);
	if (slow) return slow;
	if (email.length > LONGEST_EMAIL) return bad('/email', 'is not an e-mail address');
	const [found] = await database()
		.select({ id: user.id })
		.from(user)
		.where(eq(user.email, email.toLowerCase()));
	if (found) await endLinksOf(found.id);
	try {
		await auth().api.requestPasswordReset({ body: { email } });
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return bad('/email', 'is not an e-mail address');
	}
	return good(null);
}

/** Sets a new password by the secret of a link, and ends every session. Problems: a weak one, the link is spent or too old. */
export async function resetPassword(
	token: string,
	newPassword: string,
	place: string
): Promise<Outcome<null>> {
	const slow = await tryOnce('asking', place);
	if (slow) return slow;
	const flaw = await flawOf(newPassword, []);
	if (flaw) return bad('/password', flaw);
	try {
		await auth().api.resetPassword({ body: { token, newPassword } });
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
	return good(null);
}

/** Sets a new password and ends every other session. */
export async function changePassword(
	asker: Asker,
	headers: Headers,
	currentPassword: string,
	newPassword: string
): Promise<Outcome<null>> {
	const slow = await tryOnce('again', asker.userId);
	if (slow) return slow;
	const me = await profileOf(asker);
	const flaw = await flawOf(newPassword, [me.name, me.email]);
	if (flaw) return bad('/password', flaw);
	try {
		await auth().api.changePassword({
			headers,
			body: { currentPassword, newPassword, revokeOtherSessions: true }
		});
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
	await succeeded('again', asker.userId);
	await passwordChanged(asker.userId);
	return good(null);
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

/** The asker as they see themselves. */
export async function profileOf(asker: Asker) {
	mustBePerson(asker);
	const [found] = await database()
		.select({ name: user.name, email: user.email, operator: user.operator })
		.from(user)
		.where(eq(user.id, asker.userId));
	return found!;
}

export async function rename(asker: Asker, name: string): Promise<Outcome<null>> {
	mustBePerson(asker);
	if (!name.trim() || name.length > 120) return bad('/name', 'must have 1 to 120 characters');
	// What they wrote in their tanks bears their name.
	const tanks = [...(await standing(asker)).tanks.keys()];
	await writing(asker, [...tanks, asker.userId], (db) =>
		db.update(user).set({ name: name.trim(), updatedAt: now() }).where(eq(user.id, asker.userId))
	);
	return good(null);
}

/** The session this request has, so that a new one on the same device can end it. */
async function sessionTokenOf(headers: Headers): Promise<string | undefined> {
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

/** The library's own refusals have a code; anything else is a failure of ours. */
export const isRefusal = (failure: unknown): failure is { body?: { code?: string; message?: string } } =>
	(failure as { name?: string }).name === 'APIError' &&
	Number((failure as { statusCode?: number }).statusCode) < 500;

const SENTENCES: Record<string, [string, string]> = {
	PASSWORD_TOO_SHORT: ['/password', 'must have at least 12 characters'],
	PASSWORD_TOO_LONG: ['/password', 'must have at most 200 characters'],
	INVALID_PASSWORD: ['/current', 'is not your password'],
	INVALID_EMAIL: ['/email', 'is not an e-mail address'],
	VALIDATION_ERROR: ['/email', 'is not an e-mail address'],
	USER_ALREADY_EXISTS: ['/email', 'cannot be used; sign in, or ask for a new password'],
	USER_ALREADY_EXISTS_USE_ANOTHER_EMAIL: ['/email', 'cannot be used; sign in, or ask for a new password'],
	INVALID_CODE: ['/code', 'is not right; codes last half a minute'],
	INVALID_BACKUP_CODE: ['/code', 'is neither a code of now nor a recovery code that is left'],
	INVALID_TWO_FACTOR_COOKIE: ['', 'This took too long. Sign in again from the beginning.'],
	SESSION_NOT_FRESH: ['', 'For this you have to have signed in within a day: sign out and in again.'],
	INVALID_TOKEN: ['', 'This link was used already or is more than an hour old. Ask for a new one.']
};
export function said({ body }: { body?: { code?: string; message?: string } }): Outcome<never> {
	const [path, message] = SENTENCES[body?.code ?? ''] ?? ['', body?.message ?? 'was refused'];
	return bad(path, message);
}
