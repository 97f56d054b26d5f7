import Ajv from 'ajv';
import addFormats from 'ajv-formats';
import { expect, it } from 'vitest';
import { SHIPPED_METHODS } from '../../core/methods';
import { SODA } from './calculation-examples';
import { formatSchema } from './formats';

it.each([
	['tevrik.book/1', []],
	['tevrik.method/1', SHIPPED_METHODS],
	['tevrik.supplement/1', [SODA]]
] as const)('%s is taken by a strict reader, which knows what is of it and what is not', (name, examples) => {
	const said: unknown[] = [];
	const ajv = new Ajv({
		strict: true,
		logger: { log: () => {}, warn: (m) => said.push(m), error: (m) => said.push(m) }
	});
	addFormats(ajv);
	const check = ajv.compile(formatSchema(name));
	expect(said).toEqual([]);
	for (const example of examples) {
		expect(check(example) || check.errors).toBe(true);
		expect(check({ ...example, format: 'another/1' })).toBe(false);
	}
	expect(check({})).toBe(false);
});
