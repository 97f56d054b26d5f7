import { WatersQuery } from '$lib/api/waters';
import { parsedQuery } from '$lib/server/http/answer';
import { watersOf } from '$lib/server/answers/waters';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals: { asker } }) => {
	const query = parsedQuery(url, WatersQuery);
	return { beside: await watersOf(asker, params.system, query.ok ? query.value : {}) };
};
