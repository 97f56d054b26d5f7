import { PARAMETERS } from '$core/catalogue';
import { ProofQuery } from '$lib/api/proof';
import { parsedQuery } from '$lib/server/http/answer';
import { proofOf } from '$lib/server/answers/proof';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals: { asker } }) => {
	// An address somebody wrote by hand asks for what is usual.
	const query = parsedQuery(url, ProofQuery);
	const asked = query.ok && PARAMETERS.some((p) => p.id === query.value.of) ? query.value : {};
	return { proof: await proofOf(asker, params.system, asked) };
};
