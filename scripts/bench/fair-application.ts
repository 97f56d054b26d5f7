import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { tryPort } from '../machine';

/** What the page asks of the database: who it is, by an index, and some rows of their own, by an index. */
const SERVER = `
import mysql from 'mysql2/promise';
const pool = mysql.createPool({ uri: process.env.DATABASE_URL, connectionLimit: 10 });
const SESSION = 'select s.user_id, s.expires_at, u.name from session s join user u on u.id = s.user_id where s.token = ?';
const ROWS = 'select id, parameter, taken_at, revision from reading force index (book_of_system) where system_id = ? order by taken_at desc limit 30';
export async function load({ url }) {
	const [[person]] = await pool.execute(SESSION, [url.searchParams.get('token')]);
	const [rows] = await pool.execute(ROWS, [url.searchParams.get('of')]);
	return { name: person?.name, rows: rows.map((r) => ({ ...r, taken_at: r.taken_at.toISOString() })), elements: Number(url.searchParams.get('elements')), text: 'x'.repeat(Number(url.searchParams.get('each'))) };
}
`;
const PAGE = `
<script>
	let { data } = $props();
</script>
<h1>{data.name}</h1>
<ul>{#each data.rows as r (r.id)}<li>{r.parameter} {r.taken_at}</li>{/each}</ul>
<section>{#each { length: data.elements } as _, i (i)}<p data-i={i}>{data.text}</p>{/each}</section>
`;
const FILES: Record<string, string> = {
	'package.json': '{ "type": "module" }',
	'svelte.config.js':
		"import adapter from '@sveltejs/adapter-node'; export default { kit: { adapter: adapter() } };",
	'vite.config.js':
		"import { sveltekit } from '@sveltejs/kit/vite'; export default { plugins: [sveltekit()] };",
	'src/app.html': '<!doctype html><html><head>%sveltekit.head%</head><body>%sveltekit.body%</body></html>',
	'src/routes/+page.server.js': SERVER,
	'src/routes/+page.svelte': PAGE,
	'src/routes/empty/+page.svelte': '<h1>Hello</h1>'
};

export interface FairApplication {
	/** The address of a page of so many elements and bytes that asks for a person and their rows. */
	page: (of: { elements: number; bytes: number; token: string; system: string }) => string;
	stop: () => Promise<void>;
}

/**
 * What a page may cost: the framework alone with as many elements and bytes, one look-up of a session and one indexed query on
 * the same database. Built below this project, so that it finds the same packages.
 */
export async function buildFairApplication(databaseUrl: string): Promise<FairApplication> {
	const folder = resolve('.tmp/fair');
	for (const [name, text] of Object.entries(FILES)) {
		mkdirSync(join(folder, name, '..'), { recursive: true });
		writeFileSync(join(folder, name), text);
	}
	execFileSync(resolve('node_modules/.bin/vite'), ['build'], { cwd: folder, stdio: 'ignore' });
	const port = await tryPort(0);
	const child = spawn(process.execPath, [join(folder, 'build/index.js')], {
		env: { ...process.env, PORT: String(port), HOST: '127.0.0.1', DATABASE_URL: databaseUrl },
		stdio: 'ignore'
	});
	const origin = `http://127.0.0.1:${port}`;
	const bytesOf = async (address: string) => (await (await fetch(address)).text()).length;
	for (let tries = 0; tries < 100; tries++) {
		if (await bytesOf(`${origin}/empty`).catch(() => 0)) break;
		await new Promise((done) => setTimeout(done, 50));
	}
	return {
		page: ({ elements, bytes, token, system }) => {
			// An element of this page has 22 bytes about its text; head, rows and script some five thousand.
			const each = Math.max(0, Math.round((bytes - 5000) / elements - 22));
			return `${origin}/?${new URLSearchParams({ token, of: system, elements: String(elements), each: String(each) })}`;
		},
		stop: async () => {
			const ended = new Promise((done) => child.once('exit', done));
			// It holds nothing; its pool would keep it waiting.
			child.kill('SIGKILL');
			await ended;
			rmSync(folder, { recursive: true, force: true });
		}
	};
}
