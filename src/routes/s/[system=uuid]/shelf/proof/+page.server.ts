import { PARAMETERS } from '$core/catalogue';
import { KitChecksQuery } from '$lib/api/kit-checks';
import { parsedQuery } from '$lib/server/http/answer';
import { kitChecksOf } from '$lib/server/answers/kit-checks';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals: { asker } }) => {
	// An address somebody wrote by hand asks for what is usual.
	const query = parsedQuery(url, KitChecksQuery);
	const asked = query.ok && PARAMETERS.some((p) => p.id === query.value.of) ? query.value : {};
	return { checks: await kitChecksOf(asker, params.system, asked) };
};
