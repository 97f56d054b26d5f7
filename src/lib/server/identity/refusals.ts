import { bad, type Outcome } from '../../../core/base';

/** What the accounts' library refuses, in our words and with the place. */

/** The library's own refusals have a code; anything else is a failure of ours. */
export const isRefusal = (failure: unknown): failure is { body?: { code?: string; message?: string } } =>
	(failure as { name?: string }).name === 'APIError' &&
	Number((failure as { statusCode?: number }).statusCode) < 500;

/** A code of an authenticator that was sent before: whoever looked over a shoulder learns no more than that. */
export const USED_CODE = bad('/code', 'is wrong or was used already; wait for the next code');

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
	USER_NOT_VERIFIED: [
		'',
		'This key did not ask for your fingerprint, face or PIN, so anyone who finds it could use it. Sign in with your password instead.'
	],
	INVALID_TOKEN: ['', 'This link was used already or is more than an hour old. Ask for a new one.']
};
export function said({ body }: { body?: { code?: string; message?: string } }): Outcome<never> {
	const [path, message] = SENTENCES[body?.code ?? ''] ?? ['', body?.message ?? 'was refused'];
	return bad(path, message);
}
