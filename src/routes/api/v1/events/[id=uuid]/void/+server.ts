import { json } from '@sveltejs/kit';
import { VoidReading } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/http/answer';
import { setEventVoided } from '$lib/server/stores/events';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, VoidReading);
	if (!body.ok) return answer(body);
	await setEventVoided(locals.asker, params.id, true, body.value.reason);
	return json({ id: params.id });
};

export const DELETE: RequestHandler = async ({ params, locals }) => {
	await setEventVoided(locals.asker, params.id, false, null);
	return json({ id: params.id });
};
