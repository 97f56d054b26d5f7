import { AsyncResource } from 'node:async_hooks';
import { BookQuery, asked } from '$lib/api/queries';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { fileName, streamed } from '$lib/server/http/files';
import { sheetFile } from '$lib/server/archive/sheet-export';
import { systemFor } from '$lib/server/stores/systems';
import { decimalSign } from '$lib/ui/habits';
import { readingFor } from '$lib/ui/mine';
import type { RequestHandler } from './$types';

/** Readings as a sheet, in the units and with the decimal sign of whoever asks. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, BookQuery);
	if (!query.ok) return answer(query);
	const { name } = await systemFor(locals.asker, params.id);
	return streamed(
		sheetFile(locals.asker, params.id, asked(query.value).filter, {
			// Pieces are made later, when the reader has room for them: for the same person.
			reading: AsyncResource.bind(readingFor),
			decimal: decimalSign()
		}),
		'text/csv; charset=utf-8',
		fileName(name, 'csv')
	);
};
