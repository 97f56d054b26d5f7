import { and, count, desc, eq, isNull, ne } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { bad, good, type Outcome } from '../../core/problems';
import { mustBePerson, type Asker } from './asker';
import { forgive, tryOnce } from './attempts';
import { auth } from './auth';
import { now } from './clock';
import { database } from './db/connection';
import { account, session, user } from './db/schema';
import { DEMO_EMAIL, isDemo } from './demo-keeper';
import { invitationBehind } from './member-store';
import { hashed } from './password';
import { signUpIsOpen } from './setting-store';

export interface SignUp {
	name: string;
	email: string;
	password: string;
}

/** Whoever has a session on this request, or nobody. */
export async function personBehind(headers: Headers) {
	const found = await auth().api.getSession({ headers });
	return found && { userId: found.user.id, name: found.user.name, sessionId: found.session.id };
}

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

/** Signs in and sets the session's cookie. Problems: a wrong address or password (never which), too many tries. */
export async function signIn(
	email: string,
	password: string,
	place: string,
	headers: Headers
): Promise<Outcome<null>> {
	const key = `${email.toLowerCase()} ${place}`.slice(0, 200);
	const slow = (await tryOnce('place', place)) ?? (await tryOnce('signIn', key));
	if (slow) return slow;
	try {
		await auth().api.signInEmail({ headers, body: { email, password } });
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return bad('', 'This address and password do not go together.');
	}
	await forgive('place', place);
	await forgive('signIn', key);
	return good(null);
}

/**
 * Makes an account and signs in. The first one may always be made; others where sign-up is open or by an invitation.
 * Problems: sign-up is closed, a bad address, a password that is too short, an address in use, too many tries.
 */
export async function signUp(
	sent: SignUp,
	place: string,
	headers: Headers,
	invitation?: string
): Promise<Outcome<null>> {
	const first = await firstAccountIsMissing();
	const invited = invitation !== undefined && (await invitationBehind(invitation)) !== undefined;
	if (!first && !invited && !(await signUpIsOpen()))
		return bad(
			'',
			'Accounts are made by invitation here. Ask whoever runs this server, or a member of the tank.'
		);
	const slow = await tryOnce('asking', place);
	if (slow) return slow;
	if (!sent.name.trim()) return bad('/name', 'write the name others see beside your readings');
	if (sent.name.length > 120) return bad('/name', 'must have at most 120 characters');
	try {
		if (!(first && (await claim(sent, headers))))
			await auth().api.signUpEmail({ headers, body: { ...sent, name: sent.name.trim() } });
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
	if (first) {
		const db = database();
		await db.update(user).set({ operator: false }).where(eq(user.email, DEMO_EMAIL));
		await db.update(user).set({ operator: true }).where(eq(user.email, sent.email.toLowerCase()));
	}
	return good(null);
}

/** What was kept here before there were accounts belongs to the first who makes one. */
async function claim({ name, email, password }: SignUp, headers: Headers): Promise<boolean> {
	const db = database();
	const [kept] = await db
		.select({ id: user.id })
		.from(user)
		.leftJoin(account, eq(account.userId, user.id))
		.where(isNull(account.id))
		.limit(1);
	if (!kept) return false;
	// The library checks address and password on the way in; here it is asked for its rules by a sign-up that it refuses.
	if (!/^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(email) || password.length < 10) return false;
	await db
		.update(user)
		.set({ name: name.trim(), email: email.toLowerCase(), updatedAt: now() })
		.where(eq(user.id, kept.id));
	await addPassword(kept.id, password);
	await auth().api.signInEmail({ headers, body: { email, password } });
	return true;
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
	await auth().api.signOut({ headers });
}

/** Sends a link for a new password, where there is such an account; the answer does not tell. */
export async function forgotPassword(email: string, place: string): Promise<Outcome<null>> {
	const slow = await tryOnce('asking', place);
	if (slow) return slow;
	try {
		await auth().api.requestPasswordReset({ body: { email } });
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return bad('/email', 'is not an e-mail address');
	}
	return good(null);
}

/** Sets a new password by the secret of a link, and ends every session. Problems: the link is spent or too old. */
export async function resetPassword(token: string, newPassword: string): Promise<Outcome<null>> {
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
	headers: Headers,
	currentPassword: string,
	newPassword: string
): Promise<Outcome<null>> {
	try {
		await auth().api.changePassword({
			headers,
			body: { currentPassword, newPassword, revokeOtherSessions: true }
		});
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
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
	await database()
		.delete(session)
		.where(and(eq(session.id, id), eq(session.userId, asker.userId)));
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
	await database().update(user).set({ name: name.trim(), updatedAt: now() }).where(eq(user.id, asker.userId));
	return good(null);
}

/** The library's own refusals have a code; anything else is a failure of ours. */
const isRefusal = (failure: unknown): failure is { body?: { code?: string; message?: string } } =>
	(failure as { name?: string }).name === 'APIError' &&
	Number((failure as { statusCode?: number }).statusCode) < 500;

const SENTENCES: Record<string, [string, string]> = {
	PASSWORD_TOO_SHORT: ['/password', 'must have at least 10 characters'],
	PASSWORD_TOO_LONG: ['/password', 'must have at most 200 characters'],
	INVALID_PASSWORD: ['/current', 'is not your password'],
	INVALID_EMAIL: ['/email', 'is not an e-mail address'],
	VALIDATION_ERROR: ['/email', 'is not an e-mail address'],
	USER_ALREADY_EXISTS: ['/email', 'cannot be used; sign in, or ask for a new password'],
	USER_ALREADY_EXISTS_USE_ANOTHER_EMAIL: ['/email', 'cannot be used; sign in, or ask for a new password'],
	INVALID_TOKEN: ['', 'This link was used already or is more than an hour old. Ask for a new one.']
};
function said({ body }: { body?: { code?: string; message?: string } }): Outcome<never> {
	const [path, message] = SENTENCES[body?.code ?? ''] ?? ['', body?.message ?? 'was refused'];
	return bad(path, message);
}
