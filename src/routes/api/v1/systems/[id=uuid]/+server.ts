import { json } from '@sveltejs/kit';
import { ChangeSystem, NewSystem } from '$lib/api/systems';
import { answer, parsedBody } from '$lib/server/http/answer';
import { bad } from '$core/base';
import { changeSystem, createSystem, systemInFull } from '$lib/server/stores/systems';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ params, locals }) =>
	json(await systemInFull(locals.asker, params.id));

/** Makes a tank under an id the client made; repeating it changes nothing. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, NewSystem);
	if (body.ok && body.value.id !== params.id) return answer(bad('/id', 'must be the id in the address'));
	return answer(body.ok ? await createSystem(locals.asker, body.value) : body);
};

export const PATCH: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, ChangeSystem);
	if (!body.ok) return answer(body);
	const done = await changeSystem(locals.asker, params.id, body.value);
	return done.ok ? json(await systemInFull(locals.asker, params.id)) : answer(done);
};
