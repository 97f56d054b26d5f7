import { error } from '@sveltejs/kit';
import { SaveMethod } from '$lib/api/methods';
import { answer, parsedBody } from '$lib/server/http/answer';
import { now } from '$lib/server/clock';
import { methodsFor, saveMethod } from '$lib/server/stores/methods';
import type { RequestHandler } from './$types';

/** A method as a file to share. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const found = (await methodsFor(locals.asker)).find((m) => m.id === params.id);
	if (!found) error(404, 'There is no such method, or it is not yours.');
	return new Response(JSON.stringify(found.profile, null, '\t'), {
		headers: {
			'content-type': 'application/json',
			'content-disposition': `attachment; filename="${found.profile.id}.method.json"`
		}
	});
};

/** Keeps a method: a new one, or a new version. */
export const PUT: RequestHandler = async ({ params, request, locals }) => {
	const body = await parsedBody(request, SaveMethod);
	return answer(body.ok ? await saveMethod(locals.asker, params.id, body.value, now()) : body);
};
