import Type from 'typebox';
import { answer, parsedBody } from '$lib/server/http/answer';
import { addPasskey } from '$lib/server/identity/second-step';
import type { RequestHandler } from './$types';

const Answer = Type.Object({ name: Type.String({ maxLength: 120 }), response: Type.Object({}) });

/** A device’s answer to the offer makes it a passkey. */
export const POST: RequestHandler = async ({ request, locals }) => {
	const body = await parsedBody(request, Answer);
	if (!body.ok) return answer(body);
	return answer(await addPasskey(locals.asker, request.headers, body.value.name, body.value.response));
};
