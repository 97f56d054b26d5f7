import { error, json } from '@sveltejs/kit';
import { SaveSupplement } from '$lib/api/supplements';
import { answer, parsedBody } from '$lib/server/http/answer';
import { finishSupplement, saveSupplement, supplementsOf } from '$lib/server/stores/supplements';
import type { RequestHandler } from './$types';

/** As a file to share. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const found = (await supplementsOf(locals.asker)).find((s) => s.id === params.id);
	if (!found) error(404, 'There is nothing of that kind, or it is not yours.');
	return new Response(JSON.stringify(found.profile, null, '\t'), {
		headers: {
			'content-type': 'application/json',
			'content-disposition': `attachment; filename="${params.id}.supplement.json"`
		}
	});
};

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveSupplement);
	return answer(body.ok ? await saveSupplement(locals.asker, params.id, body.value) : body);
};

/** Used up or thrown away. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	await finishSupplement(locals.asker, params.id, true);
	return json({ id: params.id });
};
