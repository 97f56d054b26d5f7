import { toSend } from '$lib/api/known-methods';
import { methodsFor } from '$lib/server/stores/methods';
import { packsOf } from '$lib/server/stores/packs';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const [methods, packs] = await Promise.all([methodsFor(locals.asker), packsOf(locals.asker)]);
	return { methods: toSend(methods.filter((m) => m.own)), packs };
};
