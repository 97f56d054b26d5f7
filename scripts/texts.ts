/**
 * Every text of the interface, file by file, to be read aloud once: words between tags, what labels and hints say, and strings with a
 * space in them in code. `npm run texts`, or `npm run texts -- bench` for files whose path holds the word.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { parse } from 'svelte/compiler';
import ts from 'typescript';

const SPOKEN = new Set([
	'title',
	'label',
	'placeholder',
	'aria-label',
	'alt',
	'hint',
	'caption',
	'legend',
	'go',
	'heading',
	'says'
]);
const wanted = process.argv[2] ?? '';
const files = execFileSync('git', ['ls-files', 'src/*.svelte', 'src/*.ts'], { encoding: 'utf8' })
	.split('\n')
	.filter((file) => file.includes(wanted) && file && !/\.test\.ts$|^src\/core\/simulate/.test(file))
	.sort();

/** Text as it is read: without the line breaks and spaces of the source. */
const plain = (text: string) => text.replace(/\s+/g, ' ').trim();
/** Words people read have a space or begin a sentence; names in code have neither. */
const isWords = (text: string) =>
	/[A-Za-z]{2}.* .*[A-Za-z]{2}/.test(text) && !/[{};=]|^import|^\.\.?\/|min-h-|px-\d|text-/.test(text);

/** Strings of a piece of TypeScript. */
function stringsIn(source: string): string[] {
	const found: string[] = [];
	const visit = (node: ts.Node): void => {
		if (ts.isImportDeclaration(node)) return;
		if (ts.isStringLiteralLike(node) && isWords(node.text)) found.push(plain(node.text));
		if (ts.isTemplateExpression(node)) {
			const text = node.head.text + node.templateSpans.map((s) => `…${s.literal.text}`).join('');
			if (isWords(text)) found.push(plain(text));
		}
		ts.forEachChild(node, visit);
	};
	visit(ts.createSourceFile('x.ts', source, ts.ScriptTarget.Latest, true));
	return found;
}

type Node = { type?: string; [key: string]: unknown };
/** Words of a component, in the order in which they stand. */
function wordsOf(source: string): string[] {
	const ast = parse(source, { modern: true }) as unknown as Node;
	const found: string[] = [];
	const say = (text: string) => /[A-Za-z]{2}/.test(text) && found.push(plain(text));
	const visit = (node: unknown, spoken: boolean): void => {
		if (Array.isArray(node)) return node.forEach((n) => visit(n, spoken));
		if (!node || typeof node !== 'object') return;
		const { type, ...rest } = node as Node;
		if (type === 'Text' && spoken) say(String(rest['data']));
		if (type === 'Attribute') return visit(rest['value'], SPOKEN.has(String(rest['name'])));
		if (type === 'Literal' && typeof rest['value'] === 'string' && isWords(rest['value'])) say(rest['value']);
		if (type === 'TemplateLiteral') {
			const parts = (rest['quasis'] as { value: { raw: string } }[]).map((q) => q.value.raw).join('…');
			if (isWords(parts)) say(parts);
		}
		for (const [key, value] of Object.entries(rest))
			if (key !== 'css' && key !== 'options') visit(value, key === 'fragment' || key === 'nodes' || spoken);
	};
	visit(ast['fragment'], true);
	for (const script of ['instance', 'module']) {
		const part = ast[script] as { content?: { start: number; end: number } } | null;
		if (part?.content) found.push(...stringsIn(source.slice(part.content.start, part.content.end)));
	}
	return found;
}

for (const file of files) {
	const source = readFileSync(file, 'utf8');
	const words = file.endsWith('.svelte') ? wordsOf(source) : stringsIn(source);
	if (words.length) console.log(`\n${file}\n${[...new Set(words)].map((w) => `  ${w}`).join('\n')}`);
}
