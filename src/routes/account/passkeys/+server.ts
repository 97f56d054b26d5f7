import { json } from '@sveltejs/kit';
import Type from 'typebox';
import { answer, parsedBody } from '$lib/server/http/answer';
import { addPasskey, passkeyOffer } from '$lib/server/identity/second-step';
import type { RequestHandler } from './$types';

/** What a device has to sign to become a passkey. */
export const GET: RequestHandler = async ({ request, locals }) => {
	const offer = await passkeyOffer(locals.asker, request.headers);
	return offer.ok ? json(offer.value) : answer(offer);
};

const Answer = Type.Object({ name: Type.String({ maxLength: 120 }), response: Type.Object({}) });

/** Its answer makes it one. */
export const POST: RequestHandler = async ({ request, locals }) => {
	const body = await parsedBody(request, Answer);
	if (!body.ok) return answer(body);
	return answer(await addPasskey(locals.asker, request.headers, body.value.name, body.value.response));
};
