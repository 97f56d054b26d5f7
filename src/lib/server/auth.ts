import { getRequestEvent } from '$app/server';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { betterAuth } from 'better-auth/minimal';
import { sveltekitCookies } from 'better-auth/svelte-kit';
import { v7 as uuid } from 'uuid';
import { database } from './db/connection';
import { account, session, user, verification } from './db/schema';
import { LONGEST_PASSWORD, SHORTEST_PASSWORD, hashed, matches } from './password';
import { sendMail } from './mail-store';
import { serverSecret } from './secret';

/** Seconds. */
const HOUR = 3600;
const DAY = 24 * HOUR;

const make = () =>
	betterAuth({
		appName: 'Tevrik',
		baseURL: process.env['ORIGIN'] ?? 'http://127.0.0.1',
		secret: serverSecret(),
		telemetry: { enabled: false },
		database: drizzleAdapter(database(), {
			provider: 'mysql',
			schema: { user, session, account, verification }
		}),
		emailAndPassword: {
			enabled: true,
			minPasswordLength: SHORTEST_PASSWORD,
			maxPasswordLength: LONGEST_PASSWORD,
			password: { hash: hashed, verify: ({ hash, password }) => matches(hash, password) },
			resetPasswordTokenExpiresIn: HOUR,
			revokeSessionsOnPasswordReset: true,
			sendResetPassword: async ({ user: person, token }) =>
				sendMail(person.email, 'A new password for Tevrik', [
					`Somebody, most likely you, asked for a new password. Choose it here within an hour:`,
					`${process.env['ORIGIN'] ?? ''}/reset/${token}`,
					'If it was not you, nothing has changed and nothing needs doing.'
				])
		},
		session: { expiresIn: 30 * DAY, updateAge: DAY },
		// Only the pages and API of Tevrik reach it, and they count tries themselves.
		rateLimit: { enabled: false },
		advanced: {
			cookiePrefix: 'tevrik',
			useSecureCookies: (process.env['ORIGIN'] ?? '').startsWith('https:'),
			database: { generateId: () => uuid() }
		},
		plugins: [sveltekitCookies(getRequestEvent)]
	});

let made: ReturnType<typeof make> | undefined;
/** The library that keeps accounts, opened at first use. Its own web addresses are not mounted. */
export const auth = (): ReturnType<typeof make> => (made ??= make());
