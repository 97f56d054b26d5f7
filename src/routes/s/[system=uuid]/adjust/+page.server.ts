import { DAY } from '$core/base';
import { DateTime } from 'luxon';
import { wishSince } from '$lib/api/plan-query';
import { PlanQuery, wishOf } from '$lib/api/plans';
import { parsedQuery } from '$lib/server/http/answer';
import { followedPlan } from '$lib/server/stores/plans';
import { planFor } from '$lib/server/answers/plans';
import { supplementsOf } from '$lib/server/stores/supplements';
import { movesInWords, planView, priceOf } from '$lib/ui/adjust/plan-view';
import { dayInWords, isEvening } from '$lib/ui/when';
import { planChangeInWords, priceOfMoveInWords } from '$lib/ui/words/adjust';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, parent, locals: { asker, at } }) => {
	const { system } = await parent();
	// An address somebody wrote by hand asks for what is usual.
	const query = parsedQuery(url, PlanQuery);
	const held = await followedPlan(asker, params.system);
	const today = DateTime.fromJSDate(at, { zone: system.timeZone }).startOf('day');
	/** Days of a plan that have passed, at the tank's midnight. */
	const daysSince = (madeAt: string) =>
		Math.round(today.diff(DateTime.fromISO(madeAt, { zone: system.timeZone }).startOf('day'), 'days').days);
	// Whoever follows a plan goes on wishing what they wished then, until they ask for something else.
	const wish =
		url.search && query.ok ? wishOf(query.value) : held ? wishSince(held.wish, daysSince(held.madeAt)) : {};
	const [planned, shelf] = await Promise.all([planFor(asker, params.system, wish), supplementsOf(asker)]);
	const { kept, request, result, nothing } = planned;
	const { moves, ...unmoved } = wish;
	const before = moves ? await planFor(asker, params.system, unmoved) : null;
	const dayOf = (day: number) =>
		dayInWords(new Date(at.getTime() + day * DAY).toISOString(), at.toISOString(), system.timeZone).replace(
			'on ',
			''
		);
	const followed = kept && {
		id: kept.id,
		madeAt: kept.madeAt,
		wish: kept.wish,
		view: planView(kept.request, kept.result, kept.done, isEvening(kept.madeAt, system.timeZone)),
		day: daysSince(kept.madeAt),
		changes: kept.changes.map(planChangeInWords)
	};
	return {
		wish,
		nothing,
		request,
		view: planView(request, result, {}, isEvening(at, system.timeZone)),
		followed,
		moved: before &&
			request.moves && {
				says: movesInWords(request, dayOf),
				costs: priceOfMoveInWords(priceOf(before.request, before.result), priceOf(request, result))
			},
		shelf: shelf.map(({ id, profile }) => ({ id, name: profile.name })),
		changesWater: system.waterChange !== null,
		made: at.toISOString()
	};
};
