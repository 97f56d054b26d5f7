import { error, redirect, type Handle, type HandleServerError } from '@sveltejs/kit';
import { v7 as uuid } from 'uuid';
import { asApi, problemDetails } from '$lib/server/answer';
import type { Asker } from '$lib/server/asker';
import { closeDatabase } from '$lib/server/db/connection';
import { log } from '$lib/server/log';
import { personBehind } from '$lib/server/people-store';
import { askerOfToken } from '$lib/server/token-store';

/** Addresses that answer whoever asks: ways in, what needs no account, and links that carry a secret of their own. */
const OPEN = [
	/^\/(signin|signup|forgot|theme)$/,
	/^\/(reset|invite)\/[^/]+$/,
	/^\/calendar\/[^/]+$/,
	/^\/api\/v1\/(calc\/[^/]+|openapi\.json|methods\/schema|books\/schema)$/,
	/^\/api\/v1$/
];
/** A request that only looks. */
const LOOKS = ['GET', 'HEAD', 'OPTIONS'];

export const handle: Handle = async ({ event, resolve }) => {
	const { locals, url, request, cookies } = event;
	locals.theme = cookies.get('theme') === 'night' ? 'night' : 'paper';
	const api = url.pathname.startsWith('/api/');
	const bearer = /^Bearer (\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1];
	let asker: Asker | undefined;
	locals.person = undefined;
	if (bearer !== undefined) asker = api ? await askerOfToken(bearer) : undefined;
	else {
		const person = await personBehind(request.headers);
		if (person) {
			locals.person = { name: person.name, sessionId: person.sessionId };
			asker = { userId: person.userId };
		}
	}
	// No route can forget to ask: without an asker there is nothing to hand to a store.
	Object.defineProperty(locals, 'asker', {
		get: () => asker ?? error(401, 'Sign in first.')
	});
	if (!asker && !OPEN.some((address) => address.test(url.pathname))) {
		if (api) {
			const refused = problemDetails(401, 'Sign in, or send a token.');
			refused.headers.set('www-authenticate', 'Bearer');
			return refused;
		}
		const back = LOOKS.includes(request.method) && url.pathname !== '/' ? url.pathname + url.search : '';
		redirect(303, back ? `/signin?to=${encodeURIComponent(back)}` : '/signin');
	}
	const resolved = await resolve(event, {
		transformPageChunk: ({ html }) => html.replace('%tevrik.theme%', locals.theme === 'night' ? 'dark' : '')
	});
	const response = api && url.pathname !== '/api/v1' ? await asApi(request, resolved) : resolved;
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	return response;
};

export const handleError: HandleServerError = ({ error: failure, event, status, message }) => {
	if (status === 404) return { message };
	const id = uuid();
	log.error({ id, path: event.url.pathname, err: failure }, 'unexpected');
	return { message: 'Something went wrong on the server. Nothing you saved is lost.', id };
};

process.on('sveltekit:shutdown', () => void closeDatabase());
