import { answer, bodyOf } from '$lib/server/answer';
import { calculate } from '$lib/server/calculate';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = async ({ params, request }) => {
	const body = await bodyOf(request);
	return answer(body.ok ? calculate(params.name, body.value) : body);
};
