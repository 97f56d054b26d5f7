import { json } from '@sveltejs/kit';
import { takeBackFile } from '$lib/server/archive/sheet-import';
import type { RequestHandler } from './$types';

/** Takes out all that came with a file; the same file brings it back. */
export const DELETE: RequestHandler = async ({ params, locals }) =>
	json(await takeBackFile(locals.asker, params.id, params.import));
