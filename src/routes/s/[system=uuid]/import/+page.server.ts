import { filesOf } from '$lib/server/import-store';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => ({
	files: await filesOf(locals.asker, params.system)
});
