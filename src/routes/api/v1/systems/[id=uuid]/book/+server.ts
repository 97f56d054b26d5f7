import { Book } from '$core/formats';
import { LONGEST_BOOK, answer, parsedBody } from '$lib/server/answer';
import { bookFile, takeBook } from '$lib/server/book-file-store';
import { fileName, streamed } from '$lib/server/files';
import { systemFor } from '$lib/server/system-store';
import type { RequestHandler } from './$types';

/** Everything of a tank as `tevrik.book/1`. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { name } = await systemFor(locals.asker, params.id);
	return streamed(bookFile(locals.asker, params.id), 'application/json', fileName(name, 'book.json'));
};

/** Takes such a file in as a tank under this id; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, Book, LONGEST_BOOK);
	return answer(body.ok ? await takeBook(locals.asker, params.id, body.value) : body);
};
