import { error, json } from '@sveltejs/kit';
import { filesOf, takeBackFile } from '$lib/server/archive/sheet-import';
import type { RequestHandler } from './$types';

/** What came of a sheet, for whoever was cut off while it was taken in: it is kept whole, or nothing of it is. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const file = (await filesOf(locals.asker, params.id)).find((f) => f.id === params.import);
	return file ? json(file) : error(404, 'Nothing of this file was kept. Import it again.');
};

/** Takes out all that came with a file; the same file brings it back. */
export const DELETE: RequestHandler = async ({ params, locals }) =>
	json(await takeBackFile(locals.asker, params.id, params.import));
