import { error, json } from '@sveltejs/kit';
import { SaveReading } from '$lib/api/readings';
import { answer, parsedBody } from '$lib/server/answer';
import { historyOf } from '$lib/server/book-store';
import { readingFor, saveReading } from '$lib/server/reading-store';
import type { RequestHandler } from './$types';

/** A reading with every state it was in. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const found = await readingFor(locals.asker, params.id);
	if (!found) error(404, 'There is no such reading.');
	return json({ ...found, revisions: await historyOf(locals.asker, params.id) });
};

/** Saves a reading under an id the client made; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveReading);
	return answer(body.ok ? await saveReading(locals.asker, params.id, body.value) : body);
};
