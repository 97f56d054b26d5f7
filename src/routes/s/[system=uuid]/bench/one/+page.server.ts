import { methodsFor } from '$lib/server/method-store';
import { latestOfEach } from '$lib/server/reading-store';
import { sourcesOf } from '$lib/server/system-store';
import { outlookOf } from '$lib/server/trend-store';
import type { PageServerLoad } from './$types';

/** As many earlier tests as are shown beside a new one, or taken away from it. */
const KNOWN = 10;

export const load: PageServerLoad = async ({ params, locals }) => {
	const [methods, sources, latest, { trends }] = await Promise.all([
		methodsFor(locals.asker),
		sourcesOf(locals.asker, params.system),
		latestOfEach(locals.asker, params.system, KNOWN),
		outlookOf(locals.asker, params.system)
	]);
	return { methods, sources, latest, trends };
};
