import { latestOfEach } from '$lib/server/reading-store';
import type { PageServerLoad } from './$types';

/** As many as a tube's trail shows. */
const TRAIL = 10;

export const load: PageServerLoad = async ({ params, locals }) => ({
	readings: await latestOfEach(locals.asker, params.system, TRAIL)
});
