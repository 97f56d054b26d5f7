import { keptFor } from '$lib/server/http/cookies';
import { fail, redirect, type Cookies } from '@sveltejs/kit';
import { placeOf } from '$lib/server/identity/attempts';
import { DEMO_EMAIL, DEMO_PASSWORD, isDemo } from '$lib/server/demo/keeper';
import { again, placeAfter, typedIn } from '$lib/server/http/form';
import { KNOWN_COOKIE, firstAccountIsMissing, secondStep, signIn } from '$lib/server/identity/people';
import { passkeysWork } from '$lib/server/identity/second-step';
import { derivedSecret } from '$lib/server/identity/secret';
import { signUpIsOpen } from '$lib/server/identity/settings';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	if (locals.person) redirect(303, placeAfter(url.searchParams.get('to'), url.origin));
	const [first, open] = await Promise.all([firstAccountIsMissing(), signUpIsOpen()]);
	if (first && !isDemo()) redirect(303, '/signup');
	return { demo: isDemo(), open: open || first, passkeys: passkeysWork() };
};

const remember = (cookies: Cookies, url: URL, known: string) =>
	cookies.set(KNOWN_COOKIE, known, keptFor(url.protocol, '/signin'));

async function enter(event: RequestEvent, typed: Record<string, string>) {
	const { request, url, cookies } = event;
	const done = await signIn({
		email: typed['email']?.trim() ?? '',
		password: typed['password'] ?? '',
		place: placeOf(event.getClientAddress()),
		known: cookies.get(KNOWN_COOKIE),
		headers: request.headers
	});
	if (!done.ok) return again(done, typed);
	if (done.value.secondStep) return { code: true, known: undefined };
	remember(cookies, url, done.value.known);
	return redirect(303, placeAfter(url.searchParams.get('to'), url.origin));
}

export const actions: Actions = {
	in: async (event) => enter(event, await typedIn(event.request)),
	code: async ({ request, url, getClientAddress }) => {
		const typed = await typedIn(request);
		const done = await secondStep(typed['code'] ?? '', placeOf(getClientAddress()), request.headers);
		if (!done.ok) return fail(422, { ...again(done).data, code: true });
		return redirect(303, placeAfter(url.searchParams.get('to'), url.origin));
	},
	demo: async (event) => {
		if (!isDemo()) redirect(303, '/signin');
		return enter(event, { email: DEMO_EMAIL, password: derivedSecret(DEMO_PASSWORD) });
	}
};
