import { filesOf } from '$lib/server/archive/sheet-import';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => ({
	files: await filesOf(locals.asker, params.system)
});
