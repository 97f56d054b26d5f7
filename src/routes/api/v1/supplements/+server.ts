import { json } from '@sveltejs/kit';
import { supplementsOf } from '$lib/server/stores/supplements';
import type { RequestHandler } from './$types';

/** What stands on the asker's shelf to be poured. */
export const GET: RequestHandler = async ({ locals }) =>
	json({ supplements: await supplementsOf(locals.asker) });
