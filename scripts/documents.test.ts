import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

/** What is written for people to type is there to be typed. */
const DOCUMENTS = [
	'README.md',
	'CONTRIBUTING.md',
	...readdirSync('docs').flatMap((f) => (f.endsWith('.md') ? [`docs/${f}`] : []))
];
const text = DOCUMENTS.map((file) => readFileSync(file, 'utf8')).join('\n');
const all = (pattern: RegExp) => [
	...new Set([...text.matchAll(pattern)].map((m) => m.slice(1).join(' ').trim()))
];

describe('the documents', () => {
	it('name commands that there are', () => {
		const script = readFileSync('tevrik', 'utf8');
		const words = all(/(?:`|^)\.\/tevrik ([a-z]+)/gm);
		expect(words.length).toBeGreaterThan(6);
		const known = [...script.matchAll(/^([a-z' |-]+)\)/gm)].flatMap((m) => m[1]!.match(/[a-z]+/g) ?? []);
		expect(words.filter((word) => !known.includes(word))).toEqual([]);
		for (const flag of all(/\.\/tevrik test (--[a-z]+)/g)) expect(script).toContain(flag);
		const { scripts } = JSON.parse(readFileSync('package.json', 'utf8')) as {
			scripts: Record<string, string>;
		};
		for (const name of all(/npm run (?:-s )?([a-z]+)/g)) expect(scripts).toHaveProperty(name);
		for (const name of all(/npx ([a-z-]+)/g))
			expect(existsSync(`node_modules/.bin/${name}`), name).toBe(true);
	});

	it('name tests that there are', () => {
		const folders = { unit: ['src', 'scripts'], pages: ['tests/pages'], server: ['tests/server'] };
		const asked = [...text.matchAll(/vitest run --project (\w+) ([\w/-]+)/g)];
		expect(asked.length).toBeGreaterThan(1);
		for (const [, project, word] of asked) {
			const files = folders[project as keyof typeof folders].flatMap(
				(f) => readdirSync(f, { recursive: true }) as string[]
			);
			expect(
				files.some((f) => f.endsWith('.test.ts') && f.includes(word!)),
				`${project} ${word}`
			).toBe(true);
		}
	});

	it('name files that there are', () => {
		const files = ['src', 'scripts', 'tests', 'drizzle'].flatMap((folder) =>
			(readdirSync(folder, { recursive: true }) as string[]).map((file) => `/${folder}/${file}`)
		);
		const named = all(/`([\w./@[\]=-]+\.(?:ts|svelte|mjs))`/g);
		expect(named.length).toBeGreaterThan(100);
		expect(
			named.filter((name) => !existsSync(name) && !files.some((file) => file.endsWith(`/${name}`)))
		).toEqual([]);
	});

	it('lead to pages and pictures that there are', () => {
		for (const file of DOCUMENTS) {
			const folder = file.includes('/') ? 'docs/' : '';
			for (const [, to] of readFileSync(file, 'utf8').matchAll(/\]\(([^)#:]+)(?:#[^)]*)?\)/g))
				expect(existsSync(folder + to!), `${file}: ${to}`).toBe(true);
		}
	});
});
