import { json } from '@sveltejs/kit';
import { eventsOf } from '$lib/server/stores/runs';
import type { RequestHandler } from './$types';

/** What happened after `?after=`, for a device that follows. */
export const GET: RequestHandler = async ({ params, url, locals }) => {
	const after = Number(url.searchParams.get('after') ?? 0);
	return json(await eventsOf(locals.asker, params.id, Number.isInteger(after) && after > 0 ? after : 0));
};
