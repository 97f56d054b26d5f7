import { answer } from '$lib/server/http/answer';
import { simulatedSheet } from '$lib/server/answers/labs';
import type { RequestHandler } from './$types';

/** The simulated lab's sheet of a sample that was posted to it, as CSV, once it is back. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const sheet = await simulatedSheet(locals.asker, params.id, params.sample);
	if (!sheet.ok) return answer(sheet);
	return new Response(sheet.value, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': 'attachment; filename="lab-sheet.csv"'
		}
	});
};
