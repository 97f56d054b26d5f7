import { error, json } from '@sveltejs/kit';
import { SaveReading } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/http/answer';
import { historyOf, methodOfReading } from '$lib/server/answers/book';
import { photosOf } from '$lib/server/stores/photos';
import { readingFor, saveReading } from '$lib/server/stores/readings';
import type { RequestHandler } from './$types';

/** A reading with the method it was made with, every state it was in and the pictures beside it. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const found = await readingFor(locals.asker, params.id);
	if (!found) error(404, 'There is no such reading.');
	const [revisions, method, photos] = await Promise.all([
		historyOf(locals.asker, params.id),
		methodOfReading(locals.asker, params.id),
		photosOf(params.id)
	]);
	return json({ ...found, method, revisions, photos });
};

/** Saves a reading under an id the client made; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveReading);
	return answer(body.ok ? await saveReading(locals.asker, params.id, body.value) : body);
};
