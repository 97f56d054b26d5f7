import { json } from '@sveltejs/kit';
import type { Static, TSchema } from 'typebox';
import { bad, type Outcome } from '../../core/problems';
import { parseJson } from './calculate';
import { parse } from './validation';

/** An outcome as an HTTP answer: 200 with the value, or 422 with everything that has to be put right. */
export const answer = (outcome: Outcome<unknown>): Response =>
	outcome.ok ? json(outcome.value) : json({ error: 'invalid', problems: outcome.problems }, { status: 422 });

/** A request's JSON body, unchecked. Only JSON by name is taken: a form on a foreign page cannot send it. */
export async function bodyOf(request: Request): Promise<Outcome<unknown>> {
	const type = request.headers.get('content-type') ?? '';
	if (!/^application\/json\b/i.test(type)) return bad('', 'must be sent with content-type application/json');
	return parseJson(await request.text());
}

/** A request's JSON body as the schema's type. */
export async function parsedBody<T extends TSchema>(
	request: Request,
	schema: T
): Promise<Outcome<Static<T>>> {
	const body = await bodyOf(request);
	return body.ok ? parse(schema, body.value) : body;
}
