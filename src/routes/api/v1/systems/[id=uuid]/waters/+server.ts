import { good } from '$core/base';
import { WatersQuery } from '$lib/api/waters';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { watersOf } from '$lib/server/answers/waters';
import type { RequestHandler } from './$types';

/** What was read last of two waters of a tank, or of one beside reference sea water. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, WatersQuery);
	return answer(query.ok ? good(await watersOf(locals.asker, params.id, query.value)) : query);
};
