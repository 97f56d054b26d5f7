import { SaveReading } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/answer';
import { saveReading } from '$lib/server/reading-store';
import type { RequestHandler } from './$types';

/** Saves a reading under an id the client made; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveReading);
	return answer(body.ok ? await saveReading(locals.asker, params.id, body.value) : body);
};
