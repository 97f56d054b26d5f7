import { redirect } from '@sveltejs/kit';
import { DEMO_EMAIL, DEMO_PASSWORD, isDemo } from '$lib/server/demo-keeper';
import { again, placeAfter, typedIn } from '$lib/server/form';
import { firstAccountIsMissing, signIn } from '$lib/server/people-store';
import { derivedPassword } from '$lib/server/secret';
import { signUpIsOpen } from '$lib/server/setting-store';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	if (locals.person) redirect(303, placeAfter(url.searchParams.get('to')));
	const [first, open] = await Promise.all([firstAccountIsMissing(), signUpIsOpen()]);
	if (first && !isDemo()) redirect(303, '/signup');
	return { demo: isDemo(), open: open || first };
};

export const actions: Actions = {
	in: async ({ request, url, getClientAddress }) => {
		const typed = await typedIn(request);
		const done = await signIn(
			typed['email']?.trim() ?? '',
			typed['password'] ?? '',
			getClientAddress(),
			request.headers
		);
		if (!done.ok) return again(done, typed);
		redirect(303, placeAfter(url.searchParams.get('to')));
	},
	demo: async ({ request, url, getClientAddress }) => {
		if (!isDemo()) redirect(303, '/signin');
		const done = await signIn(
			DEMO_EMAIL,
			derivedPassword(DEMO_PASSWORD),
			getClientAddress(),
			request.headers
		);
		if (!done.ok) return again(done);
		redirect(303, placeAfter(url.searchParams.get('to')));
	}
};
