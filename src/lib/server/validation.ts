import Ajv, { type ErrorObject, type ValidateFunction } from 'ajv';
import addFormats from 'ajv-formats';
import type { Static, TSchema } from 'typebox';
import { badAll, good, type Outcome, type Problem } from '../../core/base';

// strictTypes off: TypeBox writes tuples whose items need no type of their own.
const options = { discriminator: true, strictTypes: false, strictTuples: false };
/** Stops at the first flaw: in time linear in what was sent. */
const quick = new Ajv(options);
/** Finds every flaw, each an object of its own: only ever asked about an excerpt. */
const thorough = new Ajv({ ...options, allErrors: true });
/** A moment is no longer than this, characters. */
const LONGEST_MOMENT = 40;
/** RFC 3339 allows a 61st second and years that no calendar here keeps; neither can be stored. */
const MOMENT = /^(\d{4})-\d\d-\d\d[Tt]\d\d:\d\d:\d\d(\.\d+)?([Zz]|[+-]\d\d:\d\d)$/;
const moment = (text: string) => {
	if (text.length > LONGEST_MOMENT) return false;
	const year = Number(MOMENT.exec(text)?.[1] ?? 0);
	const at = new Date(text);
	// 30 February is taken for 2 March: what was written has to be what is meant.
	const day = new Date(`${text.slice(0, 10)}T00:00:00Z`);
	return (
		year >= 1900 &&
		year <= 2200 &&
		!Number.isNaN(at.getTime()) &&
		!Number.isNaN(day.getTime()) &&
		day.getUTCDate() === Number(text.slice(8, 10))
	);
};
for (const ajv of [quick, thorough]) {
	addFormats(ajv);
	ajv.addFormat('date-time', moment);
}

type Compiled = Record<'quick' | 'thorough', ValidateFunction>;
const compiled = new WeakMap<object, Compiled>();
function compiledFor(schema: TSchema): Compiled {
	const known = compiled.get(schema) ?? { quick: quick.compile(schema), thorough: thorough.compile(schema) };
	compiled.set(schema, known);
	return known;
}

/** Data from outside as the schema's type, or what is wrong with it in the keeper's words. Compiled once a schema. */
export function parse<T extends TSchema>(schema: T, data: unknown): Outcome<Static<T>> {
	const { quick, thorough } = compiledFor(schema);
	if (quick(data)) return good(data as Static<T>);
	const first = quick.errors ?? [];
	const part = excerpt(data, first);
	// The excerpt keeps what is wrong first, so it is found wrong as well.
	const all = thorough(part.data) ? first : [...first.filter(isTooLong), ...(thorough.errors ?? [])];
	return badAll(
		toProblems(
			all.filter((e) => !part.isOfCut(e)),
			data
		)
	);
}

/** An excerpt of what is too long is not too long. */
const isTooLong = (e: ErrorObject): boolean => e.keyword === 'maxItems' || e.keyword === 'maxProperties';

/** At most this many problems in one answer: enough to mend, too few to flood. */
const MOST_PROBLEMS = 20;
/** Of a list that is not known to be wrong, and behind the first wrong entry of one that is, so many entries are looked at. */
const ENTRIES = 20;
/** And so many fields of an object. */
const FIELDS = 100;
/** Values in all that are looked at beside the way to what is wrong first. */
const VALUES = 2000;

/**
 * So much of the data as is enough to say twenty things that are wrong with it, however long it is: whole up to the first flaw
 * (what lies before it is right), little of the rest.
 */
function excerpt(
	data: unknown,
	first: ErrorObject[]
): { data: unknown; isOfCut: (e: ErrorObject) => boolean } {
	const ways = first.map((e) => pathOf(e).split('/').slice(1).map(unescaped));
	const cut = new Set<string>();
	let left = VALUES;
	const take = (value: unknown, on: string[][], depth: number, path: string): unknown => {
		if (typeof value !== 'object' || value === null) return value;
		if (!on.length && left <= 0) {
			cut.add(path);
			return value instanceof Array ? [] : {};
		}
		const inside = (key: string) => on.filter((way) => way[depth] === key);
		const below = (key: string, entry: unknown) => {
			left--;
			return take(entry, inside(key), depth + 1, `${path}/${key}`);
		};
		if (value instanceof Array) {
			const wrong = on.map((way) => Number(way[depth])).filter(Number.isInteger);
			const from = wrong.length ? Math.min(...wrong) : 0;
			const to = Math.max(from, ...wrong) + ENTRIES;
			const head = wrong.length ? value.slice(0, from) : [];
			if (to < value.length) cut.add(path);
			return [...head, ...value.slice(from, to).map((entry, i) => below(String(from + i), entry))];
		}
		const keys = Object.keys(value);
		const kept =
			keys.length > FIELDS ? new Set([...keys.slice(0, FIELDS), ...on.map((way) => way[depth]!)]) : keys;
		if (keys.length > FIELDS) cut.add(path);
		const fields: Record<string, unknown> = {};
		for (const key of kept)
			if (Object.hasOwn(value, key))
				// A field of this name is a field, not the object's prototype.
				Object.defineProperty(fields, key, {
					value: below(key, (value as Record<string, unknown>)[key]),
					enumerable: true
				});
		return fields;
	};
	return {
		data: take(data, ways, 0, ''),
		isOfCut: (e) => cut.has(e.instancePath) && ['required', 'minItems', 'minProperties'].includes(e.keyword)
	};
}
const unescaped = (key: string): string => key.replaceAll('~1', '/').replaceAll('~0', '~');

