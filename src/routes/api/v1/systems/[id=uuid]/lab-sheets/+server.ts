import { json } from '@sveltejs/kit';
import { TakeLabSheet } from '$lib/api/labs';
import { answer, parsedBody } from '$lib/server/http/answer';
import { takeLabSheet } from '$lib/server/stores/labs';
import { labsOf } from '$lib/server/answers/labs';
import type { RequestHandler } from './$types';

/** What labs have said of a tank's water beside its kits, and samples under way. */
export const GET: RequestHandler = async ({ params, locals }) => json(await labsOf(locals.asker, params.id));

/** A lab's sheet is taken in; the same again adds nothing. */
export const POST: RequestHandler = async ({ params, request, locals }) => {
	const sent = await parsedBody(request, TakeLabSheet);
	return answer(sent.ok ? await takeLabSheet(locals.asker, params.id, sent.value.text) : sent);
};
