import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { tryPort } from '../own-mariadb';

const FILES: Record<string, string> = {
	'package.json': '{ "type": "module" }',
	'svelte.config.js':
		"import adapter from '@sveltejs/adapter-node'; export default { kit: { adapter: adapter() } };",
	'vite.config.js':
		"import { sveltekit } from '@sveltejs/kit/vite'; export default { plugins: [sveltekit()] };",
	'src/app.html': '<!doctype html><html><head>%sveltekit.head%</head><body>%sveltekit.body%</body></html>',
	'src/routes/+page.svelte': '<h1>Hello</h1>'
};

/** The framework with one static page and nothing else, built below this project so that it finds the same packages. */
export async function buildBareApplication(): Promise<{ origin: string; stop: () => Promise<void> }> {
	const folder = resolve('.tmp/bare');
	for (const [name, text] of Object.entries(FILES)) {
		mkdirSync(join(folder, name, '..'), { recursive: true });
		writeFileSync(join(folder, name), text);
	}
	execFileSync(resolve('node_modules/.bin/vite'), ['build'], { cwd: folder, stdio: 'ignore' });
	const port = await tryPort(0);
	const child = spawn(process.execPath, [join(folder, 'build/index.js')], {
		env: { ...process.env, PORT: String(port), HOST: '127.0.0.1' },
		stdio: 'ignore'
	});
	const origin = `http://127.0.0.1:${port}/`;
	for (let tries = 0; tries < 100; tries++) {
		if (
			await fetch(origin).then(
				() => true,
				() => false
			)
		)
			break;
		await new Promise((done) => setTimeout(done, 50));
	}
	return {
		origin,
		stop: async () => {
			const ended = new Promise((done) => child.once('exit', done));
			child.kill('SIGTERM');
			await ended;
			rmSync(folder, { recursive: true, force: true });
		}
	};
}
