import { redirect } from '@sveltejs/kit';
import { systemsOf } from '$lib/server/stores/systems';
import type { PageServerLoad } from './$types';

/** Home is the rack of the tank looked at last, or the place to begin. */
export const load: PageServerLoad = async ({ locals, cookies }) => {
	const systems = await systemsOf(locals.asker);
	const last = systems.find((s) => s.id === cookies.get('system')) ?? systems[0];
	redirect(307, last ? `/s/${last.id}/rack` : '/begin');
};
