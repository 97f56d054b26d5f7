import { SaveSource } from '$lib/api/systems';
import { answer, parsedBody } from '$lib/server/http/answer';
import { saveSource } from '$lib/server/stores/systems';
import type { RequestHandler } from './$types';

/** Keeps a water that is not the tank's own, or its new name. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveSource);
	return answer(body.ok ? await saveSource(locals.asker, params.id, body.value) : body);
};
