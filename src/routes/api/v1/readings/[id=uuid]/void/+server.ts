import { json } from '@sveltejs/kit';
import { VoidReading } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/http/answer';
import { setVoided } from '$lib/server/stores/readings';
import type { RequestHandler } from './$types';

/** A reading no longer counts; it and the reason are kept. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, VoidReading);
	if (!body.ok) return answer(body);
	return json(await setVoided(locals.asker, params.id, true, body.value.reason));
};

/** It counts again. */
export const DELETE: RequestHandler = async ({ params, locals }) =>
	json(await setVoided(locals.asker, params.id, false, null));
