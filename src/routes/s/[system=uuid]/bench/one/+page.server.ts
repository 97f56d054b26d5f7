import { inColumns } from '$lib/api/columns';
import { toSend } from '$lib/api/known-methods';
import { EARLIER_FIELDS } from '$lib/api/readings';
import { kitsFor } from '$lib/server/stores/methods';
import { provedNow } from '$lib/server/stores/checks';
import { earlierOf } from '$lib/server/stores/readings';
import { sourcesOf } from '$lib/server/stores/systems';
import { levelsOf, outlookShown } from '$lib/server/answers/outlook';
import { levelsFor, readingFor } from '$lib/ui/mine';
import type { PageServerLoad } from './$types';

/** As many earlier tests as are shown beside a new one, or taken away from it. */
const KNOWN = 10;

export const load: PageServerLoad = async ({ params, locals }) => {
	const [methods, sources, latest, { trends, asOf }, proved] = await Promise.all([
		kitsFor(locals.asker),
		sourcesOf(locals.asker, params.system),
		earlierOf(locals.asker, params.system, KNOWN),
		outlookShown(locals.asker, params.system),
		provedNow(locals.asker, params.system)
	]);
	return {
		asOf,
		methods: toSend(methods),
		sources,
		latest: inColumns(latest.map(readingFor), EARLIER_FIELDS),
		levels: levelsFor(levelsOf(trends)),
		proved
	};
};
