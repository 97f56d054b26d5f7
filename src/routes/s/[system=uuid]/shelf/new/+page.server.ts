import { methodsFor } from '$lib/server/stores/methods';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const from = url.searchParams.get('from');
	const copied = from ? (await methodsFor(locals.asker)).find((m) => m.id === from) : undefined;
	return { from: copied?.profile ?? null };
};
