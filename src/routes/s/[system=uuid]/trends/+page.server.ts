import { PARAMETERS } from '$core/quantities';
import { readingsOf } from '$lib/server/reading-store';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const asked = url.searchParams.get('of');
	const parameter = PARAMETERS.find((p) => p.id === asked) ?? PARAMETERS[0];
	return { of: parameter.id, readings: await readingsOf(locals.asker, params.system, parameter.id) };
};
