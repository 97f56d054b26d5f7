import { appendFileSync, cpSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Method } from '../../src/core/instruments';
import type { Planned } from '../../src/lib/api/plans';
import { NOW } from '../support/application';
import { demoCookie } from '../support/browser';
import { complaints } from '../support/complaints';
import { copyOfSources, databaseUrl } from '../support/copy';
import { house } from '../support/house';
import { person, type Person } from '../support/person';
import { addressIn } from '../support/rooms';

/**
 * What docs/architecture.md says of adding a parameter and an instrument, done in a copy of the sources that is thrown away: boron by its
 * one file (and its line in the list of files), a needle over a round scale by its two folders (and its lines in the lists of kinds).
 */
const copy = copyOfSources();
const FILE = join(copy.folder, 'src/core/catalogue/parameters/boron.ts');
cpSync('tests/data/boron.ts.txt', FILE);
appendFileSync(join(copy.folder, 'src/core/catalogue/parameters/all.ts'), "export * from './boron';\n");
const CORE = join(copy.folder, 'src/core/instruments');
const UI = join(copy.folder, 'src/lib/ui/instruments');
for (const [from, to] of [
	['tests/data/dial/core', CORE],
	['tests/data/dial/ui', UI]
] as const) {
	mkdirSync(join(to, 'dial'));
	for (const file of readdirSync(from))
		cpSync(join(from, file), join(to, 'dial', file.replace(/\.txt$/, '')));
}
/** An import at the head of a list of kinds, and an entry in it. */
function listed(list: string, imported: string, entry: string): void {
	const before = readFileSync(list, 'utf8');
	const after = `${imported}\n${before.replace(/(\n?\t*)'scale-line':/, `$1${entry},$&`)}`;
	expect(after.length).toBeGreaterThan(before.length + imported.length + entry.length);
	writeFileSync(list, after);
}
listed(join(CORE, 'all.ts'), "import { dial } from './dial';", 'dial');
const SCHEMAS = join(CORE, 'schemas.ts');
const withoutSchemas = complaints(SCHEMAS, copy.folder);
listed(
	SCHEMAS,
	"import { ByNeedle, DialMethod } from './dial/schema';",
	'dial: { method: DialMethod, readings: [ByNeedle] }'
);
listed(join(UI, 'all.ts'), "import { dial } from './dial';", 'dial');
listed(join(UI, 'editors.ts'), "import { dial } from './dial/editor';", 'dial');
afterAll(copy.remove);

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
		expect(complaints(FILE, copy.folder)).toEqual([]);
		const whole = readFileSync(FILE, 'utf8');
		const facets = [...whole.matchAll(/^\t(\w+): /gm)].map((m) => m[1]!);
		expect(facets.length).toBeGreaterThan(20);
		const none = join(copy.folder, 'src/core/catalogue/parameters/none.ts');
		writeFileSync(
			none,
			"import { parameter } from '../parameter';\nexport const none = parameter({ id: 'none' });\n"
		);
		const [lacking] = complaints(none, copy.folder);
		// The compiler names four and counts the others.
		expect(lacking).toContain(`and ${facets.length - 1 - 4} more`);
	});
});

it('an instrument is asked for by the compiler where it lacks, and taken whole', () => {
	expect(withoutSchemas.join()).toContain("Property 'dial' is missing");
	expect(complaints(SCHEMAS, copy.folder)).toEqual([]);
});

/** After what the compiler says: while it works nobody hears that a server has closed an idle connection. */
describe('in a copy that runs', () => {
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

	/** What stands to be read on a page: no scripts, no attributes. */
	const readable = (html: string): string =>
		html.replace(/<(script|style)[\s\S]*?<\/\1>/g, '').replace(/<[^>]*>/g, ' ');

	describe('a parameter that was added is', () => {
		beforeAll(async () => {
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
		});

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

		it('planned for and given out again', async () => {
			const plan = await keeper.json<Planned>(`/api/v1/systems/${tank}/plan`);
			expect(plan.request.parameters.map((p) => p.parameter)).toContain('boron');
			expect(plan.result.steps.filter((s) => s.parameter === 'boron').map((s) => s.kind)).toContain('dose');
			const sheet = await (await keeper.ask(`/api/v1/systems/${tank}/readings.csv`)).text();
			expect(sheet.match(/boron/gi)!.length).toBeGreaterThanOrEqual(8);
		});

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

	describe('an instrument that was added is', () => {
		let saved: Response;
		const kit = uuid();
		const profile = {
			format: 'tevrik.method/1',
			id: 'alk-dial',
			name: 'Alkalinity by needle',
			parameter: 'alkalinity',
			unit: 'dKH',
			reads: 'dial',
			dial: { marks: 100, perMark: 0.2 },
			steps: [{ do: 'read', text: 'Read the needle' }]
		};
		beforeAll(async () => {
			const { sources } = await keeper.json<{ sources: { id: string; kind: string }[] }>(
				`/api/v1/systems/${tank}`
			);
			const source = sources.find((s) => s.kind === 'tank')!.id;
			const made = await keeper.send('PUT', `/api/v1/methods/${kit}`, { profile });
			expect(made.status).toBe(200);
			const version = ((await made.json()) as { versionId: string }).versionId;
			const id = uuid();
			saved = await keeper.send('PUT', `/api/v1/readings/${id}`, {
				sourceId: source,
				sampleId: uuid(),
				takenAt: new Date(Date.parse('2026-05-06T19:00:00Z')).toISOString(),
				methodVersionId: version,
				reading: { needle: 41 }
			});
		});

		it('computed, and its mistakes asked about', async () => {
			const ask = async (needle: number) =>
				(
					await keeper.send('POST', '/api/v1/calc/reading', {
						method: profile,
						reading: { needle },
						expected: { mean: 8.2, standardDeviation: 0.2 }
					})
				).json() as Promise<Record<string, unknown>>;
			expect(await ask(41)).toMatchObject({ qualifier: '=', questions: [] });
			expect(await ask(4.1)).toMatchObject({ questions: [{ slip: 'decimal' }] });
			expect(await ask(101)).toMatchObject({
				problems: [{ path: '/reading/needle', message: expect.stringContaining('last mark') }]
			});
			const wrong = await keeper.send('POST', '/api/v1/calc/reading', {
				method: profile,
				reading: { left: 0.4 }
			});
			expect(await wrong.text()).toContain('must give needle: this method reads a dial');
		});

		it('read, kept with its tag, and told in words', async () => {
			expect(await saved.json()).toMatchObject({
				raw: { reads: 'dial', needle: 41 },
				unit: 'dKH',
				value: expect.closeTo(8.2, 6)
			});
			const sheet = await (await keeper.ask(`/api/v1/systems/${tank}/readings.csv`)).text();
			expect(sheet).toContain('needle at 41');
		});

		it.each([
			['bench/one?of=alkalinity', /Dial of 100 marks/],
			['bench', /Alkalinity by needle/],
			['shelf', /dial/],
			['shelf/new', /Dial/],
			['readings', /needle at 41/],
			['trends?of=alkalinity', /needle at 41|Alkalinity by needle/]
		])('drawn and named in the room %s', async (room, words) => {
			const page = await keeper.ask(addressIn('', tank, room));
			expect([page.status, readable(await page.text())]).toEqual([200, expect.stringMatching(words)]);
		});
	});
});
