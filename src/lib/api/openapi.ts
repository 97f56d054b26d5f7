import { v5 as uuid } from 'uuid';
import { OPERATIONS, type Operation } from './operations';

const JSON_TYPE = 'application/json';
/** Components by name: schemas that several operations share are said once. */
const problem = {
	type: 'object',
	required: ['type', 'title', 'status', 'detail', 'error'],
	properties: {
		type: { type: 'string' },
		title: { type: 'string' },
		status: { type: 'integer' },
		detail: { type: 'string', description: 'what to change, in a sentence' },
		error: { type: 'string' },
		problems: {
			type: 'array',
			items: {
				type: 'object',
				required: ['path', 'message'],
				properties: { path: { type: 'string' }, message: { type: 'string' } }
			}
		}
	}
};

/** Tuples as JSON Schema 2020-12 has them, which OpenAPI 3.1 goes by; the schemas themselves are of draft 7. */
function modern(schema: unknown): unknown {
	if (Array.isArray(schema)) return schema.map(modern);
	if (typeof schema !== 'object' || schema === null) return schema;
	// Which of several it is follows from the word each of them allows; the keyword asks for names that these have not.
	const {
		items,
		additionalItems,
		discriminator: _word,
		...rest
	} = Object.fromEntries(Object.entries(schema).map(([key, value]) => [key, modern(value)]));
	if (!Array.isArray(items)) return { ...rest, ...(items === undefined ? {} : { items }) };
	return { ...rest, prefixItems: items, items: additionalItems ?? true };
}

/** An example's ids and moments, which stand in it by name, as values. */
const withValues = (example: unknown): unknown =>
	JSON.parse(
		JSON.stringify(example).replace(/\{(\w+)\}/g, (_, name: string) =>
			name === 'now' ? '2026-05-06T20:10:00Z' : uuid(name, uuid.URL)
		)
	);

/** What a generated client calls an operation: `getSystemsReadings` of `get /systems/{system}/readings`, `…One` where it ends with an id. */
const nameOf = ({ method, path }: Operation): string =>
	method +
	path
		.replace(/\{\w+\}$/, 'one')
		.replace(/\{\w+\}/g, '')
		.split(/[^A-Za-z]+/)
		.map((word) => word.slice(0, 1).toUpperCase() + word.slice(1))
		.join('');

/** The API as an OpenAPI 3.1 document, from the schemas that check it. */
export function openApi(server: string): object {
	const paths: Record<string, Record<string, object>> = {};
	for (const operation of OPERATIONS) (paths[operation.path] ??= {})[operation.method] = described(operation);
	return {
		openapi: '3.1.0',
		info: {
			title: 'Tevrik',
			version: '1',
			description:
				'What the pages do, for programs: sign in with a token from your account page. Numbers are in each parameter’s own unit; moments are ISO 8601. Writes with PUT are repeated without harm, and so are POSTs with an Idempotency-Key. Lists answer with an ETag.'
		},
		servers: [{ url: `${server}/api/v1` }],
		security: [{ token: [] }],
		paths,
		components: {
			securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
			schemas: { Problem: problem }
		}
	};
}

function described(o: Operation): object {
	const names = [...o.path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
	const optional = new Set(Object.keys(o.query?.properties ?? {}));
	for (const name of (o.query as { required?: string[] } | undefined)?.required ?? []) optional.delete(name);
	const parameters = [
		...names.map((name) => ({
			name,
			in: 'path',
			required: true,
			schema: { type: 'string', format: 'uuid' }
		})),
		...Object.entries(o.query?.properties ?? {}).map(([name, schema]) => ({
			name,
			in: 'query',
			required: !optional.has(name),
			schema: modern(schema)
		})),
		...(o.once
			? [
					{
						name: 'Idempotency-Key',
						in: 'header',
						required: true,
						schema: { type: 'string', maxLength: 200 }
					}
				]
			: [])
	];
	const refused = (description: string) => ({
		description,
		content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } }
	});
	return {
		operationId: nameOf(o),
		tags: [o.group],
		summary: o.summary,
		...(o.open ? { security: [] } : {}),
		...(parameters.length ? { parameters } : {}),
		...(o.body
			? {
					requestBody: {
						required: true,
						content: {
							[o.bodyType ?? JSON_TYPE]: {
								schema: modern(o.body),
								...(o.example === undefined ? {} : { example: withValues(o.example) })
							}
						}
					}
				}
			: {}),
		responses: {
			200: {
				description: 'done',
				content: { [o.answers ?? JSON_TYPE]: o.result ? { schema: modern(o.result) } : {} }
			},
			400: refused('the address, the cookies or the coding of the body are not in order'),
			503: refused('not just now: the database is away, its disk is full, or too much is being computed'),
			...(o.body
				? {
						408: refused('it came too slowly'),
						413: refused('it is too long'),
						415: refused('it is of another type, or coded otherwise than in gzip')
					}
				: {}),
			...(o.once ? { 428: refused('the Idempotency-Key is missing') } : {}),
			...(o.shared ? { 429: refused('too often: see RateLimit and Retry-After') } : {}),
			...(o.method === 'put' ? { 409: refused('the id is in use, or there is a newer version') } : {}),
			...(o.body || o.query ? { 422: refused('something has to be put right: see problems') } : {}),
			...(o.open
				? {}
				: {
						401: refused('nobody is signed in'),
						403: refused('this person or token may not'),
						404: refused('it is not there, or not yours')
					})
		}
	};
}
