import { createConfig, lintFromString } from '@redocly/openapi-core';
import { Validator } from '@seriousme/openapi-schema-validator';
import { relative, resolve } from 'node:path';
import openapiTS, { astToString, type OpenAPI3 } from 'openapi-typescript';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { documentedProgram } from '../../../tests/support/documented-program';
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

	it('gives a generated client all it needs for the program of docs/api.md: nothing of it is unknown', async () => {
		const files: Record<string, string> = {
			'docs/program.ts': documentedProgram(),
			'docs/tevrik.d.ts': astToString(await openapiTS(structuredClone(document) as OpenAPI3))
		};
		const options: ts.CompilerOptions = {
			strict: true,
			noEmit: true,
			module: ts.ModuleKind.ESNext,
			moduleResolution: ts.ModuleResolutionKind.Bundler,
			target: ts.ScriptTarget.ES2022,
			types: ['node'],
			skipLibCheck: true
		};
		const host = ts.createCompilerHost(options);
		const nameOf = (path: string) => relative(host.getCurrentDirectory(), resolve(path));
		const { fileExists, readFile, getSourceFile } = host;
		host.fileExists = (path) => nameOf(path) in files || fileExists(path);
		host.readFile = (path) => files[nameOf(path)] ?? readFile(path);
		host.getSourceFile = (path, languageVersion, ...rest) =>
			nameOf(path) in files
				? ts.createSourceFile(path, files[nameOf(path)]!, languageVersion)
				: getSourceFile(path, languageVersion, ...rest);
		const program = ts.createProgram(['docs/program.ts'], options, host);
		const said = ts.getPreEmitDiagnostics(program);
		expect(said.map((d) => ts.flattenDiagnosticMessageText(d.messageText, '\n'))).toEqual([]);
		const checker = program.getTypeChecker();
		const unknown: string[] = [];
		const look = (node: ts.Node): void => {
			if (ts.isIdentifier(node) || ts.isCallExpression(node)) {
				const { flags } = checker.getTypeAtLocation(node);
				if (flags & (ts.TypeFlags.Any | ts.TypeFlags.Unknown)) unknown.push(node.getText());
			}
			node.forEachChild(look);
		};
		program.getSourceFile('docs/program.ts')!.forEachChild(look);
		expect(unknown).toEqual([]);
	});
});
