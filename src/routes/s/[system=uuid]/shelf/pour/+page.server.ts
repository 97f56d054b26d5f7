import { error } from '@sveltejs/kit';
import { supplementsOf } from '$lib/server/stores/supplements';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
	const of = url.searchParams.get('of');
	if (of === null) return { bottle: null };
	const bottle = (await supplementsOf(locals.asker)).find((s) => s.id === of);
	if (!bottle) error(404, 'There is nothing of that kind, or it is not yours.');
	return { bottle };
};
