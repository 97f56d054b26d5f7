import { keptFor } from '$lib/server/http/cookies';
import { error } from '@sveltejs/kit';
import { bandsOf } from '$lib/server/stores/systems';
import { bandsFor } from '$lib/ui/mine';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ params, parent, locals, cookies, url, untrack }) => {
	const { systems } = await parent();
	const system = systems.find((s) => s.id === params.system);
	if (!system) error(404, 'There is no such tank, or it is not yours.');
	cookies.set('system', system.id, keptFor(untrack(() => url.protocol)));
	return { system, bands: bandsFor(await bandsOf(locals.asker, system.id)) };
};
