import { keptFor } from '$lib/server/http/cookies';
import type { RequestHandler } from './$types';

/** Keeps the theme where the server sees it, so that no page flashes in the other one. */
export const POST: RequestHandler = async ({ request, cookies, url }) => {
	const theme = (await request.text()) === 'night' ? 'night' : 'paper';
	cookies.set('theme', theme, keptFor(url.protocol));
	return new Response(null, { status: 204 });
};
