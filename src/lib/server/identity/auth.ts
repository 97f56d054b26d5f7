import { DAY, HOUR, SECOND } from '../../../core/base';
import { getRequestEvent } from '$app/server';
import { APIError } from 'better-auth/api';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { betterAuth } from 'better-auth/minimal';
import { twoFactor as twoFactorPlugin } from 'better-auth/plugins/two-factor';
import { sveltekitCookies } from 'better-auth/svelte-kit';
import { passkey as passkeyPlugin } from '@better-auth/passkey';
import { v7 as uuid } from 'uuid';
import { cookiePrefix, isHttps } from './cookies';
import { database } from '../db/connection';
import { account, passkey, session, twoFactor, user, verification } from '../db/schema';
import { LONGEST_PASSWORD, SHORTEST_PASSWORD, hashed, matches } from './password';
import { log } from '../log';
import { sendMail } from './mail';
import { serverSecret } from './secret';
import { endEverySession, passwordChanged } from './notices';

const origin = (): string => process.env['ORIGIN'] ?? 'http://127.0.0.1';

/** Refuses a key whose device did not ask for a fingerprint, a face or a PIN: whoever found it could use it. */
function mustVerify(info: { userVerified?: boolean } | undefined): void {
	if (!info?.userVerified) throw new APIError('BAD_REQUEST', { code: 'USER_NOT_VERIFIED' });
}

const make = () =>
	betterAuth({
		appName: 'Tevrik',
		baseURL: origin(),
		secret: serverSecret(),
		telemetry: { enabled: false },
		// Its own lines hold statements with their values: tokens of sessions among them.
		logger: {
			level: 'error',
			log: (_level, _words, ...about) =>
				log.error({ err: about.find((a) => a instanceof Error) }, 'the library of accounts met a failure')
		},
		database: drizzleAdapter(database(), {
			provider: 'mysql',
			schema: { user, session, account, verification, twoFactor, passkey }
		}),
		emailAndPassword: {
			enabled: true,
			minPasswordLength: SHORTEST_PASSWORD,
			maxPasswordLength: LONGEST_PASSWORD,
			password: { hash: hashed, verify: ({ hash, password }) => matches(hash, password) },
			resetPasswordTokenExpiresIn: HOUR / SECOND,
			onPasswordReset: async ({ user: person }) => {
				await endEverySession(person.id);
				await passwordChanged(person.id);
			},
			sendResetPassword: async ({ user: person, token }) =>
				sendMail(person.email, 'A new password for Tevrik', [
					`Somebody, most likely you, asked for a new password. Choose it here within an hour:`,
					`${process.env['ORIGIN'] ?? ''}/reset/${token}`,
					'If it was not you, nothing has changed and nothing needs doing.'
				])
		},
		// A session that nobody uses for a month is over.
		session: { expiresIn: (30 * DAY) / SECOND, updateAge: DAY / SECOND },
		// Whoever reads the database cannot use a link that waits.
		verification: { storeIdentifier: 'hashed' },
		// Only the pages and API of Tevrik reach it, and they count tries themselves.
		rateLimit: { enabled: false },
		advanced: {
			// The prefix is ours: the library's own, `__Secure-`, lets subdomains set such cookies too.
			cookiePrefix: cookiePrefix(),
			useSecureCookies: false,
			defaultCookieAttributes: { secure: isHttps() },
			database: { generateId: () => uuid() }
		},
		plugins: [
			twoFactorPlugin({
				issuer: 'Tevrik',
				// Whoever gets here knows the password: after ten wrong codes nobody gets further for a quarter of an hour.
				accountLockout: { maxFailedAttempts: 10, durationSeconds: 15 * 60 },
				backupCodeOptions: { amount: 10, length: 10 }
			}),
			passkeyPlugin({
				rpID: new URL(origin()).hostname,
				rpName: 'Tevrik',
				origin: origin(),
				// It opens without password and code: two steps only where the device has asked who holds it (WebAuthn L3, 6.1: UV).
				authenticatorSelection: { userVerification: 'required', residentKey: 'required' },
				registration: {
					afterVerification: async ({ verification }) => mustVerify(verification.registrationInfo)
				},
				authentication: {
					afterVerification: async ({ verification }) => mustVerify(verification.authenticationInfo)
				}
			}),
			sveltekitCookies(getRequestEvent)
		]
	});

let made: ReturnType<typeof make> | undefined;
/** The library that keeps accounts, opened at first use. Its own web addresses are not mounted. */
export const auth = (): ReturnType<typeof make> => (made ??= make());
