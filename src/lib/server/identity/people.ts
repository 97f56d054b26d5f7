import { wasRefused } from '../refuse';
import { count, eq, isNull, ne } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { bad, flawOfName, good, type Outcome } from '../../../core/base';
import { mustBePerson, standing, writing, type Asker } from './asker';
import { firstUseOf, fromPlace, succeeded, tryOnce, wasRight } from './attempts';
import { auth } from './auth';
import { challengeCookie, cookieOf } from './cookies';
import { now } from '../clock';
import { database, transaction } from '../db/connection';
import { account, session, user } from '../db/schema';
import { DEMO_EMAIL, isDemo } from '../demo/keeper';
import { acceptInvitation, invitationBehind } from './members';
import { endLinksOf, notify, passwordChanged } from './notices';
import { log, someone } from '../log';
import { LONGEST_PASSWORD, flawOf, hashed } from './password';
import { derivedSecret, tokenHash } from './secret';
import { USED_CODE, isRefusal, said } from './refusals';
import { endOtherWaysOf, otherWaysOf, type OtherWays } from './second-step';
import { endSessionOf, sessionTokenOf } from './sessions';
import { claimFirst, makeOperator, releaseFirst, signUpIsOpen } from './settings';

/** RFC 5321: an address is no longer than this, characters. */
const LONGEST_EMAIL = 254;

interface SignUp {
	name: string;
	email: string;
	password: string;
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

/** What a browser keeps to show that an account has been signed in to from there: others' wrong tries do not slow it down. */
export const KNOWN_COOKIE = 'tevrik-known';
const knownTo = (email: string): string => derivedSecret(`known ${email.toLowerCase()}`);

interface SignIn {
	email: string;
	password: string;
	/** Where from, as `placeOf` has it. */
	place: string;
	/** What stands in `KNOWN_COOKIE`. */
	known: string | undefined;
	headers: Headers;
}
/** What a right password opens: the account, or the question for a second step. */
interface SignedIn {
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

/** Whom the question for a second step on this request is about; the library checks afterwards that the question is its own. */
async function personAsked(headers: Headers): Promise<string> {
	const cookie = decodeURIComponent(cookieOf(headers, challengeCookie()) ?? '');
	const { internalAdapter } = await auth().$context;
	const found = await internalAdapter.findVerificationValue(cookie.slice(0, cookie.lastIndexOf('.')));
	return found?.value ?? '';
}

/** The second step: a code of the authenticator, or one of the recovery codes. Problems: a wrong code, too many tries, too late. */
export async function secondStep(code: string, place: string, headers: Headers): Promise<Outcome<null>> {
	const asked = code.replace(/[\s-]/g, '').slice(0, 40);
	const challenge = tokenHash(cookieOf(headers, challengeCookie()) ?? '').slice(0, 40);
	const slow = (await tryOnce('here', `code ${challenge}`)) ?? (await tryOnce('asking', `codes ${place}`));
	if (slow) return slow;
	const before = await sessionTokenOf(headers);
	try {
		if (/^\d{6}$/.test(asked)) {
			if (!(await firstUseOf(asked, await personAsked(headers)))) return USED_CODE;
			await auth().api.verifyTOTP({ headers, body: { code: asked } });
		} else {
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
	const misspelt = flawOfName(sent.name);
	if (misspelt) return bad('/name', misspelt);
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
		if (wasRefused(failure, 404)) return false;
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
async function addPassword(userId: string, password: string): Promise<void> {
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

/** Whose link for a new password this is; nobody where it is spent or too old. */
async function personOfLink(token: string): Promise<string | undefined> {
	const { internalAdapter } = await auth().$context;
	const found = await internalAdapter.findVerificationValue(`reset-password:${token.slice(0, 100)}`);
	return found && found.expiresAt > new Date() ? found.value : undefined;
}

/** What else opens the account that a link is for; nothing where the link opens nothing. */
export async function otherWaysBehind(token: string): Promise<OtherWays | null> {
	const userId = await personOfLink(token);
	return userId === undefined ? null : otherWaysOf(userId);
}

/**
 * Sets a new password by the secret of a link, and ends every session; passkeys and tokens too where that is wanted. Problems: a
 * weak one, the link is spent or too old.
 */
export async function resetPassword(
	token: string,
	newPassword: string,
	place: string,
	endOthers = false
): Promise<Outcome<null>> {
	const slow = await tryOnce('asking', place);
	if (slow) return slow;
	const flaw = await flawOf(newPassword, []);
	if (flaw) return bad('/password', flaw);
	const userId = await personOfLink(token);
	try {
		await auth().api.resetPassword({ body: { token, newPassword } });
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		return said(failure);
	}
	if (endOthers && userId !== undefined) await endOtherWaysOf(userId);
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
	const misspelt = flawOfName(name);
	if (misspelt) return bad('/name', misspelt);
	// What they wrote in their tanks bears their name.
	const tanks = [...(await standing(asker)).tanks.keys()];
	await writing(asker, [...tanks, asker.userId], (db) =>
		db.update(user).set({ name: name.trim(), updatedAt: now() }).where(eq(user.id, asker.userId))
	);
	return good(null);
}
