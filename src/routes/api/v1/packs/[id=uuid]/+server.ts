import { json } from '@sveltejs/kit';
import { SavePack } from '$lib/api/methods';
import { answer, parsedBody } from '$lib/server/http/answer';
import { finishPack, savePack } from '$lib/server/stores/packs';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SavePack);
	return answer(body.ok ? await savePack(locals.asker, params.id, body.value) : body);
};

/** Used up or thrown away. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	await finishPack(locals.asker, params.id, true);
	return json({ id: params.id });
};
