import { existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';
import { expect, it } from 'vitest';

/** Which folder of core uses which, types too, by what stands in its files. */
function arrows(): Map<string, Set<string>> {
	const found = new Map<string, Set<string>>();
	for (const file of readdirSync('src/core', { recursive: true }) as string[]) {
		const path = join('src/core', file);
		if (!file.endsWith('.ts') || file.endsWith('.test.ts') || !statSync(path).isFile()) continue;
		const folderOf = (of: string) => relative('src/core', of).split('/')[0]!;
		const from = folderOf(path);
		for (const [, to] of readFileSync(path, 'utf8').matchAll(/from '(\.[^']*)'/g)) {
			const other = folderOf(normalize(join(dirname(path), to!)));
			if (other !== from) found.set(from, (found.get(from) ?? new Set()).add(other));
		}
	}
	return found;
}

/** Those of a graph that are reached from themselves. */
function inCircles(uses: Map<string, Set<string>>): string[] {
	const below = (from: string, seen = new Set<string>()): Set<string> => {
		for (const next of uses.get(from) ?? [])
			if (!seen.has(next)) {
				seen.add(next);
				below(next, seen);
			}
		return seen;
	};
	return [...uses.keys()].filter((from) => below(from).has(from));
}

it('folders of core stand above one another: none uses what uses it', () => {
	const uses = arrows();
	expect(uses.size).toBeGreaterThan(15);
	expect(inCircles(uses)).toEqual([]);
	// What everything stands on stands on nothing.
	expect(uses.get('base')).toBeUndefined();
});

it('files of the server stand above one another, and what is kept uses no answer', () => {
	const uses = new Map<string, Set<string>>();
	for (const file of readdirSync('src/lib/server', { recursive: true }) as string[]) {
		const path = join('src/lib/server', file);
		if (!file.endsWith('.ts') || file.endsWith('.test.ts') || !statSync(path).isFile()) continue;
		const others = [
			...readFileSync(path, 'utf8').matchAll(/^(?:import|export) (?!type)[^;]*from '(\.[^']*)'/gm)
		]
			.map(([, to]) => normalize(join(dirname(path), to!)))
			.flatMap((to) => [`${to}.ts`, `${to}/index.ts`].filter((f) => existsSync(f)));
		uses.set(path, new Set(others));
	}
	expect(uses.size).toBeGreaterThan(60);
	expect(inCircles(uses)).toEqual([]);
	const kept = [...uses].filter(([file]) => file.startsWith('src/lib/server/stores/'));
	expect(kept.length).toBeGreaterThan(15);
	expect(kept.filter(([, others]) => [...others].some((f) => f.includes('/answers/')))).toEqual([]);
});

it('what a file exports another file uses', () => {
	const words = new Map<string, Set<string>>();
	const exported: [file: string, name: string][] = [];
	for (const file of ['vite.config.ts', 'svelte.config.js'])
		words.set(file, new Set(readFileSync(file, 'utf8').match(/\w+/g)));
	for (const folder of ['src', 'scripts', 'tests'])
		for (const file of readdirSync(folder, { recursive: true }) as string[]) {
			const path = join(folder, file);
			if (!/\.(ts|svelte|mjs)$/.test(file) || file.includes('messages/compiled')) continue;
			const text = readFileSync(path, 'utf8');
			words.set(path, new Set(text.match(/\w+/g)));
			// What the framework asks for by name, and types that are declared for all.
			if (/\/(routes|hooks)|hooks\.|service-worker|\.d\.ts$/.test(path)) continue;
			for (const [, name] of text.matchAll(
				/^export (?:async )?(?:const|let|function\*?|class|interface|type) (\w+)/gm
			))
				exported.push([path, name!]);
		}
	expect(exported.length).toBeGreaterThan(1000);
	const unused = exported.filter(([file, name]) =>
		[...words].every(([other, its]) => other === file || !its.has(name))
	);
	expect(unused).toEqual([]);
});
