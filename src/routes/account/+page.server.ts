import { redirect } from '@sveltejs/kit';
import { DAY, type Outcome } from '$core/base';
import { deleteAccount } from '$lib/server/identity/accounts';
import { now } from '$lib/server/clock';
import { again, typedIn } from '$lib/server/http/form';
import { changePassword, profileOf, rename } from '$lib/server/identity/people';
import { endSession, sessionsOf, signOut } from '$lib/server/identity/sessions';
import {
	beginSecondStep,
	confirmSecondStep,
	endSecondStep,
	hasSecondStep,
	newRecoveryCodes,
	passkeysOf,
	passkeysWork,
	removePasskey
} from '$lib/server/identity/second-step';
import { needsNoPassword } from '$lib/server/identity/present-password';
import { makeToken, revokeToken, tokensOf } from '$lib/server/identity/tokens';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const [profile, sessions, tokens, secondStep, passkeys, noPassword] = await Promise.all([
		profileOf(locals.asker),
		sessionsOf(locals.asker),
		tokensOf(locals.asker),
		hasSecondStep(locals.asker),
		passkeysOf(locals.asker),
		needsNoPassword(locals.asker)
	]);
	return {
		profile,
		sessions,
		tokens,
		secondStep,
		passkeys,
		passkeysWork: passkeysWork(),
		asksPassword: !noPassword,
		here: locals.person?.sessionId ?? null
	};
};

/** A wrong present password is said beside the field it was typed in. */
function againAt(outcome: Outcome<unknown>, path: string) {
	const there = outcome.ok
		? outcome
		: {
				ok: false as const,
				problems: outcome.problems.map((p) => (p.path === '/current' ? { ...p, path } : p))
			};
	return again(there);
}

export const actions: Actions = {
	name: async ({ request, locals }) => {
		const typed = await typedIn(request);
		const done = await rename(locals.asker, typed['name'] ?? '');
		return done.ok ? { said: 'Your name is changed.' } : again(done, typed);
	},
	password: async ({ request, locals }) => {
		const typed = await typedIn(request);
		const done = await changePassword(
			locals.asker,
			request.headers,
			typed['current'] ?? '',
			typed['password'] ?? ''
		);
		return done.ok ? { said: 'The new password is set; other devices are signed out.' } : again(done);
	},
	end: async ({ request, locals }) => {
		await endSession(locals.asker, (await typedIn(request))['id'] ?? '');
		return { said: 'That device is signed out.' };
	},
	token: async ({ request, locals }) => {
		const form = await request.formData();
		const systems = form.getAll('system').map(String);
		const days = Number(form.get('days') ?? 0);
		const wanted = {
			name: String(form.get('name') ?? ''),
			systems: form.get('which') === 'some' ? systems : null,
			writes: form.get('writes') === 'on',
			expiresAt: days > 0 ? new Date(now().getTime() + days * DAY) : null,
			endsWithPassword: form.get('endsWithPassword') === 'on'
		};
		const password = String(form.get('tokenPassword') ?? '');
		const done = await makeToken(locals.asker, wanted, request.headers, password);
		return done.ok ? { token: done.value.token } : again(done, { tokenName: String(form.get('name') ?? '') });
	},
	revoke: async ({ request, locals }) => {
		await revokeToken(locals.asker, (await typedIn(request))['id'] ?? '');
		return { said: 'The token is revoked: from now on it opens nothing.' };
	},
	secondStep: async ({ request, locals }) => {
		const done = await beginSecondStep(
			locals.asker,
			request.headers,
			(await typedIn(request))['present'] ?? ''
		);
		return done.ok ? { authenticator: done.value } : againAt(done, '/present');
	},
	confirm: async ({ request, locals }) => {
		const done = await confirmSecondStep(
			locals.asker,
			request.headers,
			(await typedIn(request))['code'] ?? ''
		);
		return done.ok
			? { said: 'The second step is on: a code is asked after your password from now on.' }
			: again(done);
	},
	endSecondStep: async ({ request, locals }) => {
		const done = await endSecondStep(
			locals.asker,
			request.headers,
			(await typedIn(request))['present'] ?? ''
		);
		return done.ok ? { said: 'The second step is off.' } : againAt(done, '/present');
	},
	recovery: async ({ request, locals }) => {
		const done = await newRecoveryCodes(
			locals.asker,
			request.headers,
			(await typedIn(request))['present'] ?? ''
		);
		return done.ok ? { recovery: done.value } : againAt(done, '/present');
	},
	passkey: async ({ request, locals }) => {
		await removePasskey(locals.asker, (await typedIn(request))['id'] ?? '');
		return { said: 'The passkey is removed: it opens nothing any more.' };
	},
	delete: async ({ request, locals }) => {
		const done = await deleteAccount(
			locals.asker,
			request.headers,
			(await typedIn(request))['farewell'] ?? ''
		);
		if (!done.ok) return again(done);
		redirect(303, '/signin');
	},
	out: async ({ request }) => {
		await signOut(request.headers);
		redirect(303, '/signin');
	}
};
