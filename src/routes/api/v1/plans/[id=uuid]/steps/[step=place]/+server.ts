import { json } from '@sveltejs/kit';
import { DoneStep } from '$lib/api/plans';
import { answer, parsedBody } from '$lib/server/http/answer';
import { doStep, undoStep } from '$lib/server/stores/plans';
import type { RequestHandler } from './$types';

/** Ticks a step off. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, DoneStep);
	return answer(body.ok ? await doStep(locals.asker, params.id, Number(params.step), body.value) : body);
};

/** Takes a tick back. */
export const DELETE: RequestHandler = async ({ params, locals }) => {
	await undoStep(locals.asker, params.id, Number(params.step));
	return json({ id: params.id });
};
