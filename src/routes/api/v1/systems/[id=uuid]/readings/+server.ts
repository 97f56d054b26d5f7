import { json } from '@sveltejs/kit';
import { SaveReading } from '$lib/api/readings';
import { BookQuery, asked, addressAfter } from '$lib/api/queries';
import { answer, parsedBody, parsedQuery } from '$lib/server/http/answer';
import { bookPage } from '$lib/server/answers/book';
import { saveOnce } from '$lib/server/http/once';
import { saveReading } from '$lib/server/stores/readings';
import type { RequestHandler } from './$types';

/** Readings, newest first, a page at a time. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, BookQuery);
	if (!query.ok) return answer(query);
	const { filter, before, limit } = asked({ ...query.value, lines: 'readings' });
	const page = await bookPage(locals.asker, params.id, filter, before, limit);
	return json({ readings: page.lines, next: addressAfter(url.pathname, url.searchParams, page.next) });
};

/** Saves a reading once for each Idempotency-Key. */
export const POST: RequestHandler = ({ params, request, locals }) =>
	saveOnce(request, locals.asker, params.id, async (id) => {
		const body = await parsedBody(request, SaveReading);
		return body.ok ? saveReading(locals.asker, id, body.value) : body;
	});
