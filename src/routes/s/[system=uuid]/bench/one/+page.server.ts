import { methodsFor } from '$lib/server/method-store';
import { latestOfEach } from '$lib/server/reading-store';
import { sourcesOf } from '$lib/server/system-store';
import type { PageServerLoad } from './$types';

/** As many earlier tests as what to expect is judged from. */
const KNOWN = 10;

export const load: PageServerLoad = async ({ params, locals }) => {
	const [methods, sources, latest] = await Promise.all([
		methodsFor(locals.asker),
		sourcesOf(locals.asker, params.system),
		latestOfEach(locals.asker, params.system, KNOWN)
	]);
	return { methods, sources, latest };
};
