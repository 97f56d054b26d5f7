import { json } from '@sveltejs/kit';
import { VoidReadings } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/http/answer';
import { setVoidedAll } from '$lib/server/stores/readings';
import type { RequestHandler } from './$types';

/** Void several readings of one tank, or restore them, all or none. */
export const PUT: RequestHandler = async ({ request, locals }) => {
	const body = await parsedBody(request, VoidReadings);
	return body.ok ? json(await setVoidedAll(locals.asker, body.value)) : answer(body);
};
