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
			schema
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
		operationId: `${o.method} ${o.path}`,
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
								schema: o.body,
								...(o.example === undefined ? {} : { example: o.example })
							}
						}
					}
				}
			: {}),
		responses: {
			200: { description: 'done', content: { [o.answers ?? JSON_TYPE]: {} } },
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
