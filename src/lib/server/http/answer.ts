import { error, json } from '@sveltejs/kit';
import { createHash } from 'node:crypto';
import type { Static, TSchema } from 'typebox';
import { bad, type Outcome, type Problem } from '../../../core/base';
import { parseJson } from '../calculate';
import { parse } from '../validation';

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
	429: 'Too many requests',
	503: 'Not just now',
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

/** A share of something dear: `most` in `within` seconds, of which `left` are left; more is there in `again` seconds. */
export interface Limit {
	name: string;
	most: number;
	within: number;
	left: number;
	again: number;
}
/** The same for programs (draft-ietf-httpapi-ratelimit-headers-10). */
export const limitFields = ({ name, most, within, left, again }: Limit): Record<string, string> => ({
	'ratelimit-policy': `"${name}";q=${most};w=${within}`,
	ratelimit: `"${name}";r=${left};t=${again}`,
	...(left ? {} : { 'retry-after': String(again) })
});
/** What may be had of something dear is used up for now. */
export const tooOften = (sentence: string, limit: Limit): never => error(429, { message: sentence, limit });

/** An outcome as an HTTP answer: 200 with the value, or 422 with everything that has to be put right. */
export const answer = (outcome: Outcome<unknown>): Response =>
	outcome.ok ? json(outcome.value) : refused(outcome.problems);

/** 422 with everything that has to be put right. */
export const refused = (problems: Problem[]): Response =>
	problemDetails(422, problems.map((p) => `${p.path} ${p.message}`.trim()).join('; '), {
		error: 'invalid',
		problems
	});

/** A request's text where it is JSON by name: a form on a foreign page cannot send that. Its length was looked at on the way in. */
export async function jsonTextOf(request: Request): Promise<string> {
	const type = request.headers.get('content-type') ?? '';
	if (!/^application\/json\b/i.test(type))
		error(415, 'This is taken with content-type application/json only.');
	return request.text();
}

/** A request's JSON body as the schema's type. */
export async function parsedBody<T extends TSchema>(
	request: Request,
	schema: T
): Promise<Outcome<Static<T>>> {
	const body = parseJson(await jsonTextOf(request));
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
			? ((await response.json()) as App.Error)
			: { message: await response.text() };
		const allowed = response.headers.get('allow');
		const told = problemDetails(
			response.status,
			allowed ? `This address answers ${allowed.replace(/, (\w+)$/, ' and $1')} only.` : said.message,
			said.id ? { id: said.id } : {}
		);
		if (allowed) told.headers.set('allow', allowed);
		if (said.limit)
			for (const [name, value] of Object.entries(limitFields(said.limit))) told.headers.set(name, value);
		return told;
	}
	if (
		!['GET', 'HEAD'].includes(request.method) ||
		response.status !== 200 ||
		!type.startsWith('application/json')
	)
		return response;
	if (response.headers.has('content-disposition')) return response;
	const body = await response.text();
	const tag = `"${createHash('sha256').update(body).digest('base64url').slice(0, 27)}"`;
	const headers = new Headers(response.headers);
	headers.set('etag', tag);
	headers.set('cache-control', 'private, no-cache');
	const known =
		request.headers
			.get('if-none-match')
			?.split(',')
			.map((t) => t.trim()) ?? [];
	if (known.includes(tag) || known.includes('*')) {
		headers.delete('content-type');
		headers.delete('content-length');
		return new Response(null, { status: 304, headers });
	}
	return new Response(request.method === 'HEAD' ? null : body, { status: 200, headers });
}
