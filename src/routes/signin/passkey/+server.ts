import { json } from '@sveltejs/kit';
import Type from 'typebox';
import { answer, parsedBody } from '$lib/server/http/answer';
import { placeOf } from '$lib/server/identity/attempts';
import { passkeyQuestion, signInByPasskey } from '$lib/server/identity/second-step';
import type { RequestHandler } from './$types';

/** What a device with a passkey has to sign. */
export const GET: RequestHandler = async ({ request, getClientAddress }) => {
	const asked = await passkeyQuestion(placeOf(getClientAddress()), request.headers);
	return asked.ok ? json(asked.value) : answer(asked);
};

const Answer = Type.Object({ response: Type.Object({}) });

/** Its answer lets in. */
export const POST: RequestHandler = async ({ request, getClientAddress }) => {
	const body = await parsedBody(request, Answer);
	if (!body.ok) return answer(body);
	return answer(await signInByPasskey(request.headers, body.value.response, placeOf(getClientAddress())));
};
