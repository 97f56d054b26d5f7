import { latestReadings, measuredIn } from '$lib/server/stores/readings';
import { outlookOf } from '$lib/server/stores/trends';
import { headingFor, readingFor } from '$lib/ui/mine';
import type { PageServerLoad } from './$types';

/** As many as fit beside one another on a sheet. */
const LAST = 6;

export const load: PageServerLoad = async ({ params, locals: { asker } }) => {
	const measured = await measuredIn(asker, params.system);
	const [latest, { due, judgements, trends }] = await Promise.all([
		latestReadings(asker, params.system, measured, LAST),
		outlookOf(asker, params.system)
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
	return { latest: mine, due, judgements, headings };
};
