import { toSend } from '$lib/api/known-methods';
import { kitsFor } from '$lib/server/stores/methods';
import { sourcesOf } from '$lib/server/stores/systems';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const [methods, sources] = await Promise.all([
		kitsFor(locals.asker),
		sourcesOf(locals.asker, params.system)
	]);
	return { methods: toSend(methods), sources };
};
