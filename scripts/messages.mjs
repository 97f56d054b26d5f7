/**
 * Compiles the messages of src/lib/messages, one file of ICU MessageFormat for each language and room, into functions with typed holes:
 * `compiled/<language>/<room>.js` and `.d.ts`, each without imports. Vite and the type check call it first; a file that
 * would stay the same is not written.
 */
import MessageFormat from '@messageformat/core';
import compileModule from '@messageformat/core/compile-module.js';
import { parse } from '@messageformat/parser';
import { build } from 'esbuild';
import { mkdirSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

const FOLDER = 'src/lib/messages';
const COMPILED = 'compiled';

/** The languages, each a folder. */
export const languages = () =>
	readdirSync(FOLDER, { withFileTypes: true })
		.filter((entry) => entry.isDirectory() && entry.name !== COMPILED)
		.map((entry) => entry.name);

/** The messages of a language by room: [room, { key: message }]. */
export const roomsOf = (language) =>
	readdirSync(join(FOLDER, language))
		.filter((file) => file.endsWith('.json'))
		.map((file) => [
			file.replace(/\.json$/, ''),
			JSON.parse(readFileSync(join(FOLDER, language, file), 'utf8'))
		]);

/** The holes of a message with the type of what fills each; throws where it is no ICU message. */
export function holesOf(message) {
	const holes = new Map();
	const walk = (tokens) => {
		for (const token of tokens) {
			if (token.type === 'content' || token.type === 'octothorpe') continue;
			holes.set(token.arg, token.type === 'plural' ? 'number' : (holes.get(token.arg) ?? 'string'));
			for (const { tokens: inside } of token.cases ?? []) walk(inside);
		}
	};
	walk(parse(message, { strict: true }));
	return holes;
}

const typeOf = (message) => {
	const holes = [...holesOf(message)].map(([hole, type]) => `${hole}: ${type}`);
	return holes.length ? `(holes: { ${holes.join('; ')} }) => string` : '() => string';
};

/** Each message as an export of its own, so that pages hold only those they use. */
async function codeOf(language, messages) {
	const compiled = compileModule(new MessageFormat(language, { strict: true }), messages);
	const contents = compiled
		.replace(/^export default \{$/m, '')
		.replace(/^\}$/m, '')
		.replace(/^ {2}(\w+): (.*?),?$/gm, 'export const $1 = $2;');
	const { outputFiles } = await build({
		stdin: { contents, resolveDir: '.' },
		bundle: true,
		write: false,
		format: 'esm',
		target: 'es2022'
	});
	return outputFiles[0].text;
}

function writeIfOther(file, text) {
	try {
		if (readFileSync(file, 'utf8') === text) return;
	} catch {
		// It is not there yet.
	}
	// Several processes may do this at once: each puts a whole file in its place.
	const own = `${file}.${process.pid}`;
	writeFileSync(own, text);
	renameSync(own, file);
}

export async function compileMessages() {
	for (const language of languages()) {
		const folder = join(FOLDER, COMPILED, language);
		mkdirSync(folder, { recursive: true });
		for (const [room, messages] of roomsOf(language)) {
			const types = Object.entries(messages).map(([key, m]) => `export const ${key}: ${typeOf(m)};`);
			writeIfOther(join(folder, `${room}.d.ts`), `${types.join('\n')}\n`);
			writeIfOther(join(folder, `${room}.js`), await codeOf(language, messages));
		}
	}
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await compileMessages();
