import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { CONTENTS, type Chunk, type Notice } from '../../scripts/shipped';

/** What the last build sends to browsers, and whose work it is. */
const chunks = JSON.parse(readFileSync(CONTENTS, 'utf8')) as Record<string, Chunk>;
const notices = JSON.parse(readFileSync('build/app/client/notices.json', 'utf8')) as Notice[];

/** Everything a page fetches before it answers. */
function modulesOf(entry: string): string[] {
	const seen = new Set<string>();
	const follow = (file: string) => {
		if (seen.has(file) || !chunks[file]) return;
		seen.add(file);
		chunks[file].imports.forEach(follow);
	};
	follow(entry);
	return [...seen].flatMap((file) => chunks[file]!.modules);
}

describe('what pages hold', () => {
	const pages = Object.keys(chunks).filter((file) => /\/nodes\/\d+\./.test(file));

	it.each([
		['schemas are checked on the server', /node_modules\/(typebox|ajv)\//],
		['the solver comes when a plan is asked for in the page', /node_modules\/highs\//],
		['charts come where they are drawn', /node_modules\/(chart\.js|chartjs-[^/]+|luxon-adapter)\//],
		[
			'sheets, pictures and passwords are read by what comes when they are',
			/node_modules\/(@e965|tesseract[^/]*|@zxcvbn-ts)\//
		]
	])('%s', (_why, package_) => {
		expect(pages.length).toBeGreaterThan(30);
		const holding = pages.filter((page) => modulesOf(page).some((id) => package_.test(id)));
		expect(
			holding.map((page) => modulesOf(page).find((id) => /src\/routes.*\+page\.svelte/.test(id)))
		).toEqual([]);
	});

	it('the date library comes with fields for a moment, and with nothing else', () => {
		const dated = pages.filter((page) => modulesOf(page).some((id) => /node_modules\/luxon\//.test(id)));
		for (const page of dated)
			expect(modulesOf(page).some((id) => /forms\/(When|moment)|book\/Filters|proof\/\+page/.test(id))).toBe(
				true
			);
	});
});

describe('what ships', () => {
	/** Licences that let everybody use, change and pass on, and ask for no more than to be named. */
	const PERMISSIVE = [
		'MIT',
		'ISC',
		'Apache-2.0',
		'BSD-2-Clause',
		'BSD-3-Clause',
		'0BSD',
		'BlueOak-1.0.0',
		'OFL-1.1',
		// Which languages count how (Unicode’s data files).
		'Unicode-DFS-2016',
		'(MIT OR CC0-1.0)'
	];
	/** The one that asks for more: a shared library the server loads for pictures, which anybody may replace; it is sent to nobody. */
	const SHARED = /^@img\/sharp-libvips-/;

	it('is permissive, names its fonts and recognition too, and has the words of what is sent to browsers', () => {
		expect(notices.filter((n) => !PERMISSIVE.includes(n.licence) && !SHARED.test(n.name))).toEqual([]);
		const names = new Set(notices.map((n) => n.name));
		for (const part of [
			'svelte',
			'chart.js',
			'highs',
			'tesseract.js-core',
			'@fontsource-variable/jetbrains-mono',
			'better-auth'
		])
			expect([part, names.has(part)]).toEqual([part, true]);
		const sent = new Set(
			Object.values(chunks).flatMap((c) =>
				c.modules.flatMap((id) => /.*node_modules\/((?:@[^/]+\/)?[^/?]+)/.exec(id)?.[1] ?? [])
			)
		);
		expect([...sent].filter((name) => !names.has(name))).toEqual([]);
		expect(notices.filter((n) => sent.has(n.name) && !n.text).map((n) => n.name)).toEqual([]);
	});

	it('is installed beside nothing whose licence asks for money', () => {
		const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8')) as {
			packages: Record<string, { license?: string }>;
		};
		// The list does not take over what old packages say in the plural.
		const inPlural = (path: string) =>
			(JSON.parse(readFileSync(`${path}/package.json`, 'utf8')) as { licenses?: { type: string }[] }).licenses
				?.map(({ type }) => type)
				.join(' OR ');
		const unclear = Object.entries(packages).filter(
			([path, { license }]) => path && /^$|see licen|unlicensed/i.test(license ?? inPlural(path) ?? '')
		);
		expect(unclear.map(([path]) => path)).toEqual([]);
	});
});
