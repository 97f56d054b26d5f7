import Type from 'typebox';
import { answer, parsedBody } from '$lib/server/http/answer';
import { passkeyOffer } from '$lib/server/identity/second-step';
import type { RequestHandler } from './$types';

const Known = Type.Object({ password: Type.String({ maxLength: 200 }) });

/** What a device has to sign to become a passkey, for whoever knows the password. */
export const POST: RequestHandler = async ({ request, locals }) => {
	const body = await parsedBody(request, Known);
	return answer(body.ok ? await passkeyOffer(locals.asker, request.headers, body.value.password) : body);
};
