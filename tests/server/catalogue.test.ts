import { appendFileSync, cpSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Method } from '../../src/core/instruments';
import type { Planned } from '../../src/lib/api/plans';
import { NOW } from '../support/application';
import { demoCookie } from '../support/browser';
import { copyOfSources, databaseUrl } from '../support/copy';
import { house } from '../support/house';
import { person, type Person } from '../support/person';
import { addressIn } from '../support/rooms';

/** A parameter is added to a copy of the sources by its one file (and its line in the list of files), as docs/architecture.md says. */
const copy = copyOfSources();
const FILE = join(copy.folder, 'src/core/catalogue/parameters/boron.ts');
cpSync('tests/data/boron.ts.txt', FILE);
appendFileSync(join(copy.folder, 'src/core/catalogue/parameters/all.ts'), "export * from './boron';\n");
afterAll(copy.remove);

/** What the compiler says of a file and of all it rests on. */
function complaints(file: string): string[] {
	const { options } = ts.convertCompilerOptionsFromJson(
		{
			strict: true,
			noEmit: true,
			target: 'es2022',
			lib: ['es2022'],
			module: 'esnext',
			moduleResolution: 'bundler'
		},
		copy.folder
	);
	return ts
		.getPreEmitDiagnostics(ts.createProgram([file], { ...options, types: [] }))
		.map((d) => ts.flattenDiagnosticMessageText(d.messageText, '\n'));
}

interface Copied {
	parseQuick: (
		text: string,
		methods: Method[]
	) => { ok: true; value: { parameter: string; methodId: string } };
	understand: (text: string) => { separator: string; layout: Record<string, unknown> };
	KNOWN: Method[];
	installShippedMethods: (now: Date) => Promise<void>;
}
describe('a parameter is one file', () => {
	it('which the compiler takes whole, and names what lacks of it', () => {
		expect(complaints(FILE)).toEqual([]);
		const whole = readFileSync(FILE, 'utf8');
		const facets = [...whole.matchAll(/^\t(\w+): /gm)].map((m) => m[1]!);
		expect(facets.length).toBeGreaterThan(20);
		const none = join(copy.folder, 'src/core/catalogue/parameters/none.ts');
		writeFileSync(
			none,
			"import { parameter } from '../parameter';\nexport const none = parameter({ id: 'none' });\n"
		);
		const [lacking] = complaints(none);
		// The compiler names four and counts the others.
		expect(lacking).toContain(`and ${facets.length - 1 - 4} more`);
	});
});

describe('a parameter that was added is', () => {
	let copied: Copied;
	let running: Awaited<ReturnType<typeof copy.develop>>;
	let keeper: Person;
	let tank: string;
	beforeAll(async () => {
		process.env['DATABASE_URL'] = databaseUrl(house);
		copied = await copy.load<Copied>(
			`export { parseQuick } from './src/core/quick';
		export { SHIPPED_METHODS as KNOWN } from './src/core/methods';
		export { understand } from './src/lib/sheets/parse';
		export { installShippedMethods } from './src/lib/server/stores/methods';`
		);
		await copied.installShippedMethods(new Date(NOW));
		running = await copy.develop(house);
		keeper = person(running.origin, await demoCookie(running.origin));
		tank = (await keeper.json<{ systems: { id: string }[] }>('/api/v1/systems')).systems[0]!.id;
	}, 180_000);
	afterAll(() => running.stop());

	it('known to the quick line, to headers of sheets and to labels', async () => {
		expect(copied.parseQuick('b 4.2', copied.KNOWN)).toMatchObject({
			ok: true,
			value: { parameter: 'boron', methodId: 'known-boron' }
		});
		const { layout } = copied.understand('date,Boor (µg/L)\n2026-05-01,4200\n2026-05-02,4300\n');
		expect(layout['columns']).toEqual([
			{ kind: 'date' },
			{ kind: 'value', parameter: 'boron', unit: 'ug/L' }
		]);
		const sentence = '1 mL in 100 L raises boron by 0.1 mg/L';
		const label = await keeper.send('POST', '/api/v1/calc/label', { sentence });
		expect(await label.json()).toMatchObject({ label: { raises: { parameter: 'boron', value: 0.1 } } });
	});

	it('tested, followed, planned for and given out again', async () => {
		const days = Array.from({ length: 8 }, (_, n) => `2026-05-0${n < 5 ? n + 1 : 5} 1${n}:00,3.${9 - n}`);
		const text = ['date,boron', ...days].join('\n');
		const { separator, layout } = copied.understand(text);
		const { doubts: _doubts, sense: _sense, ...plain } = layout;
		const form = new FormData();
		form.set('file', new File([text], 'lab.csv'));
		form.set('choice', JSON.stringify({ id: uuid(), name: 'lab.csv', separator, layout: plain }));
		const taken = await keeper.ask(`/api/v1/systems/${tank}/imports`, { method: 'POST', body: form });
		expect(await taken.text()).toContain('"kind":"done"');
		const kept = await keeper.send('PUT', `/api/v1/supplements/${uuid()}`, {
			profile: {
				format: 'tevrik.supplement/1',
				id: 'boron-drops',
				name: 'Boron drops',
				kind: 'solution',
				composition: {
					label: {
						amount: 1,
						unit: 'mL',
						waterL: 100,
						raises: { parameter: 'boron', value: 0.1, unit: 'mg/L' }
					}
				}
			},
			amount: 500,
			opened: '2026-05-01'
		});
		expect(kept.status).toBe(200);
		const plan = await keeper.json<Planned>(`/api/v1/systems/${tank}/plan`);
		expect(plan.request.parameters.map((p) => p.parameter)).toContain('boron');
		expect(plan.result.steps.filter((s) => s.parameter === 'boron').map((s) => s.kind)).toContain('dose');
		const sheet = await (await keeper.ask(`/api/v1/systems/${tank}/readings.csv`)).text();
		expect(sheet.match(/boron/gi)!.length).toBeGreaterThanOrEqual(8);
	});

	/** What stands to be read on a page: no scripts, no attributes. */
	const readable = (html: string): string =>
		html.replace(/<(script|style)[\s\S]*?<\/\1>/g, '').replace(/<[^>]*>/g, ' ');
	it.each([
		'rack',
		'readings',
		'trends?of=boron',
		'adjust',
		'adjust/water',
		'adjust/mix',
		'shelf',
		'shelf/new',
		'shelf/pour',
		'shelf/proof?of=boron',
		'tank',
		'wall',
		'/account'
	])('named in the room %s', async (room) => {
		const page = await keeper.ask(addressIn('', tank, room));
		expect([page.status, readable(await page.text())]).toEqual([200, expect.stringMatching(/\bboron\b/i)]);
	});
});
