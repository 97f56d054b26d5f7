/** A device's own keys, in place of a password. The library is loaded when it is first needed. */
import { call } from './api';

/** What went wrong between the browser and its keeper; browsers say little of it. */
const cancelled = (failure: unknown): string =>
	(failure as Error).name === 'InvalidStateError'
		? 'This device has a passkey for you already.'
		: 'The device gave no passkey: it was stopped, took too long, or has none for this place.';

async function send(
	path: '/signin/passkey' | '/account/passkeys',
	body: object
): Promise<string | undefined> {
	const done = await call('POST', path, body);
	return done.ok ? undefined : done.problems[0]!.message;
}

/** Lets in whoever has a passkey on this device; else says why not. */
export async function signInByPasskey(): Promise<string | undefined> {
	const asked = await call<never>('GET', '/signin/passkey');
	if (!asked.ok) return asked.problems[0]!.message;
	const { startAuthentication } = await import('@simplewebauthn/browser');
	try {
		const response = await startAuthentication({ optionsJSON: asked.value });
		return await send('/signin/passkey', { response });
	} catch (failure) {
		return cancelled(failure);
	}
}

/** Makes a passkey of this device, for whoever knows the password; else says why not. */
export async function addPasskey(name: string, password: string): Promise<string | undefined> {
	const offer = await call<never>('POST', '/account/passkeys/offer', { password });
	if (!offer.ok) {
		const [problem] = offer.problems;
		return problem!.path === '/present' ? `That ${problem!.message}.` : problem!.message;
	}
	const { startRegistration } = await import('@simplewebauthn/browser');
	try {
		const response = await startRegistration({ optionsJSON: offer.value });
		return await send('/account/passkeys', { name, response });
	} catch (failure) {
		return cancelled(failure);
	}
}
