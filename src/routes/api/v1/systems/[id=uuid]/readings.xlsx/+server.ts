import { BookQuery, asked } from '$lib/api/queries';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { fileName } from '$lib/server/http/files';
import { workbookFile } from '$lib/server/archive/sheet-export';
import { systemFor } from '$lib/server/stores/systems';
import { decimalSign } from '$lib/ui/habits';
import { readingFor } from '$lib/ui/mine';
import type { RequestHandler } from './$types';

/** Readings as a workbook, in the units of whoever asks. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, BookQuery);
	if (!query.ok) return answer(query);
	const { name } = await systemFor(locals.asker, params.id);
	const bytes = await workbookFile(locals.asker, params.id, asked(query.value).filter, {
		reading: readingFor,
		decimal: decimalSign()
	});
	return new Response(bytes as Uint8Array<ArrayBuffer>, {
		headers: {
			'content-type': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
			'cache-control': 'private, no-store',
			'content-disposition': `attachment; filename="${fileName(name, 'xlsx')}"`
		}
	});
};
