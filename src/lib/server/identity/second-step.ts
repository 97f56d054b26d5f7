import { and, asc, eq } from 'drizzle-orm';
import { isIP } from 'node:net';
import { renderSVG } from 'uqr';
import { bad, good, type Outcome } from '../../../core/base';
import { mustBePerson, type Asker } from './asker';
import { firstUseOf, fromPlace } from './attempts';
import { auth } from './auth';
import { database, transaction } from '../db/connection';
import { apiToken, passkey, user } from '../db/schema';
import { notify } from './notices';
import { confirmed, needsNoPassword, withPassword } from './present-password';
import { USED_CODE, isRefusal, said } from './refusals';
import { endSessionOf } from './sessions';

/** What an authenticator needs, shown this once: its picture, the same in words, and codes for the day the authenticator is lost. */
interface NewAuthenticator {
	picture: string;
	secret: string;
	recovery: string[];
}

/** Whether a code is asked after this person's password. */
export async function hasSecondStep(asker: Asker): Promise<boolean> {
	mustBePerson(asker);
	const [found] = await database()
		.select({ on: user.twoFactorEnabled })
		.from(user)
		.where(eq(user.id, asker.userId));
	return found?.on ?? false;
}

/** Ways into an account that its password does not guard. */
export interface OtherWays {
	passkeys: string[];
	tokens: string[];
}
export async function otherWaysOf(userId: string): Promise<OtherWays> {
	const db = database();
	const [keys, tokens] = await Promise.all([
		db.select({ name: passkey.name }).from(passkey).where(eq(passkey.userId, userId)),
		db.select({ name: apiToken.name }).from(apiToken).where(eq(apiToken.userId, userId))
	]);
	return { passkeys: keys.map((k) => k.name ?? 'A device'), tokens: tokens.map((t) => t.name) };
}
export const endOtherWaysOf = (userId: string): Promise<void> =>
	transaction(async (db) => {
		await db.delete(passkey).where(eq(passkey.userId, userId));
		await db.delete(apiToken).where(eq(apiToken.userId, userId));
	});

/** Begins a second step by time-based codes (RFC 6238). It counts once a code has shown that the authenticator has it. */
export async function beginSecondStep(
	asker: Asker,
	headers: Headers,
	password: string
): Promise<Outcome<NewAuthenticator>> {
	mustBePerson(asker);
	return withPassword(asker, async () => {
		const made = await auth().api.enableTwoFactor({ headers, body: { password, method: 'totp' } });
		const { totpURI, backupCodes } = made as { totpURI: string; backupCodes: string[] };
		return {
			picture: renderSVG(totpURI, { ecc: 'M', border: 2 }),
			secret: new URL(totpURI).searchParams.get('secret') ?? '',
			recovery: backupCodes
		};
	});
}

/** The authenticator shows its first code: from now on one is asked at each sign-in. */
export async function confirmSecondStep(
	asker: Asker,
	headers: Headers,
	code: string
): Promise<Outcome<null>> {
	mustBePerson(asker);
	const shown = code.replace(/\s/g, '').slice(0, 10);
	if (!(await firstUseOf(shown, asker.userId))) return USED_CODE;
	const done = await withPassword(asker, () => auth().api.verifyTOTP({ headers, body: { code: shown } }));
	if (!done.ok) return done;
	await notify(asker.userId, 'A second step guards your Tevrik', [
		'From now on a code of your authenticator is asked after your password. Keep the recovery codes where you find them.'
	]);
	return good(null);
}

export async function endSecondStep(
	asker: Asker,
	headers: Headers,
	password: string
): Promise<Outcome<null>> {
	mustBePerson(asker);
	const done = await withPassword(asker, () => auth().api.disableTwoFactor({ headers, body: { password } }));
	if (!done.ok) return done;
	await notify(asker.userId, 'Your Tevrik has no second step any more', [
		'No code is asked after your password from now on.'
	]);
	return good(null);
}

/** New recovery codes in place of those that are left. */
export async function newRecoveryCodes(
	asker: Asker,
	headers: Headers,
	password: string
): Promise<Outcome<string[]>> {
	mustBePerson(asker);
	const done = await withPassword(asker, () =>
		auth().api.generateBackupCodes({ headers, body: { password } })
	);
	if (!done.ok) return done;
	await notify(asker.userId, 'New recovery codes for Tevrik', ['The earlier ones open nothing any more.']);
	return good(done.value.backupCodes);
}

/** Passkeys belong to a name, not to a number: browsers make none for an address such as 127.0.0.1 (WebAuthn, RP ID). */
export const passkeysWork = (): boolean => {
	const { hostname } = new URL(process.env['ORIGIN'] ?? 'http://127.0.0.1');
	return isIP(hostname.replace(/^\[|\]$/g, '')) === 0;
};

/** The asker's passkeys, oldest first. */
export async function passkeysOf(asker: Asker) {
	mustBePerson(asker);
	return database()
		.select({ id: passkey.id, name: passkey.name, createdAt: passkey.createdAt })
		.from(passkey)
		.where(eq(passkey.userId, asker.userId))
		.orderBy(asc(passkey.createdAt));
}

/** What a device has to sign to become a passkey of the asker's: told to whoever knows the password, since a passkey outlives a session. */
export async function passkeyOffer(
	asker: Asker,
	headers: Headers,
	password: string
): Promise<Outcome<object>> {
	mustBePerson(asker);
	if (!(await needsNoPassword(asker))) {
		const known = await confirmed(asker, headers, password);
		if (!known.ok) return known;
	}
	return refusable(() => auth().api.generatePasskeyRegistrationOptions({ headers }));
}

/** Keeps a device's answer as a passkey. */
export async function addPasskey(
	asker: Asker,
	headers: Headers,
	name: string,
	response: object
): Promise<Outcome<null>> {
	mustBePerson(asker);
	const done = await refusable(() =>
		auth().api.verifyPasskeyRegistration({
			headers,
			body: { response, name: name.trim().slice(0, 120) || 'A device' }
		})
	);
	if (!done.ok) return done;
	await notify(asker.userId, 'A passkey was added to your Tevrik', [
		`It is called “${name.trim().slice(0, 120)}”.`
	]);
	return good(null);
}

export async function removePasskey(asker: Asker, id: string): Promise<void> {
	mustBePerson(asker);
	await database()
		.delete(passkey)
		.where(and(eq(passkey.id, id), eq(passkey.userId, asker.userId)));
	await notify(asker.userId, 'A passkey was removed from your Tevrik', ['It opens nothing any more.']);
}

/** What a device that has a passkey has to sign to be let in. */
export async function passkeyQuestion(place: string, headers: Headers): Promise<Outcome<object>> {
	await fromPlace(place);
	return refusable(async () => ({
		...(await auth().api.generatePasskeyAuthenticationOptions({ headers })),
		userVerification: 'required'
	}));
}

/** Lets in whoever answers with a passkey: it is two steps in one, so no code is asked. */
export async function signInByPasskey(
	headers: Headers,
	response: object,
	place: string
): Promise<Outcome<null>> {
	await fromPlace(place);
	const before = (await auth().api.getSession({ headers }))?.session.token;
	const done = await refusable(() =>
		auth().api.verifyPasskeyAuthentication({ headers, body: { response: response as never } })
	);
	if (!done.ok) return done;
	await endSessionOf(before);
	return good(null);
}

async function refusable<T>(work: () => Promise<T>): Promise<Outcome<T>> {
	try {
		return good(await work());
	} catch (failure) {
		if (!isRefusal(failure)) throw failure;
		const outcome = said(failure);
		return outcome.ok ? bad('', 'was refused') : outcome;
	}
}
