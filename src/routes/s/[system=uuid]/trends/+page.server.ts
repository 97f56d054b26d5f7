import { nth } from '$core/base';
import { PARAMETERS, parameterOf } from '$core/catalogue';
import { inColumns } from '$lib/api/columns';
import { READING_FIELDS } from '$lib/api/readings';
import { eventsOfTank } from '$lib/server/stores/events';
import { latestReadings, measuredIn, voidedOf } from '$lib/server/stores/readings';
import { supplementsOf } from '$lib/server/stores/supplements';
import { trendOf, waysOf } from '$lib/server/answers/trends';
import type { PageServerLoad } from './$types';

/** Rows under the picture; the others stand among the readings. */
const ROWS = 25;

export const load: PageServerLoad = async ({ params, url, locals: { asker } }) => {
	const asked = url.searchParams.get('of');
	const parameter = parameterOf(asked ?? '') ?? nth(PARAMETERS, 0);
	const common = async () => ({
		of: parameter.id,
		measured: await measuredIn(asker, params.system),
		events: await eventsOfTank(asker, params.system)
	});
	if (url.searchParams.get('view') === 'all')
		return { ...(await common()), all: await waysOf(asker, params.system) };
	const [shared, one, newest, voided, shelf] = await Promise.all([
		common(),
		trendOf(asker, params.system, parameter.id),
		latestReadings(asker, params.system, [parameter.id], ROWS),
		url.searchParams.has('voided') ? voidedOf(asker, params.system, parameter.id) : [],
		supplementsOf(asker)
	]);
	return {
		...shared,
		bottles: shelf.map(({ id, profile }) => ({ id, profile })),
		one: { ...one, newest: inColumns(newest[parameter.id] ?? [], READING_FIELDS), voided }
	};
};
