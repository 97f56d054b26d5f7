import { planFor } from '$lib/server/answers/plans';
import { supplementsOf } from '$lib/server/stores/supplements';
import { outlookOf } from '$lib/server/answers/outlook';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals: { asker } }) => {
	const [{ request }, shelf, { trends }] = await Promise.all([
		planFor(asker, params.system, {}),
		supplementsOf(asker),
		outlookOf(asker, params.system)
	]);
	return {
		shelf,
		water: request.water,
		planned: request.parameters,
		levels: Object.fromEntries(
			Object.entries(trends).map(([parameter, { now }]) => [parameter, now.value] as const)
		)
	};
};
