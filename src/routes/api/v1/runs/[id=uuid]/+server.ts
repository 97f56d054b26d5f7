import { NewRun } from '$lib/api/runs';
import { answer, parsedBody } from '$lib/server/http/answer';
import { beginRun } from '$lib/server/stores/runs';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, NewRun);
	return answer(body.ok ? await beginRun(locals.asker, params.id, body.value) : body);
};