function toProblems(errors: ErrorObject[], data: unknown): Problem[] {
	const problems = new Map<string, Problem>();
	for (const e of onlyBestBranches(errors)) {
		if (problems.size >= MOST_PROBLEMS) break;
		const problem = { path: pathOf(e).slice(0, LONGEST_PATH), message: messageOf(e, data) };
		problems.set(`${problem.path} ${problem.message}`, problem);
	}
	return [...problems.values()];
}
/** Names of fields are the sender's own words: so much of them is said again, characters. */
const LONGEST_PATH = 200;

/** Of a failed choice, the errors of the branch that came closest: the others speak of what nobody meant. */
function onlyBestBranches(errors: ErrorObject[]): ErrorObject[] {
	let kept = errors;
	for (const choice of errors.filter((e) => e.keyword === 'anyOf')) {
		const prefix = `${choice.schemaPath}/`;
		const inside = kept.filter(
			(e) => e.schemaPath.startsWith(prefix) && e.instancePath.startsWith(choice.instancePath)
		);
		if (!inside.length) continue;
		const branches = new Map<string, ErrorObject[]>();
		for (const e of inside) {
			const branch = e.schemaPath.slice(prefix.length).split('/')[0]!;
			branches.set(branch, [...(branches.get(branch) ?? []), e]);
		}
		const best = [...branches.values()].reduce((a, b) => (distance(b, choice) < distance(a, choice) ? b : a));
		kept = kept.filter((e) => e !== choice && (!inside.includes(e) || best.includes(e)));
	}
	return kept;
}

/** A branch of another type altogether is further off than one with flaws inside; then fewer flaws win. */
const distance = (branch: ErrorObject[], choice: ErrorObject): number =>
	branch.reduce(
		(sum, e) =>
			sum +
			(e.keyword === 'type' && e.instancePath === choice.instancePath
				? 100
				: e.keyword === 'additionalProperties'
					? 1.5
					: 1),
		0
	);

const pathOf = (e: ErrorObject): string => {
	if (e.keyword === 'required') return `${e.instancePath}/${e.params['missingProperty']}`;
	if (e.keyword === 'additionalProperties') return `${e.instancePath}/${e.params['additionalProperty']}`;
	if (e.keyword === 'discriminator') return `${e.instancePath}/${e.params['tag']}`;
	return e.instancePath;
};

const TYPES: Record<string, string> = {
	number: 'a number',
	integer: 'a whole number',
	string: 'text',
	object: 'an object with fields',
	array: 'a list',
	boolean: 'true or false',
	null: 'null'
};

function messageOf(e: ErrorObject, data: unknown): string {
	const p = e.params;
	switch (e.keyword) {
		case 'required':
			return 'is missing';
		case 'additionalProperties':
			return 'is not known here; leave it out or check its spelling';
		case 'type':
			return typeof valueAt(data, e.instancePath) === 'number'
				? `must be ${TYPES[p['type']] === 'a number' ? 'a finite number' : (TYPES[p['type']] ?? p['type'])}`
				: `must be ${TYPES[p['type']] ?? p['type']}`;
		case 'minimum':
			return `must be at least ${p['limit']}`;
		case 'maximum':
			return `must be at most ${p['limit']}`;
		case 'exclusiveMinimum':
			return `must be more than ${p['limit']}`;
		case 'exclusiveMaximum':
			return `must be less than ${p['limit']}`;
		case 'minItems':
			return p['limit'] === 1 ? 'must not be empty' : `must have at least ${p['limit']} entries`;
		case 'maxItems':
			return `must have at most ${p['limit']} entries`;
		case 'minLength':
			return p['limit'] === 1 ? 'must not be empty' : `must have at least ${p['limit']} characters`;
		case 'maxLength':
			return `must have at most ${p['limit']} characters`;
		case 'enum':
			return `must be one of ${(p['allowedValues'] as unknown[]).join(', ')}`;
		case 'const':
			return `must be ${JSON.stringify(p['allowedValue'])}`;
		case 'format':
			if (p['format'] === 'date-time')
				return 'must be a moment between 1900 and 2200, as 2026-05-06T20:10:00Z or with an offset';
			return `must be a ${p['format']}`;
		case 'pattern':
			return 'has characters that are not allowed here';
		case 'discriminator':
			return 'must be one of the kinds known here';
		default:
			return e.message ?? 'is not understood';
	}
}

const valueAt = (data: unknown, path: string): unknown =>
	path
		.split('/')
		.slice(1)
		.reduce<unknown>((at, key) => (at as Record<string, unknown> | null)?.[key.replaceAll('~1', '/')], data);
