import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Plugin } from 'vite';

/** One package of what ships, with the licence it comes under and its words. */
export interface Notice {
	name: string;
	version: string;
	licence: string;
	text: string;
}
/** What one file of the browser's holds and fetches with it, and what only later. */
export interface Chunk {
	modules: string[];
	imports: string[];
	later: string[];
}
/** Where {@link shipped} leaves the chunks of the last build: for the test that looks into them. */
export const CONTENTS = '.svelte-kit/contents.json';

const packageOf = (id: string): string | undefined => /.*node_modules\/((?:@[^/]+\/)?[^/?]+)/.exec(id)?.[1];
/** Fonts come by the style sheet, whose files are no modules. */
const fontsIn = (css: string): string[] =>
	[...readFileSync(css, 'utf8').matchAll(/url\('(@fontsource[^']*)'\)/g)].map(([, path]) =>
		path!.split('/').slice(0, 2).join('/')
	);
/** What the server runs on beside what is bundled: its packages, and theirs, as they are installed here. */
function installed(): Set<string> {
	const found = new Set<string>();
	const follow = (folder: string) => {
		const about = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as {
			dependencies?: Record<string, string>;
			optionalDependencies?: Record<string, string>;
		};
		for (const name of Object.keys({ ...about.dependencies, ...about.optionalDependencies })) {
			// The nearest folder above that has it, as Node looks for it.
			let at = folder;
			while (at !== '.' && !existsSync(join(at, 'node_modules', name))) at = dirname(at);
			const path = join(at, 'node_modules', name);
			if (found.has(path) || !existsSync(path)) continue;
			found.add(path);
			follow(path);
		}
	};
	follow('.');
	return found;
}

function noticeOf(folder: string): Notice {
	const about = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8')) as {
		name: string;
		version: string;
		license?: string | { type: string };
		licenses?: { type: string }[];
	};
	const licence =
		typeof about.license === 'string'
			? about.license
			: (about.license?.type ?? about.licenses?.map((l) => l.type).join(' OR ') ?? 'not said');
	const files = readdirSync(folder).filter((f) => /^(licen[cs]e|copying|notice)([.-]|$)/i.test(f));
	const text = files.map((f) => readFileSync(join(folder, f), 'utf8').trim()).join('\n\n');
	return { name: about.name, version: about.version, licence, text };
}

/**
 * Notes what ships: every package in pages and workers, fonts, text recognition and what the server runs on become `notices.json`, and
 * `notices.txt` for people. `others`: packages whose files are sent as they are.
 */
export function shipped(others: string[]): { page: Plugin; worker: () => Plugin } {
	const found = new Set<string>();
	const note = (ids: Iterable<string>) => {
		for (const id of ids) {
			const name = packageOf(id);
			if (name) found.add(name);
		}
	};
	return {
		worker: () => ({
			name: 'tevrik:shipped-worker',
			generateBundle() {
				note(this.getModuleIds());
			}
		}),
		page: {
			name: 'tevrik:shipped',
			generateBundle(_, bundle) {
				if (this.environment.name !== 'client') return;
				const chunks: Record<string, Chunk> = {};
				for (const chunk of Object.values(bundle)) {
					if (chunk.type !== 'chunk') continue;
					note(chunk.moduleIds);
					chunks[chunk.fileName] = {
						modules: chunk.moduleIds.map((id) => id.replace(`${process.cwd()}/`, '')),
						imports: chunk.imports,
						later: chunk.dynamicImports
					};
				}
				mkdirSync('.svelte-kit', { recursive: true });
				writeFileSync(CONTENTS, JSON.stringify(chunks));
				const folders = new Set([
					...installed(),
					...[...found, ...others, ...fontsIn('src/app.css')].map((name) => `node_modules/${name}`)
				]);
				const notices = new Map(
					[...folders].map((folder) => noticeOf(folder)).map((n) => [`${n.name} ${n.version}`, n])
				);
				const sorted = [...notices.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
				const text = sorted
					.map((n) => `${n.name} ${n.version}\n${n.licence}\n\n${n.text}`)
					.join(`\n\n${'-'.repeat(80)}\n\n`);
				this.emitFile({ type: 'asset', fileName: 'notices.json', source: JSON.stringify(sorted) });
				this.emitFile({ type: 'asset', fileName: 'notices.txt', source: text });
			}
		}
	};
}
