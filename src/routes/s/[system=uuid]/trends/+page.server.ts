import { PARAMETERS } from '$core/quantities';
import { eventsOfTank } from '$lib/server/event-store';
import { measuredIn, readingsOf, voidedOf } from '$lib/server/reading-store';
import { pathsOf, trendOf } from '$lib/server/trend-store';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const asked = url.searchParams.get('of');
	const all = url.searchParams.get('view') === 'all';
	const parameter = PARAMETERS.find((p) => p.id === asked) ?? PARAMETERS[0];
	const [readings, voided, measured, events, trend, lines] = await Promise.all([
		all ? [] : readingsOf(locals.asker, params.system, parameter.id),
		url.searchParams.has('voided') ? voidedOf(locals.asker, params.system, parameter.id) : [],
		measuredIn(locals.asker, params.system),
		eventsOfTank(locals.asker, params.system),
		all ? undefined : trendOf(locals.asker, params.system, parameter.id),
		all ? pathsOf(locals.asker, params.system) : []
	]);
	return { of: parameter.id, all, readings, voided, measured, events, trend, lines };
};
