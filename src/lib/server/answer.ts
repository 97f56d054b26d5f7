import { json } from '@sveltejs/kit';
import { createHash } from 'node:crypto';
import type { Static, TSchema } from 'typebox';
import { bad, type Outcome } from '../../core/problems';
import { parseJson } from './calculate';
import { parse } from './validation';

/** A letter of JSON is no longer than this, characters: an evening fits a hundred times over. Books and sheets say their own. */
const LONGEST_LETTER = 1_000_000;
/** The longest book that is taken in, characters. */
export const LONGEST_BOOK = 200_000_000;

const TITLES: Record<number, string> = {
	400: 'Bad request',
	401: 'Unauthorized',
	403: 'Forbidden',
	404: 'Not found',
	405: 'Method not allowed',
	409: 'Conflict',
	413: 'Too large',
	415: 'Unsupported media type',
	422: 'Invalid',
	428: 'Precondition required',
	500: 'Something went wrong'
};

/** What went wrong as problem details (RFC 9457), in the words of a sentence. */
export function problemDetails(status: number, detail: string, more: object = {}): Response {
	const title = TITLES[status] ?? 'Refused';
	return json(
		{ type: 'about:blank', title, status, detail, error: title.toLowerCase(), ...more },
		{ status, headers: { 'content-type': 'application/problem+json' } }
	);
}

/** An outcome as an HTTP answer: 200 with the value, or 422 with everything that has to be put right. */
export const answer = (outcome: Outcome<unknown>): Response =>
	outcome.ok
		? json(outcome.value)
		: problemDetails(422, outcome.problems.map((p) => `${p.path} ${p.message}`.trim()).join('; '), {
				error: 'invalid',
				problems: outcome.problems
			});

/** A request's JSON body, unchecked. Only JSON by name is taken: a form on a foreign page cannot send it. */
export async function bodyOf(request: Request, longest = LONGEST_LETTER): Promise<Outcome<unknown>> {
	const type = request.headers.get('content-type') ?? '';
	if (!/^application\/json\b/i.test(type)) return bad('', 'must be sent with content-type application/json');
	const text =
		Number(request.headers.get('content-length') ?? 0) > 4 * longest ? undefined : await request.text();
	if (text === undefined || text.length > longest)
		return bad('', `must be at most ${longest} characters long`);
	return parseJson(text);
}

/** A request's JSON body as the schema's type. */
export async function parsedBody<T extends TSchema>(
	request: Request,
	schema: T,
	longest?: number
): Promise<Outcome<Static<T>>> {
	const body = await bodyOf(request, longest);
	return body.ok ? parse(schema, body.value) : body;
}

/** A request's query as the schema's type; a name that is given twice is one too many. */
export function parsedQuery<T extends TSchema>(url: URL, schema: T): Outcome<Static<T>> {
	const names = [...url.searchParams.keys()];
	const twice = names.find((name, i) => names.indexOf(name) !== i);
	return twice === undefined
		? parse(schema, Object.fromEntries(url.searchParams))
		: bad(`/${twice}`, 'is given twice');
}

/** The same answer as an API tells it: errors as problem details, and a tag by which a client knows what it has already. */
export async function asApi(request: Request, response: Response): Promise<Response> {
	const type = response.headers.get('content-type') ?? '';
	if (response.status >= 400 && !type.startsWith('application/problem+json')) {
		const said = type.startsWith('application/json')
			? ((await response.json()) as { message?: string; id?: string })
			: { message: await response.text() };
		return problemDetails(response.status, said.message ?? '', said.id ? { id: said.id } : {});
	}
	if (request.method !== 'GET' || response.status !== 200 || !type.startsWith('application/json'))
		return response;
	if (response.headers.has('content-disposition')) return response;
	const body = await response.text();
	const tag = `"${createHash('sha256').update(body).digest('base64url').slice(0, 27)}"`;
	const headers = new Headers(response.headers);
	headers.set('etag', tag);
	headers.set('cache-control', 'private, no-cache');
	const known = request.headers.get('if-none-match')?.split(/\s*,\s*/) ?? [];
	if (known.includes(tag) || known.includes('*')) {
		headers.delete('content-type');
		headers.delete('content-length');
		return new Response(null, { status: 304, headers });
	}
	return new Response(body, { status: 200, headers });
}
