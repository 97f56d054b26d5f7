import { readFileSync, readdirSync, statSync } from 'node:fs';
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

it('folders of core stand above one another: none uses what uses it', () => {
	const uses = arrows();
	expect(uses.size).toBeGreaterThan(15);
	const below = (folder: string, seen = new Set<string>()): Set<string> => {
		for (const next of uses.get(folder) ?? [])
			if (!seen.has(next)) {
				seen.add(next);
				below(next, seen);
			}
		return seen;
	};
	expect([...uses.keys()].filter((folder) => below(folder).has(folder))).toEqual([]);
	// What everything stands on stands on nothing.
	expect(uses.get('base')).toBeUndefined();
});
