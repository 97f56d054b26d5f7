import { SaveEvent } from '$lib/api/events';
import { answer, parsedBody } from '$lib/server/http/answer';
import { saveEvent } from '$lib/server/stores/events';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveEvent);
	return answer(body.ok ? await saveEvent(locals.asker, params.id, body.value) : body);
};
