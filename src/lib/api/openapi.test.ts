import { createConfig, lintFromString } from '@redocly/openapi-core';
import { Validator } from '@seriousme/openapi-schema-validator';
import { describe, expect, it } from 'vitest';
import { openApi } from './openapi';

/** The document as tools that nobody here wrote read it. */
const document = openApi('https://reef.example');

describe('the API’s document', () => {
	it('is OpenAPI 3.1 by its own schema', async () => {
		const validator = new Validator();
		const { valid, errors } = await validator.validate(structuredClone(document) as Record<string, unknown>);
		expect([valid, errors, validator.version]).toEqual([true, undefined, '3.1']);
	});

	it('is found without fault by a strict linter', async () => {
		const config = await createConfig({
			extends: ['recommended-strict'],
			// Under which licence Tevrik itself is, its owners have not said yet.
			rules: { 'info-license': 'off' }
		});
		const source = JSON.stringify(document);
		const found = await lintFromString({ source, absoluteRef: 'openapi.json', config });
		expect([
			...new Set(found.map((p) => `${p.ruleId}: ${p.message} ${p.location[0]?.pointer ?? ''}`))
		]).toEqual([]);
	});

	it('names each operation once, as a program can call it', () => {
		const { paths } = document as { paths: Record<string, Record<string, { operationId: string }>> };
		const names = Object.values(paths).flatMap((methods) => Object.values(methods).map((o) => o.operationId));
		expect(names.length).toBeGreaterThan(80);
		expect(names.filter((name) => !/^[a-z][A-Za-z]+$/.test(name))).toEqual([]);
		expect(new Set(names).size).toBe(names.length);
	});
});
