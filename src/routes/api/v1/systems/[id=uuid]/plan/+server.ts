import { PlanQuery, wishOf } from '$lib/api/plans';
import { good } from '$core/base';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { planFor } from '$lib/server/answers/plans';
import type { RequestHandler } from './$types';

/** The plan for a tank as its water is known now, and the one that is followed. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, PlanQuery);
	return answer(query.ok ? good(await planFor(locals.asker, params.id, wishOf(query.value))) : query);
};
