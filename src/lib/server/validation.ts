import Ajv, { type ErrorObject, type ValidateFunction } from 'ajv';
import addFormats from 'ajv-formats';
import type { Static, TSchema } from 'typebox';
import { badAll, good, type Outcome, type Problem } from '../../core/problems';

// strictTypes off: TypeBox writes tuples whose items need no type of their own.
const ajv = new Ajv({ allErrors: true, discriminator: true, strictTypes: false, strictTuples: false });
addFormats(ajv);
/** RFC 3339 allows a 61st second and years that no calendar here keeps; neither can be stored. */
const MOMENT = /^(\d{4})-\d\d-\d\d[Tt]\d\d:\d\d:\d\d(\.\d+)?([Zz]|[+-]\d\d:\d\d)$/;
ajv.addFormat('date-time', (text: string) => {
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
});

const compiled = new WeakMap<object, ValidateFunction>();

/** Data from outside as the schema's type, or what is wrong with it in the keeper's words. Compiled once a schema. */
export function parse<T extends TSchema>(schema: T, data: unknown): Outcome<Static<T>> {
	let validate = compiled.get(schema);
	if (!validate) compiled.set(schema, (validate = ajv.compile(schema)));
	if (validate(data)) return good(data as Static<T>);
	return badAll(toProblems(validate.errors ?? [], data));
}

/** At most this many problems in one answer: enough to mend, too few to flood. */
const MOST_PROBLEMS = 20;

function toProblems(errors: ErrorObject[], data: unknown): Problem[] {
	const problems: Problem[] = [];
	for (const e of onlyBestBranches(errors)) {
		const problem = { path: pathOf(e), message: messageOf(e, data) };
		if (!problems.some((p) => p.path === problem.path && p.message === problem.message))
			problems.push(problem);
	}
	return problems.slice(0, MOST_PROBLEMS);
}

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
