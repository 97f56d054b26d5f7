import type { RequestHandler } from './$types';

const YEAR = 365 * 86_400;

/** Keeps the theme where the server sees it, so that no page flashes in the other one. */
export const POST: RequestHandler = async ({ request, cookies, url }) => {
	const theme = (await request.text()) === 'night' ? 'night' : 'paper';
	cookies.set('theme', theme, {
		path: '/',
		maxAge: YEAR,
		httpOnly: true,
		sameSite: 'lax',
		secure: url.protocol === 'https:'
	});
	return new Response(null, { status: 204 });
};
