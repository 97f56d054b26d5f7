import type { Handle, HandleServerError } from '@sveltejs/kit';
import { v7 as uuid } from 'uuid';
import { closeDatabase } from '$lib/server/db/connection';
import { log } from '$lib/server/log';
import { localKeeper } from '$lib/server/user-store';

export const handle: Handle = async ({ event, resolve }) => {
	event.locals.theme = event.cookies.get('theme') === 'night' ? 'night' : 'paper';
	// One keeper on this machine, until accounts come: the server listens on loopback only.
	event.locals.asker = await localKeeper();
	const response = await resolve(event, {
		transformPageChunk: ({ html }) =>
			html.replace('%tevrik.theme%', event.locals.theme === 'night' ? 'dark' : '')
	});
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	return response;
};

export const handleError: HandleServerError = ({ error, event, status, message }) => {
	if (status === 404) return { message };
	const id = uuid();
	log.error({ id, path: event.url.pathname, err: error }, 'unexpected');
	return { message: 'Something went wrong on the server. Nothing you saved is lost.', id };
};

process.on('sveltekit:shutdown', () => void closeDatabase());
