import { isHttpError } from '@sveltejs/kit';
import { validate } from 'uuid';
import { inColumns } from '$lib/api/columns';
import { toSend } from '$lib/api/known-methods';
import { EARLIER_FIELDS } from '$lib/api/readings';
import { kitsFor } from '$lib/server/stores/methods';
import { packsOf } from '$lib/server/stores/packs';
import { provedNow } from '$lib/server/stores/checks';
import { earlierOf } from '$lib/server/stores/readings';
import { openRunOf, runWithEvents } from '$lib/server/stores/runs';
import { sourcesOf } from '$lib/server/stores/systems';
import { planInTime } from '$lib/server/work/run-plans';
import { openSteps } from '$lib/server/stores/plans';
import { levelsOf, outlookShown } from '$lib/server/answers/outlook';
import { poursView } from '$lib/ui/adjust/plan-view';
import { firstRequest } from '$lib/ui/bench/wish';
import { levelsFor, readingFor } from '$lib/ui/mine';
import { isEvening, isoDay } from '$lib/ui/when';
import type { PageServerLoad } from './$types';

/** As many earlier tests as are shown beside a new one, or taken away from it. */
const KNOWN = 10;

export const load: PageServerLoad = async ({ params, locals, url, untrack, parent }) => {
	// A page that begins or leaves a session has all it needs: only a fresh one asks.
	const wanted = untrack(() => url.searchParams.get('run'));
	const [methods, sources, latest, packs, open, run, { due, trends, asOf }, proved] = await Promise.all([
		kitsFor(locals.asker),
		sourcesOf(locals.asker, params.system),
		earlierOf(locals.asker, params.system, KNOWN),
		packsOf(locals.asker),
		openRunOf(locals.asker, params.system),
		// A device may hold a session the server has not heard of yet.
		wanted && validate(wanted)
			? runWithEvents(locals.asker, wanted).catch((failure: unknown) => {
					if (!isHttpError(failure, 404)) throw failure;
				})
			: undefined,
		outlookShown(locals.asker, params.system),
		provedNow(locals.asker, params.system)
	]);
	const { system } = await parent();
	const pours = await openSteps(locals.asker, params.system, isoDay(locals.at, system.timeZone));
	// An address asks for tests; what is typed later is the page's.
	const asked = untrack(() => url.searchParams.get('tests'))?.split(' ') ?? [];
	const request = wanted ? undefined : firstRequest(asked, { methods, sources, latest, due, packs });
	const plan = request && (await planInTime(request));
	return {
		asOf,
		planned: request && plan && { request, plan },
		pours: pours && poursView(pours, isEvening(locals.at, system.timeZone)),
		methods: toSend(methods),
		sources,
		latest: inColumns(latest.map(readingFor), EARLIER_FIELDS),
		packs,
		open: open ?? null,
		run: run?.record.systemId === params.system ? run : null,
		due,
		levels: levelsFor(levelsOf(trends)),
		proved
	};
};
