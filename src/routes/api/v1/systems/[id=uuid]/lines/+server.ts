import { json } from '@sveltejs/kit';
import { BookQuery, addressAfter, asked } from '$lib/api/queries';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { bookPage } from '$lib/server/answers/book';
import type { RequestHandler } from './$types';

/** Readings and what was done in one stream, newest first: a page of the book. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, BookQuery);
	if (!query.ok) return answer(query);
	const { filter, before, limit } = asked(query.value);
	const page = await bookPage(locals.asker, params.id, filter, before, limit);
	return json({ lines: page.lines, next: addressAfter(url.pathname, url.searchParams, page.next) });
};
