import { RunEvent } from '$core/bench';
import { answer, parsedBody } from '$lib/server/answer';
import { addEvent } from '$lib/server/run-store';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, RunEvent);
	return answer(body.ok ? await addEvent(locals.asker, params.id, params.event, body.value) : body);
};
