import { error } from '@sveltejs/kit';
import { answer } from '$lib/server/http/answer';
import { bookFile } from '$lib/server/archive/book-export';
import { fileName, streamed } from '$lib/server/http/files';
import { systemFor } from '$lib/server/stores/systems';
import { inThread } from '$lib/server/work/pool';
import type { RequestHandler } from './$types';

/** Everything of a tank as `tevrik.book/1`. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { name } = await systemFor(locals.asker, params.id);
	return streamed(await bookFile(locals.asker, params.id), 'application/json', fileName(name, 'book.json'));
};

/** Takes such a file in as a tank under this id; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	if (!/^application\/json\b/i.test(request.headers.get('content-type') ?? ''))
		error(415, 'This is taken with content-type application/json only.');
	const bytes = new Uint8Array(await request.arrayBuffer());
	return answer(
		await inThread('files', 'takeBook', { asker: locals.asker, id: params.id, bytes }, [bytes.buffer])
	);
};
