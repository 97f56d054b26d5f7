import { existsSync, readFileSync, readdirSync } from 'node:fs';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

/** Every `@example` of core's documentation is run, and says what it gives: `code // → result`, numbers to the digits written. */
const HERE = new URL('.', import.meta.url);
const sources = readdirSync(HERE, { recursive: true, encoding: 'utf8' }).filter(
	(f) => f.endsWith('.ts') && !f.endsWith('.test.ts')
);
const scope: Record<string, unknown> = {};
for (const file of sources.filter((f) => f.endsWith('index.ts') || !f.includes('/')))
	Object.assign(scope, await import(/* @vite-ignore */ new URL(file, HERE).href));

interface Example {
	of: string;
	code: string;
	gives: string;
}
/** The examples of one file, as its documentation has them. */
function examplesIn(file: string): Example[] {
	const parsed = ts.createSourceFile(
		file,
		readFileSync(new URL(file, HERE), 'utf8'),
		ts.ScriptTarget.Latest,
		true
	);
	return parsed.statements.flatMap((statement) =>
		ts.getJSDocTags(statement).flatMap((tag) => {
			if (tag.tagName.text !== 'example') return [];
			const text = ts.getTextOfJSDocComment(tag.comment) ?? '';
			const [code, gives] = text.split(/\/\/ (?:→ )?/);
			return [
				{
					of: `${file}: ${
						statement
							.getText()
							.slice(0, 60)
							.split(/[=({<]/)[0]
					}`,
					code: code ?? '',
					gives: gives ?? ''
				}
			];
		})
	);
}
const examples = sources.flatMap(examplesIn);
const run = (code: string): unknown => {
	const plain = code.trim();
	const cut = plain.lastIndexOf(';');
	return new Function(...Object.keys(scope), `${plain.slice(0, cut + 1)} return (${plain.slice(cut + 1)});`)(
		...Object.values(scope)
	) as unknown;
};
/** Numbers as an example writes them: to four digits. */
const shown = (value: unknown): unknown =>
	typeof value === 'number'
		? Number(value.toPrecision(4))
		: Array.isArray(value)
			? value.map(shown)
			: value !== null && typeof value === 'object'
				? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, shown(v)]))
				: value;

describe('examples in core', () => {
	it.each(examples)('$of: $code', ({ code, gives }) => {
		expect(shown(run(code))).toEqual(shown(run(gives)));
	});

	it('stand by every function that takes plain values, and by every calculation', () => {
		expect(examples.length).toBeGreaterThan(65);
		const file = (name: string) => readFileSync(new URL(name, HERE), 'utf8');
		for (const folder of ['quantities', 'statistics', 'seawater', 'tank', 'quality', 'calibration'])
			for (const name of readdirSync(new URL(`${folder}/`, HERE)).filter(
				(f) => f.endsWith('.ts') && !/test|index/.test(f)
			)) {
				const wanted = existsSync(new URL(`${folder}/index.ts`, HERE))
					? [...file(`${folder}/${name}`).matchAll(/^export function (\w+)/gm)].map((m) => m[1])
					: [];
				for (const of of wanted.filter((w) => w !== undefined && w in scope))
					expect(
						examples.some((e) => e.of.includes(` ${of}`) || e.of.endsWith(of ?? '')),
						`${folder}/${name}: ${of} has no example`
					).toBe(true);
			}
	});
});
