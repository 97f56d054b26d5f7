import { good } from '$core/base';
import { KitChecksQuery } from '$lib/api/kit-checks';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { kitChecksOf } from '$lib/server/answers/kit-checks';
import type { RequestHandler } from './$types';

/** What is known of the kits of one parameter, from what was read with them. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, KitChecksQuery);
	return answer(query.ok ? good(await kitChecksOf(locals.asker, params.id, query.value)) : query);
};
