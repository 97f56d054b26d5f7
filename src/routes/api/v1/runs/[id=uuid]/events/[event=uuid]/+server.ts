import { RunEvent } from '$core/run';
import { answer, parsedBody } from '$lib/server/http/answer';
import { addEvent } from '$lib/server/stores/runs';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, RunEvent);
	return answer(body.ok ? await addEvent(locals.asker, params.id, params.event, body.value) : body);
};
