import { json } from '@sveltejs/kit';
import { SaveEvent } from '$lib/api/events';
import { BookQuery, asked, addressAfter } from '$lib/api/queries';
import { answer, parsedBody, parsedQuery } from '$lib/server/http/answer';
import { bookPage } from '$lib/server/answers/book';
import { saveEvent } from '$lib/server/stores/events';
import { saveOnce } from '$lib/server/http/once';
import type { RequestHandler } from './$types';

/** What was done to a tank, newest first, a page at a time. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, BookQuery);
	if (!query.ok) return answer(query);
	const { filter, before, limit } = asked({ ...query.value, lines: 'events' });
	const page = await bookPage(locals.asker, params.id, filter, before, limit);
	return json({ events: page.lines, next: addressAfter(url.pathname, url.searchParams, page.next) });
};

/** Keeps an event once for each Idempotency-Key. */
export const POST: RequestHandler = ({ params, request, locals }) =>
	saveOnce(request, locals.asker, params.id, async (id) => {
		const body = await parsedBody(request, SaveEvent);
		return body.ok ? saveEvent(locals.asker, id, body.value) : body;
	});
