import { redirect } from '@sveltejs/kit';
import { again, typedIn } from '$lib/server/form';
import { changePassword, endSession, profileOf, rename, sessionsOf, signOut } from '$lib/server/people-store';
import { makeToken, revokeToken, tokensOf } from '$lib/server/token-store';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const [profile, sessions, tokens] = await Promise.all([
		profileOf(locals.asker),
		sessionsOf(locals.asker),
		tokensOf(locals.asker)
	]);
	return { profile, sessions, tokens, here: locals.person?.sessionId ?? null };
};

export const actions: Actions = {
	name: async ({ request, locals }) => {
		const typed = await typedIn(request);
		const done = await rename(locals.asker, typed['name'] ?? '');
		return done.ok ? { said: 'Your name is changed.' } : again(done, typed);
	},
	password: async ({ request, locals }) => {
		void locals.asker;
		const typed = await typedIn(request);
		const done = await changePassword(request.headers, typed['current'] ?? '', typed['password'] ?? '');
		return done.ok ? { said: 'The new password is set; other devices are signed out.' } : again(done);
	},
	end: async ({ request, locals }) => {
		await endSession(locals.asker, (await typedIn(request))['id'] ?? '');
		return { said: 'That device is signed out.' };
	},
	token: async ({ request, locals }) => {
		const form = await request.formData();
		const systems = form.getAll('system').map(String);
		const done = await makeToken(locals.asker, {
			name: String(form.get('name') ?? ''),
			systems: form.get('which') === 'some' ? systems : null,
			writes: form.get('writes') === 'on'
		});
		return done.ok ? { token: done.value.token } : again(done, { tokenName: String(form.get('name') ?? '') });
	},
	revoke: async ({ request, locals }) => {
		await revokeToken(locals.asker, (await typedIn(request))['id'] ?? '');
		return { said: 'The token is revoked: from now on it opens nothing.' };
	},
	out: async ({ request }) => {
		await signOut(request.headers);
		redirect(303, '/signin');
	}
};
