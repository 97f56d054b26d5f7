import { BookQuery, asked } from '$lib/api/queries';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { fileName, streamed } from '$lib/server/http/files';
import { sheetFile } from '$lib/server/archive/sheet-export';
import { systemFor } from '$lib/server/stores/systems';
import type { RequestHandler } from './$types';

/** Readings as a sheet. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, BookQuery);
	if (!query.ok) return answer(query);
	const { name } = await systemFor(locals.asker, params.id);
	return streamed(
		sheetFile(locals.asker, params.id, asked(query.value).filter),
		'text/csv; charset=utf-8',
		fileName(name, 'csv')
	);
};
