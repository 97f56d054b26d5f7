import { now } from '$lib/server/clock';
import { systemsOf } from '$lib/server/system-store';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => ({
	systems: await systemsOf(locals.asker),
	theme: locals.theme,
	now: now().toISOString()
});
