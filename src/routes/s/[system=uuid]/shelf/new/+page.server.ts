import { SHIPPED_METHODS, isKnownValue } from '$core/methods';
import { toSend } from '$lib/api/known-methods';
import { methodsFor, shippedMethodId } from '$lib/server/stores/methods';
import type { PageServerLoad } from './$types';

/** Templates by their names: what was read by one is computed again once a kit made from it has its chart. */
const TEMPLATE_IDS = Object.fromEntries(
	SHIPPED_METHODS.filter((m) => !isKnownValue(m)).map((m) => [m.id, shippedMethodId(m.id)])
);

export const load: PageServerLoad = async ({ locals, url }) => {
	const methods = await methodsFor(locals.asker);
	const from = url.searchParams.get('from');
	return {
		from: methods.find((m) => m.id === from)?.profile ?? null,
		shelf: toSend(methods.filter((m) => m.own)),
		templateIds: TEMPLATE_IDS
	};
};
