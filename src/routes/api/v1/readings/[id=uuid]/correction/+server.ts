import { CorrectReading } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/http/answer';
import { correctReading } from '$lib/server/stores/readings';
import type { RequestHandler } from './$types';

/** Writes down what was really seen; the earlier state is kept. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, CorrectReading);
	return answer(body.ok ? await correctReading(locals.asker, params.id, body.value) : body);
};
