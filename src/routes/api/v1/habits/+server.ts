import { json } from '@sveltejs/kit';
import { Habits } from '$lib/api/habits';
import { answer, parsedBody } from '$lib/server/http/answer';
import { habitsOf, saveHabits } from '$lib/server/stores/habits';
import { good } from '$core/base';
import type { RequestHandler } from './$types';

/** Units, language and hours as this person chose them. */
export const GET: RequestHandler = async ({ locals }) => json(await habitsOf(locals.asker));

/** All of them, in place of those before. */
export const PUT: RequestHandler = async ({ request, locals }) => {
	const sent = await parsedBody(request, Habits);
	return answer(sent.ok ? good(await saveHabits(locals.asker, sent.value)) : sent);
};
