import { toSend } from '$lib/api/known-methods';
import { methodsFor } from '$lib/server/stores/methods';
import { supplementsOf } from '$lib/server/stores/supplements';
import { packsOf } from '$lib/server/stores/packs';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const [methods, packs, bottles] = await Promise.all([
		methodsFor(locals.asker),
		packsOf(locals.asker),
		supplementsOf(locals.asker)
	]);
	return { methods: toSend(methods.filter((m) => m.own)), packs, bottles };
};
