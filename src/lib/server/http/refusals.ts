import { json, type RequestEvent } from '@sveltejs/kit';
import { problemDetails } from './answer';

/** When to come back after the database gave no answer, s. */
const RETRY_AFTER = 5;
const AWAY =
	'Tevrik’s database does not answer just now. Nothing you saved is lost; this page comes back by itself.';

/** When to come back to a full disk, s: somebody has to make room first. */
const RETRY_AFTER_FULL = 60;
const BUSY = 'Tevrik is computing a lot just now. Nothing you saved is lost; this page comes back by itself.';
const FULL =
	'The server’s disk is full, so nothing can be saved now. What was saved is safe, and new entries wait on this device. Whoever runs this server has to free some space.';

/** Why nothing can be served now: the database is away, its disk is full, or too much is being computed. */
export type Want = 'away' | 'full' | 'busy';
const SENTENCES: Record<Want, string> = { away: AWAY, full: FULL, busy: BUSY };
export const sentenceOf = (want: Want): string => SENTENCES[want];

/** The request cannot be served now: as whoever asked understands it, with when to come back. */
export function unavailable(event: RequestEvent, want: Want): Response {
	const seconds = want === 'full' ? RETRY_AFTER_FULL : RETRY_AFTER;
	const headers = { 'retry-after': String(seconds), 'cache-control': 'no-store' };
	const again = `<meta http-equiv="refresh" content="${seconds}">`;
	return refusal(event, 503, SENTENCES[want], headers, again);
}

/** A refusal before any page was asked: problem details for programs, a page's own form for its scripts, else a small page. */
export function refusal(
	event: Pick<RequestEvent, 'url' | 'request' | 'isDataRequest'>,
	status: number,
	message: string,
	headers: Record<string, string> = {},
	head = ''
): Response {
	const { url, request, isDataRequest } = event;
	if (url.pathname.startsWith('/api/') || request.headers.get('accept') === 'application/json') {
		const said = request.headers.has('x-sveltekit-action')
			? json({ type: 'error', error: { message } }, { status })
			: problemDetails(status, message);
		for (const [name, value] of Object.entries(headers)) said.headers.set(name, value);
		return said;
	}
	if (isDataRequest) return json({ message }, { status, headers });
	const page = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Tevrik</title>${head}<meta name="viewport" content="width=device-width"><style>body{font:1.1rem/1.5 system-ui,sans-serif;max-width:34rem;margin:15vh auto;padding:0 1rem;background:#faf6ee;color:#2b2620}a{color:inherit}@media (prefers-color-scheme:dark){body{background:#1d1915;color:#e6dccb}}</style></head><body><h1>Tevrik</h1><p>${message}</p><p><a href="">Try again</a></p></body></html>`;
	return new Response(page, {
		status,
		headers: {
			'content-type': 'text/html; charset=utf-8',
			'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'",
			...headers
		}
	});
}
