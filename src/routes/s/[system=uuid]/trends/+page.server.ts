import { PARAMETERS } from '$core/quantities';
import { measuredIn, readingsOf } from '$lib/server/reading-store';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const asked = url.searchParams.get('of');
	const parameter = PARAMETERS.find((p) => p.id === asked) ?? PARAMETERS[0];
	const [readings, measured] = await Promise.all([
		readingsOf(locals.asker, params.system, parameter.id),
		measuredIn(locals.asker, params.system)
	]);
	return { of: parameter.id, readings, measured };
};
