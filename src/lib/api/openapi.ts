import type { TSchema } from 'typebox';
import { v5 as uuid } from 'uuid';
import { CorrectRequest, CorrectResult, PlanWish, Supplement } from '../../core/adjust';
import { Book } from '../../core/formats';
import { Method, RawReading } from '../../core/instruments';
import { ReadingRequest, ReadingResult } from '../../core/methods';
import { ReferenceResult, WatersResult } from '../../core/quality';
import { PhotoMarks } from '../../core/picture';
import { RunEvent, StepMark } from '../../core/run';
import { WaterEvent } from '../../core/trend';
import { BookEvent, BookReading, BookRevision, ReadingInFull } from './book';
import { TankEvent } from './events';
import { Habits } from './habits';
import { TakenFile } from './imports';
import { Labs } from './labs';
import { KnownMethod } from './methods';
import { Saved } from './parts';
import { Photo } from './photos';
import { Planned } from './plans';
import { Check, KitChecks } from './kit-checks';
import { Reading } from './readings';
import { ShelfSupplement } from './supplements';
import { Source, Tank, TankInFull } from './systems';
import { OPERATIONS, type Operation } from './operations';

const JSON_TYPE = 'application/json';
/** Schemas that several operations share: said once, and what a generated client calls its types. */
const SHARED: Record<string, TSchema> = {
	Book,
	BookEvent,
	BookReading,
	BookRevision,
	Check,
	CorrectRequest,
	CorrectResult,
	Habits,
	KnownMethod,
	Labs,
	Method,
	Photo,
	PhotoMarks,
	PlanWish,
	Planned,
	Proof: KitChecks,
	RawReading,
	Reading,
	ReadingRequest,
	ReadingResult,
	ReadingInFull,
	ReferenceResult,
	RunEvent,
	Saved,
	ShelfSupplement,
	Source,
	StepMark,
	Supplement,
	Tank,
	TankEvent,
	TankInFull,
	TakenFile,
	WaterEvent,
	WatersResult
};
/** A schema is known again by its inside, which it keeps where it is optional elsewhere. */
const insideOf = (schema: object): unknown => {
	const { properties, anyOf, oneOf } = schema as Record<string, unknown>;
	return properties ?? anyOf ?? oneOf;
};
const names = new Map(Object.entries(SHARED).map(([name, schema]) => [insideOf(schema), name]));

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

/** Every answer that is no, by its status. */
const REFUSALS: Record<number, string> = {
	400: 'the address, the cookies or the coding of the body are not in order',
	401: 'nobody is signed in',
	403: 'this person or token may not',
	404: 'it is not there, or not yours',
	408: 'it came too slowly',
	409: 'the id is in use, or there is a newer version',
	413: 'it is too long',
	415: 'it is of another type, or coded otherwise than in gzip',
	422: 'something has to be put right: see problems',
	428: 'the Idempotency-Key is missing',
	429: 'too often: see RateLimit and Retry-After',
	503: 'not just now: the database is away, its disk is full, or too much is being computed'
};

/** Tuples as JSON Schema 2020-12 has them, which OpenAPI 3.1 goes by; the schemas themselves are of draft 7. */
function modern(schema: unknown): unknown {
	if (Array.isArray(schema)) return schema.map(modern);
	if (typeof schema !== 'object' || schema === null) return schema;
	const name = names.get(insideOf(schema));
	return name === undefined ? written(schema) : { $ref: `#/components/schemas/${name}` };
}
function written(schema: object): object {
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

let made: object | undefined;
/** The API as an OpenAPI 3.1 document, from the schemas that check it: made once, but for the server it is asked of. */
export const openApi = (server: string): object => ({
	...(made ??= documented()),
	servers: [{ url: `${server}/api/v1` }]
});

function documented(): object {
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
		security: [{ token: [] }],
		paths,
		components: {
			securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
			responses: Object.fromEntries(
				Object.entries(REFUSALS).map(([status, description]) => [
					status,
					{
						description,
						content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } }
					}
				])
			),
			schemas: {
				Problem: problem,
				...Object.fromEntries(Object.entries(SHARED).map(([name, schema]) => [name, written(schema)]))
			}
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
	const refusals = [
		400,
		503,
		...(o.body ? [408, 413, 415] : []),
		...(o.once ? [428] : []),
		...(o.shared ? [429] : []),
		...(o.method === 'put' ? [409] : []),
		...(o.body || o.query ? [422] : []),
		...(o.open ? [] : [401, 403, 404])
	];
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
				content: { [o.answers ?? JSON_TYPE]: { schema: modern(o.result) } }
			},
			...Object.fromEntries(refusals.map((status) => [status, { $ref: `#/components/responses/${status}` }]))
		}
	};
}
