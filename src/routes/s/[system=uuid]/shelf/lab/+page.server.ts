import { labsOf } from '$lib/server/stores/labs';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals: { asker } }) => ({
	labs: await labsOf(asker, params.system)
});
