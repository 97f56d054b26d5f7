import { redirect } from '@sveltejs/kit';
import { placeOf } from '$lib/server/identity/attempts';
import { again, typedIn } from '$lib/server/http/form';
import { invitationBehind } from '$lib/server/identity/members';
import { firstAccountIsMissing, signUp } from '$lib/server/identity/people';
import { signUpIsOpen } from '$lib/server/identity/settings';
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
			placeOf(getClientAddress()),
			request.headers,
			token
		);
		if (!done.ok) return again(done, { name, email, ...rest });
		redirect(303, '/');
	}
};
