import { DAY } from '$core/base';
import { latestReadings, measuredIn } from '$lib/server/stores/readings';
import { openSteps } from '$lib/server/stores/plans';
import { outlookShown } from '$lib/server/answers/outlook';
import { poursView } from '$lib/ui/adjust/plan-view';
import { headingFor, readingFor } from '$lib/ui/mine';
import { isoDay } from '$lib/ui/when';
import type { PageServerLoad } from './$types';

/** As many as fit beside one another on a sheet. */
const LAST = 6;

/** Days of a plan that fit on the sheet. */
const AHEAD = 14;

export const load: PageServerLoad = async ({ params, parent, locals: { asker, at } }) => {
	const { system } = await parent();
	const until = isoDay(new Date(at.getTime() + AHEAD * DAY), system.timeZone);
	const open = await openSteps(asker, params.system, until);
	const measured = await measuredIn(asker, params.system);
	const [latest, { due, judgements, trends, asOf }] = await Promise.all([
		latestReadings(asker, params.system, measured, LAST),
		outlookShown(asker, params.system)
	]);
	const headings = Object.fromEntries(
		Object.entries(trends).map(([parameter, { now, netPerDay, verdict, leavesBand, moved }]) => [
			parameter,
			headingFor(parameter, { netPerDay, verdict, leavesBand, moved }, now.value)
		])
	);
	const mine = Object.fromEntries(
		Object.entries(latest).map(([parameter, its]) => [parameter, its.map(readingFor)])
	);
	return { asOf, pours: open && poursView(open), latest: mine, due, judgements, headings };
};
