import { latestOfEach } from '$lib/server/reading-store';
import { bandsOf, systemFor } from '$lib/server/system-store';
import { outlookOf } from '$lib/server/trend-store';
import { validate } from 'uuid';
import type { PageServerLoad } from './$types';

/** As many as a tube's trail shows. */
const TRAIL = 10;

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const rack = async (id: string) => {
		const [readings, outlook] = await Promise.all([
			latestOfEach(locals.asker, id, TRAIL),
			outlookOf(locals.asker, id)
		]);
		return { readings, ...outlook };
	};
	const other = url.searchParams.get('beside');
	const beside =
		other && validate(other) && other !== params.system
			? {
					...(await rack(other)),
					system: { id: other, ...(await systemFor(locals.asker, other)) },
					bands: await bandsOf(locals.asker, other)
				}
			: null;
	return { ...(await rack(params.system)), beside };
};
