import { roundOf } from '$lib/server/answers/rounds';
import type { PageServerLoad } from './$types';

/** The list stands at once; how the tanks fare follows when their models are done. */
export const load: PageServerLoad = ({ locals }) => {
	const round = roundOf(locals.asker);
	round.catch(() => undefined);
	return { round };
};
