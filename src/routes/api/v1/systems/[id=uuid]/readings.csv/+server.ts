import { BookQuery, asked } from '$lib/api/queries';
import { answer, parsedQuery } from '$lib/server/answer';
import { fileName, streamed } from '$lib/server/files';
import { sheetFile } from '$lib/server/sheet-store';
import { systemFor } from '$lib/server/system-store';
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
