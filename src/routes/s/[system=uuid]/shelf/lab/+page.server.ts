import { labsOf } from '$lib/server/answers/labs';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals: { asker } }) => ({
	labs: await labsOf(asker, params.system)
});
