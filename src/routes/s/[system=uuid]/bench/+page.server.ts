import { isHttpError } from '@sveltejs/kit';
import { validate } from 'uuid';
import { dueByRoutine } from '$core/targets';
import { now } from '$lib/server/clock';
import { methodsFor } from '$lib/server/method-store';
import { packsOf } from '$lib/server/pack-store';
import { latestOfEach } from '$lib/server/reading-store';
import { openRunOf, runWithEvents } from '$lib/server/run-store';
import { sourcesOf } from '$lib/server/system-store';

import type { PageServerLoad } from './$types';

/** As many earlier tests as what to expect is judged from. */
const KNOWN = 10;

export const load: PageServerLoad = async ({ params, locals, url, parent, untrack }) => {
	// A page that begins or leaves an evening has all it needs: only a fresh one asks.
	const wanted = untrack(() => url.searchParams.get('run'));
	const [methods, sources, latest, packs, open, run, { system }] = await Promise.all([
		methodsFor(locals.asker),
		sourcesOf(locals.asker, params.system),
		latestOfEach(locals.asker, params.system, KNOWN),
		packsOf(locals.asker),
		openRunOf(locals.asker, params.system),
		// A device may hold an evening the server has not heard of yet.
		wanted && validate(wanted)
			? runWithEvents(locals.asker, wanted).catch((failure: unknown) => {
					if (!isHttpError(failure, 404)) throw failure;
				})
			: undefined,
		parent()
	]);
	const last: Record<string, Date> = {};
	for (const r of latest) last[r.parameter] ??= new Date(r.takenAt);
	const due = dueByRoutine(system.phase, last, now()).map(({ at, ...d }) => ({ ...d, at: at.toISOString() }));
	return {
		methods,
		sources,
		latest,
		packs,
		open: open ?? null,
		run: run?.record.systemId === params.system ? run : null,
		due
	};
};
