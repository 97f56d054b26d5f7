import { systemsOf } from '$lib/server/stores/systems';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => ({
	person: locals.person ? { id: locals.asker.userId, name: locals.person.name } : null,
	systems: locals.person ? await systemsOf(locals.asker) : [],
	theme: locals.theme,
	habits: locals.habits,
	now: locals.at.toISOString()
});
