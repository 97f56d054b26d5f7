import { redirect } from '@sveltejs/kit';
import { again, typedIn } from '$lib/server/form';
import { invitationBehind } from '$lib/server/member-store';
import { firstAccountIsMissing, signUp } from '$lib/server/people-store';
import { signUpIsOpen } from '$lib/server/setting-store';
import type { Actions, PageServerLoad } from './$types';

const behind = async (url: URL) => {
	const token = url.searchParams.get('invitation');
	return token ? await invitationBehind(token) : undefined;
};

export const load: PageServerLoad = async ({ locals, url }) => {
	if (locals.person) redirect(303, '/');
	const [first, open, invitation] = await Promise.all([firstAccountIsMissing(), signUpIsOpen(), behind(url)]);
	return { first, open, invitation: invitation ?? null };
};

export const actions: Actions = {
	default: async ({ request, url, getClientAddress }) => {
		const { name = '', email = '', password = '', ...rest } = await typedIn(request);
		const token = url.searchParams.get('invitation') ?? undefined;
		const done = await signUp(
			{ name, email: email.trim(), password },
			getClientAddress(),
			request.headers,
			token
		);
		if (!done.ok) return again(done, { name, email, ...rest });
		redirect(303, token ? `/invite/${encodeURIComponent(token)}` : '/');
	}
};
