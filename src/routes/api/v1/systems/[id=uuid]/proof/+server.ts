import { good } from '$core/base';
import { ProofQuery } from '$lib/api/proof';
import { answer, parsedQuery } from '$lib/server/http/answer';
import { proofOf } from '$lib/server/answers/proof';
import type { RequestHandler } from './$types';

/** What is known of the kits of one parameter, from what was read with them. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const query = parsedQuery(url, ProofQuery);
	return answer(query.ok ? good(await proofOf(locals.asker, params.id, query.value)) : query);
};
