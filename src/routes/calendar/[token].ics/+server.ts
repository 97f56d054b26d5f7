import { error } from '@sveltejs/kit';
import { calendarBehind } from '$lib/server/answers/calendar';
import { dueInWords } from '$lib/ui/wording';
import { alwaysInWords, stepInWords } from '$lib/ui/words/adjust';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ params }) => {
	const calendar = await calendarBehind(params.token, {
		step: stepInWords,
		always: alwaysInWords(),
		due: dueInWords
	});
	if (calendar === undefined) error(404, 'There is no such calendar.');
	return new Response(calendar, {
		headers: {
			'content-type': 'text/calendar; charset=utf-8',
			'content-disposition': 'inline; filename="tevrik.ics"',
			'cache-control': 'private, max-age=900'
		}
	});
};
