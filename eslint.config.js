import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** The arrows of docs/architecture.md: each layer may import only what lies below it. */
const forbid = (...patterns) => ({
	'no-restricted-imports': ['error', { patterns }]
});
const routes = { group: ['**/routes/**'], message: 'Nothing imports routes.' };
const insides = {
	regex: '(^\\$|/)core/[a-z]+/(?!index$).+',
	message: 'Use a folder of core through its index.ts.'
};
const sql = {
	group: ['drizzle-orm', 'drizzle-orm/*', 'mysql2', 'mysql2/*'],
	message: 'SQL lives in src/lib/server only.'
};

/** What has one place: what stands beside it drifts. */
const NAMES = {
	selector: "CallExpression[callee.property.name='toLowerCase'] MemberExpression[property.name='title']",
	message: 'Within a sentence a parameter is called by nameInSentence: “pH” stays.'
};
const HOURS = {
	selector: 'Literal[raw=/^(86_400_000|3_600_000)$/]',
	message: 'Lengths of time are DAY and HOUR of core/base.'
};
const NORMAL = {
	selector: 'VariableDeclarator[id.name!=/_95$/] > Literal[raw=/^(1[.]96|1[.]645)$/]',
	message: 'A normal’s 95 % are COVERAGE_95 and ONE_SIDED_95 of core/statistics.'
};

/** A calculation is asked by POST and writes nothing. */
const WRITES = {
	selector:
		"CallExpression[callee.name='call'][arguments.0.value=/^(PUT|POST|PATCH|DELETE)$/]:not([arguments.1.value=/^.api.v1.calc./])",
	message: 'What is written is a command of client/commands.ts, with the type of its operation.'
};

export default ts.config(
	{
		ignores: ['build/', '.svelte-kit/', '.data/', 'node_modules/', 'drizzle/', 'src/lib/messages/compiled/']
	},
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	{
		languageOptions: { globals: { ...globals.browser, ...globals.node } },
		rules: {
			'no-undef': 'off',
			'svelte/no-navigation-without-resolve': 'off',
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }]
		}
	},
	{
		files: ['src/**/*.{ts,svelte}', 'scripts/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: { 'no-restricted-syntax': ['error', NAMES, HOURS, NORMAL] }
	},
	{
		// Branches and lines of one function, and lines of one file. A table of operations and the schema are lists.
		files: ['src/**/*.ts', 'scripts/**/*.ts'],
		ignores: ['**/*.test.ts', 'src/lib/api/operations.ts', 'src/lib/server/db/schema.ts'],
		rules: {
			complexity: ['error', 27],
			'max-lines': ['error', { max: 400, skipComments: true }],
			// A list schedule, a scale found in a picture and a session's commands are one thing each.
			'max-lines-per-function': ['error', { max: 100, skipComments: true }]
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } }
	},
	{
		files: ['src/core/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: {
			...forbid(
				{ regex: '^\\$(lib|app|env)', message: 'Core knows nothing above it.' },
				{
					regex: '^(?!\\.|typebox$|ml-matrix$|simple-statistics$|luxon$|culori/fn$)',
					message: 'Core imports core, maths, colours and the calendar only.'
				},
				{ regex: '^\\.\\./[a-z]+/(?!index$).+', message: 'Use a folder of core through its index.ts.' },
				routes
			),
			'no-restricted-syntax': [
				'error',
				NAMES,
				HOURS,
				NORMAL,
				{
					selector: 'Literal[value=/\\b(plum|moss|saffron|brick)\\b/]',
					message: 'Core gives kinds and numbers; colours are the interface’s.'
				}
			],
			'no-restricted-globals': ['error', 'window', 'document', 'fetch', 'process', 'localStorage', 'crypto'],
			'no-restricted-properties': [
				'error',
				{ object: 'Date', property: 'now', message: 'Time is an argument.' },
				{ object: 'Math', property: 'random', message: 'Randomness is a seed.' }
			]
		}
	},
	{
		files: ['src/core/quantities/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: forbid({
			regex: '^(?!\\./|typebox$|\\.\\./(base|catalogue)$)',
			message: 'quantities stands at the bottom of core.'
		})
	},
	{
		files: ['src/lib/ui/**'],
		rules: forbid(routes, insides, sql, {
			group: ['$lib/server/*', '**/server/**'],
			message: 'ui runs in the browser.'
		})
	},
	{
		files: ['src/lib/server/**'],
		rules: forbid(routes, insides, { group: ['$lib/ui/*'], message: 'server draws nothing.' })
	},
	{
		files: ['src/lib/server/**'],
		ignores: ['src/lib/server/http/**', 'src/lib/server/refuse.ts'],
		rules: forbid(
			routes,
			insides,
			{ group: ['$lib/ui/*'], message: 'server draws nothing.' },
			{
				group: ['@sveltejs/kit'],
				message: 'What refuses does so by refuse.ts; the framework is known to http/ alone.'
			}
		)
	},
	{
		files: ['src/lib/client/**'],
		rules: forbid(routes, insides, sql, {
			regex: '^\\$lib/(ui|server)|/(ui|server)/|^svelte|^\\$app',
			message: 'client is the browser without a picture: no components, no framework, no server.'
		})
	},
	{
		files: ['src/lib/api/**', 'src/lib/sheets/**', 'src/lib/workers/**'],
		rules: forbid(routes, insides, sql, {
			regex: '^\\$lib/(ui|server)|/(ui|server)/',
			message: 'What both sides share knows neither.'
		})
	},
	{ files: ['src/routes/**'], rules: forbid(insides, sql) },
	{
		files: ['src/routes/**', 'src/lib/ui/**'],
		ignores: ['**/*.test.ts'],
		rules: { 'no-restricted-syntax': ['error', NAMES, HOURS, NORMAL, WRITES] }
	}
);
