import { json } from '@sveltejs/kit';
import { SavePlan } from '$lib/api/plans';
import { answer, parsedBody } from '$lib/server/http/answer';
import { endPlan } from '$lib/server/stores/plans';
import { followPlan } from '$lib/server/answers/plans';
import type { RequestHandler } from './$types';

/** Follows a plan from now on. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SavePlan);
	return answer(
		body.ok ? await followPlan(locals.asker, params.id, body.value.systemId, body.value.wish) : body
	);
};

/** Ends following it. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	await endPlan(locals.asker, params.id);
	return json({ id: params.id });
};
