import { error } from '@sveltejs/kit';
import { methodsFor } from '$lib/server/stores/methods';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => {
	const found = (await methodsFor(locals.asker)).find((m) => m.id === params.method);
	if (!found) error(404, 'There is no such method, or it is not yours.');
	return { method: found };
};
