import Ajv2020, { type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { transformSync } from 'esbuild';
import type { Connection } from 'mysql2/promise';
import { execFile } from 'node:child_process';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { uniform } from '../../src/core/simulate';
import { SIMULATED_LAB } from '../../src/core/simulate';
import { OPERATIONS, type Operation } from '../../src/lib/api/operations';
import { NOW, startApplication, type Application } from '../support/application';
import { demoCookie } from '../support/browser';
import { documentedProgram } from '../support/documented-program';
import { tries } from '../support/length';
import { databaseOf, person, shownOnce, signedUp, sumOf, type Person } from '../support/person';

/** A site that may ask. */
const FRIEND = 'https://clock.example';

let application: Application;
let db: Connection;
let owner: Person;
let viewer: Person;
let other: Person;
let tank: string;
/** The API's document as a client reads it, and a checker that goes by it. */
let document: Document;
const ajv = new Ajv2020({ strict: false });
addFormats(ajv);
/** What stands for names in braces in an operation's path and example. */
const known: Record<string, string> = {};

beforeAll(async () => {
	application = await startApplication({
		environment: { TEVRIK_CORS_ORIGINS: `https://a.example ${FRIEND}/` }
	});
	const { origin } = application;
	db = await databaseOf(application.data);
	owner = person(origin, await demoCookie(origin));
	const { systems } = await owner.json<{ systems: { id: string; name: string }[] }>('/api/v1/systems');
	tank = systems.find((s) => s.name === 'Long Gallery')!.id;
	const link = shownOnce(
		await (await owner.form(`/s/${tank}/tank?/invite`, { role: 'viewer' })).text(),
		'link'
	);
	const token = link.split('/invite/')[1]!;
	viewer = await signedUp(origin, 'Maud', { invitation: token });
	await owner.form('/mail?/signup', { open: 'yes' });
	other = await signedUp(origin, 'Bram');
	await other.send('PUT', '/api/v1/systems/01900000-0000-7000-8000-0000000000b1', {
		id: '01900000-0000-7000-8000-0000000000b1',
		name: 'Bram’s',
		netVolumeL: 60,
		timeZone: 'Europe/Dublin',
		alkalinity: { lower: 7, upper: 9 }
	});
	const { sources } = await owner.json<{ sources: { id: string; kind: string }[] }>(
		`/api/v1/systems/${tank}`
	);
	const { methods } = await owner.json<{
		methods: { id: string; versionId: string; profile: { id: string } }[];
	}>('/api/v1/methods');
	const alkalinity = methods.find((m) => m.profile.id === 'alk-syringe-6')!;
	Object.assign(known, {
		system: tank,
		source: sources.find((s) => s.kind === 'tank')!.id,
		methodVersion: alkalinity.versionId,
		reading: '01900000-0000-7000-8000-000000000001',
		event: '01900000-0000-7000-8000-000000000002',
		method: '01900000-0000-7000-8000-000000000003',
		pack: '01900000-0000-7000-8000-000000000004',
		run: '01900000-0000-7000-8000-000000000005',
		import: '01900000-0000-7000-8000-000000000006',
		supplement: '01900000-0000-7000-8000-000000000007',
		plan: '01900000-0000-7000-8000-000000000008',
		photo: '01900000-0000-7000-8000-000000000010',
		step: '0',
		posted: '01900000-0000-7000-8000-000000000009',
		now: NOW
	});
	document = await owner.json<Document>('/api/v1/openapi.json');
	ajv.addSchema(document, 'document');
	// A sample whose sheet is back.
	await owner.send('PUT', `/api/v1/events/${known['posted']}`, {
		systemId: tank,
		at: new Date(Date.parse(NOW) - 6 * 86_400_000).toISOString(),
		event: { kind: 'posted', lab: SIMULATED_LAB, sample: 'S1' }
	});
});
afterAll(async () => {
	await db?.end();
	await application?.stop();
});

const filled = (text: string): string =>
	text.replace(/\{(\w+)\}/g, (_, name: string) =>
		name === 'new' ? crypto.randomUUID() : (known[name] ?? name)
	);
const bodyOf = (example: unknown): unknown => JSON.parse(filled(JSON.stringify(example)));
/** The same as a form: its parts are text or JSON, its file a file. */
function formOf(example: unknown): FormData {
	const form = new FormData();
	for (const [name, part] of Object.entries(bodyOf(example) as Record<string, unknown>))
		if (name === 'file') form.append(name, new Blob([String(part)]), 'sheet.csv');
		else form.append(name, JSON.stringify(part));
	return form;
}
/** The schema at a place in the document, as a check. */
const checkAt = (...names: string[]): ValidateFunction =>
	ajv.compile({
		$ref: `document#/${names.map((n) => encodeURIComponent(n.replaceAll('~', '~0').replaceAll('/', '~1'))).join('/')}`
	});
/** What of an answer is not as the document has it. */
async function strange({ method, path, answers }: Operation, answer: Response): Promise<unknown> {
	const type = answers ?? 'application/json';
	if (answer.headers.get('content-type')?.split(';')[0] !== type) return answer.headers.get('content-type');
	const text = await answer.text();
	if (!type.endsWith('json')) return text ? null : 'nothing';
	const check = checkAt('paths', path, method, 'responses', '200', 'content', type, 'schema');
	for (const line of type === 'application/x-ndjson' ? text.trim().split('\n') : [text])
		if (!check(JSON.parse(line))) return check.errors;
	return null;
}
const IDEMPOTENT = { 'idempotency-key': 'walk' };

describe('the API', () => {
	it('does what its document says: every example is accepted, every answer of its schema, every route described', async () => {
		// What others hang on comes first: a tank's readings before their corrections.
		for (const o of OPERATIONS) {
			if (o.body && o.example === undefined) continue;
			if (o.path === '/systems/{system}' && o.method === 'put') continue;
			if (o.path.includes('/imports/')) continue;
			const path =
				o.path === '/sources/{source}'
					? `/api/v1/sources/${crypto.randomUUID()}`
					: `/api/v1${filled(o.path)}`;
			const made = o.bodyType
				? await owner.ask(path, { method: 'POST', body: formOf(o.example) })
				: await owner.send(
						o.method.toUpperCase(),
						path,
						o.example === undefined ? undefined : bodyOf(o.example),
						o.once ? { 'idempotency-key': o.path } : {}
					);
			// Before it is put a method or reading is not there to be got.
			if (o.method === 'get' && /\{(reading|method|run)\}$/.test(o.path) && made.status === 404) continue;
			if (o.path.startsWith('/runs/{run}/events') && made.status === 404) continue;
			expect
				.soft([o.method, o.path, made.status, made.ok ? await strange(o, made) : await made.text()])
				.toEqual([o.method, o.path, 200, null]);
		}
		// And what is there now, which was not before.
		for (const o of OPERATIONS.filter((o) => o.method === 'get' && !/^.photos/.test(o.path))) {
			const got = await owner.ask(`/api/v1${filled(o.path)}`);
			// Its one was used up by its own example.
			if (o.path === '/supplements/{supplement}') continue;
			expect.soft([o.path, got.status, await strange(o, got)]).toEqual([o.path, 200, null]);
		}
		// The picture that was deleted stays so; those who come after have another.
		known['photo'] = '01900000-0000-7000-8000-000000000011';
		const { example } = OPERATIONS.find((o) => o.path === '/photos/{photo}' && o.method === 'put')!;
		expect((await owner.send('PUT', `/api/v1/photos/${known['photo']}`, bodyOf(example))).status).toBe(200);
		const described = OPERATIONS.map((o) => `${o.method} ${o.path.replace(/\{\w+\}/g, '*')}`).sort();
		const there = files('src/routes/api/v1', '+server.ts').flatMap((file) =>
			[...readFileSync(file, 'utf8').matchAll(/^export const (GET|PUT|POST|PATCH|DELETE)\b/gm)].flatMap(
				([, m]) => {
					const path = file
						.replace('src/routes/api/v1', '')
						.replace('/+server.ts', '')
						.replace(/\[[^\]]+\]/g, '*');
					if (path === '/openapi.json') return [];
					return path === '/calc/*'
						? OPERATIONS.filter((o) => o.group === 'Calculations').map((o) => `post ${o.path}`)
						: [`${m!.toLowerCase()} ${path}`];
				}
			)
		);
		expect(described).toEqual(there.sort());
	});

	it('keeps what is sent twice once, tells what is known by its tag, and goes through pages', async () => {
		const at = `/api/v1/systems/${tank}`;
		const letter = { ...(bodyOf(OPERATIONS.find((o) => o.once)!.example) as object) };
		const sent = [1, 2].map(() => owner.send('POST', `${at}/readings`, letter, IDEMPOTENT));
		const [a, b] = (await Promise.all(sent.map(async (r) => (await r).json()))) as { id: string }[];
		expect(a!.id).toBe(b!.id);
		expect((await owner.send('POST', `${at}/readings`, letter)).status).toBe(428);
		const first = await owner.ask(`${at}/readings?limit=7`);
		const tag = first.headers.get('etag')!;
		expect((await owner.ask(`${at}/readings?limit=7`, { headers: { 'if-none-match': tag } })).status).toBe(
			304
		);
		const seen = new Set<string>();
		let next: string | null = `${at}/readings?limit=50&show=all`;
		while (next) {
			const page: { readings: { id: string; takenAt: string }[]; next: string | null } =
				await owner.json(next);
			for (const r of page.readings) expect(seen.has(r.id)).toBe(false);
			page.readings.forEach((r) => seen.add(r.id));
			expect(page.readings.length).toBeLessThanOrEqual(50);
			next = page.next;
		}
		const [[counted]] = (await db.query('select count(*) as n from reading where system_id = ?', [
			tank
		])) as unknown as [{ n: number }[]];
		expect(seen.size).toBe(Number(counted!.n));
		const wrong = await owner.ask(`${at}/readings?limit=9999`);
		expect([wrong.status, wrong.headers.get('content-type')]).toEqual([422, 'application/problem+json']);
		expect(await wrong.json()).toMatchObject({ status: 422, problems: [{ path: '/limit' }] });
	});

	it('does what the program of docs/api.md asks', async () => {
		const made = await owner.form('/account?/token', { name: 'program', which: 'all', writes: 'on' });
		const { code } = transformSync(documentedProgram(), { loader: 'ts', format: 'esm' });
		// Where the application stands, it is another day than here.
		const today = `globalThis.Date = class extends Date { constructor(...of) { super(...(of.length ? of : ['${NOW}'])); } };`;
		const { stdout } = await promisify(execFile)(
			process.execPath,
			['--input-type=module', '-e', today + code],
			{
				env: {
					...process.env,
					TEVRIK_URL: application.origin,
					TEVRIK_TOKEN: shownOnce(await made.text(), 'token')
				}
			}
		);
		const lines = stdout.trim().split('\n');
		expect(lines[0]).toMatch(/^saved alkalinity \d/);
		expect(lines.filter((line) => line.startsWith('plan ')).length).toBeGreaterThan(0);
		expect(lines.filter((line) => line.startsWith('read ')).length).toBe(10);
	});

	it('refuses as HTTP has it, in problem details, whatever kind of page was asked for', async () => {
		const asBrowser = { accept: 'text/html' };
		const told = async (response: Response) => {
			const said = (await response.json()) as { status: number; detail: string };
			expect([response.headers.get('content-type'), said.status]).toEqual([
				'application/problem+json',
				response.status
			]);
			expect(said.detail).toMatch(/^[^<]+$/);
			return response;
		};
		const readings = `/api/v1/systems/${tank}/readings`;
		for (const path of [
			'/api/v1/nothing',
			'/api/v2',
			`/api/v1/readings/${crypto.randomUUID()}`,
			'/api/v1/runs/a'
		])
			expect((await told(await owner.ask(path, { headers: asBrowser }))).status, path).toBe(404);
		expect(
			(await told(await person(application.origin).send('POST', '/api/v1/calc/nothing', {}))).status
		).toBe(404);
		const wrongWay = await told(await owner.send('PATCH', readings, {}));
		expect([wrongWay.status, wrongWay.headers.get('allow')]).toEqual([405, 'GET, POST, HEAD']);
		const options = await person(application.origin).ask(readings, { method: 'OPTIONS' });
		expect([options.status, options.headers.get('allow')]).toEqual([204, 'GET, POST, HEAD, OPTIONS']);
		const [got, head] = await Promise.all(
			['GET', 'HEAD'].map((method) => owner.ask('/api/v1/systems', { method }))
		);
		expect([head!.status, head!.headers.get('etag'), await head!.text()]).toEqual([
			200,
			got!.headers.get('etag'),
			''
		]);
		const form = await told(
			await owner.ask(`/api/v1/events/${known['event']}`, {
				method: 'PUT',
				headers: { 'content-type': 'text/plain' },
				body: '{}'
			})
		);
		expect(form.status).toBe(415);
		const [lines] = await Promise.all([
			owner.json<{ lines: unknown[]; next: string }>(
				`/api/v1/systems/${tank}/lines?limit=3&parameter=calcium`
			)
		]);
		const below = await owner.json<{ lines: unknown[] }>(lines.next);
		expect([lines.lines.length, below.lines.length]).toEqual([3, 3]);
		expect(below.lines).not.toEqual(lines.lines);
	});

	it('takes what is sent in gzip, never more of it than without, and says how much of a share is left', async () => {
		const send = (body: Uint8Array, coding: string) =>
			person(application.origin).ask('/api/v1/calc/convert', {
				method: 'POST',
				headers: { 'content-type': 'application/json', 'content-encoding': coding },
				body: body as BodyInit
			});
		const request = JSON.stringify(OPERATIONS.find((o) => o.path === '/calc/convert')!.example);
		const taken = await send(gzipSync(request), 'gzip');
		expect(taken.status).toBe(200);
		expect(taken.headers.get('ratelimit-policy')).toMatch(/;q=120;w=60$/);
		const left = Number(/;r=(\d+);t=\d+$/.exec(taken.headers.get('ratelimit')!)![1]);
		expect(left).toBeLessThan(120);
		expect((await send(gzipSync(`${' '.repeat(4_000_000)}${request}`), 'gzip')).status).toBe(413);
		expect((await send(Buffer.from(request), 'gzip')).status).toBe(400);
		expect((await send(Buffer.from(request), 'br')).status).toBe(415);
		let refused: Response;
		do refused = await send(gzipSync(request), 'gzip');
		while (refused.status === 200);
		expect([refused.status, refused.headers.get('ratelimit')]).toEqual([
			429,
			expect.stringMatching(/;r=0;t=\d+$/)
		]);
		expect(Number(refused.headers.get('retry-after'))).toBeGreaterThan(0);
	});

	it('is asked from other sites only where the operator names them, and never with a cookie', async () => {
		const from = (origin: string, method = 'GET') =>
			fetch(`${application.origin}/api/v1/methods/schema`, {
				method,
				headers: { origin, ...(method === 'OPTIONS' ? { 'access-control-request-method': 'GET' } : {}) }
			});
		for (const method of ['GET', 'OPTIONS']) {
			const named = await from(FRIEND, method);
			expect([named.ok, named.headers.get('access-control-allow-origin')]).toEqual([true, FRIEND]);
			expect(named.headers.get('access-control-allow-credentials')).toBeNull();
			expect(
				(await from('https://else.example', method)).headers.get('access-control-allow-origin')
			).toBeNull();
		}
	});

	it('lets a token do what it may, where it may, until it is revoked', async () => {
		const second = (await owner.json<{ systems: { id: string }[] }>('/api/v1/systems')).systems.find(
			(s) => s.id !== tank
		)!.id;
		const made = await owner.form('/account?/token', { name: 'export', which: 'some', system: tank });
		const token = shownOnce(await made.text(), 'token');
		const program = (method: string, path: string, body?: unknown) =>
			person(application.origin).send(method, path, body, { authorization: `Bearer ${token}` });
		const systems = (await (await program('GET', '/api/v1/systems')).json()) as { systems: { id: string }[] };
		expect(systems.systems.map((s) => s.id)).toEqual([tank]);
		expect((await program('GET', `/api/v1/systems/${tank}/readings`)).status).toBe(200);
		expect((await program('GET', `/api/v1/systems/${second}/readings`)).status).toBe(404);
		const event = bodyOf(OPERATIONS.find((o) => o.path === '/events/{event}')!.example);
		expect((await program('PUT', `/api/v1/events/${crypto.randomUUID()}`, event)).status).toBe(403);
		// A token is for programs: no page opens by it, and no other token is made with it.
		expect((await program('GET', '/account')).headers.get('location')).toContain('/signin');
		const [[held]] = (await db.query('select id, hash from api_token where name = ?', [
			'export'
		])) as unknown as [{ id: string; hash: string }[]];
		expect(held!.hash).not.toContain(token);
		await owner.form('/account?/revoke', { id: held!.id });
		expect((await program('GET', '/api/v1/systems')).status).toBe(401);
	});
});

function files(folder: string, ...names: string[]): string[] {
	return readdirSync(folder, { withFileTypes: true }).flatMap((f) =>
		f.isDirectory()
			? files(join(folder, f.name), ...names)
			: names.includes(f.name)
				? [join(folder, f.name)]
				: []
	);
}

describe('nobody else', () => {
	/** Pages and endpoints that answer whoever asks: what this walk expects, apart from what the server says. */
	const OPEN = [
		'/signin',
		'/signup',
		'/forgot',
		'/theme',
		'/notices',
		'/reset/',
		'/invite/',
		'/calendar/',
		'/api/v1/calc/',
		'/api/v1/openapi.json',
		'/api/v1/methods/schema',
		'/api/v1/books/schema',
		'/api/v1/supplements/schema'
	];
	const isOpen = (path: string) => path === '/api/v1' || OPEN.some((o) => path.startsWith(o));
	/** Of the person, not of a tank: each sees their own. */
	const PERSONAL = [
		'/account',
		'/mail',
		'/tanks',
		'/begin',
		'/begin/units',
		'/kit',
		'/',
		'/api/v1/habits',
		'/api/v1/systems',
		'/api/v1/methods',
		'/api/v1/supplements'
	];

	/** Every address of the application with the owner's ids in it, and its form actions and methods. */
	interface Knock {
		path: string;
		method: string;
		example?: unknown;
		bodyType?: string;
	}
	function addresses(): Knock[] {
		const pages = files('src/routes', '+page.svelte', '+page.server.ts').map((file) => {
			const route = file.replace('src/routes', '').replace(/\/\+page\.(svelte|server\.ts)$/, '') || '/';
			return route
				.replace('[system=uuid]', tank)
				.replace('[method=uuid]', known['method']!)
				.replace('[token]', 'nobody-has-this');
		});
		const actions = files('src/routes', '+page.server.ts').flatMap((file) => {
			const text = readFileSync(file, 'utf8');
			const body = /export const actions: Actions = \{([\s\S]*)\n\};/.exec(text)?.[1] ?? '';
			const route = file.replace('src/routes', '').replace('/+page.server.ts', '');
			return [...body.matchAll(/^\t(\w+): async/gm)].map(([, name]) => ({
				path: `${route.replace('[system=uuid]', tank).replace('[token]', 'nobody-has-this')}${name === 'default' ? '' : `?/${name}`}`,
				method: 'FORM'
			}));
		});
		const api = OPERATIONS.map((o) => ({
			path: `/api/v1${filled(o.path)}`,
			method: o.method.toUpperCase(),
			example: o.example ?? (o.body ? {} : undefined),
			...(o.bodyType ? { bodyType: o.bodyType } : {})
		}));
		return [...[...new Set(pages)].map((path) => ({ path, method: 'GET' })), ...actions, ...api];
	}
	const knock = (who: Person, a: Knock) =>
		a.bodyType
			? who.ask(a.path, { method: a.method, body: formOf(a.example) })
			: a.method === 'FORM'
				? who.form(a.path, { role: 'owner', id: known['reading']!, name: 'Stolen', school: 'natural levels' })
				: who.send(a.method, a.path, a.example === undefined ? undefined : bodyOf(a.example), IDEMPOTENT);

	it('gets in as a stranger', async () => {
		const before = await sumOf(db);
		const all = addresses();
		expect(all.length).toBeGreaterThan(80);
		for (const a of all) {
			if (isOpen(a.path)) continue;
			const answer = await knock(person(application.origin), a);
			const turnedAway =
				answer.status === 401 ||
				(answer.status === 303 && answer.headers.get('location')!.startsWith('/signin'));
			expect([a.method, a.path, turnedAway, answer.status]).toEqual([a.method, a.path, true, answer.status]);
		}
		expect(await sumOf(db)).toEqual(before);
	});

	it('sees or changes a tank of others, with an account and a tank of their own', async () => {
		const before = await sumOf(db);
		const secrets = ['Long Gallery', 'Odile', known['reading']!];
		for (const a of addresses()) {
			if (isOpen(a.path)) continue;
			const [path] = a.path.split('?');
			const mine = PERSONAL.includes(path!);
			// Forms of one's own account, tanks and calendar do one's own things.
			if ((mine && a.method !== 'GET') || a.path.endsWith('/reminders?/anew')) continue;
			const answer = await knock(other, a);
			const text = await answer.text();
			const allowed = mine ? [200, 303, 307, 403] : [403, 404, 409, 422];
			expect(allowed, `${a.method} ${a.path}: ${answer.status}`).toContain(answer.status);
			for (const secret of secrets)
				expect(text.includes(secret) && answer.ok, `${a.path} tells ${secret}`).toBe(false);
		}
		expect(await sumOf(db)).toEqual(before);
	});

	const stampOf = async (of: string) => (await db.query('select value from stamp where id = ?', [of]))[0];

	it('changes a tank they only look at, or its people', async () => {
		const before = await sumOf(db);
		const stamp = await stampOf(tank);
		for (const a of addresses()) {
			if (isOpen(a.path) || PERSONAL.includes(a.path.split('?')[0]!)) continue;
			const answer = await knock(viewer, a);
			const text = await answer.text();
			const status = [a.method, a.path, answer.status];
			// Methods and packs belong to people, not to tanks.
			const owned = /\/(methods|packs|supplements|shelf)\//.test(a.path);
			if (a.method !== 'GET') {
				const own = owned || a.path.endsWith('/reminders?/anew') || a.path.endsWith(`${tank}/book`);
				expect(
					own ? answer.status < 500 : [401, 403, 404, 422].includes(answer.status),
					status.join(' ')
				).toBe(true);
			} else if (!owned && !/\/(runs|imports)\//.test(a.path))
				expect([...status, answer.ok ? '' : text]).toEqual([...status.slice(0, 2), 200, '']);
		}
		const after = await sumOf(db);
		expect(await stampOf(tank)).toEqual(stamp);
		// What they may make is theirs: a calendar of their own, nothing else.
		for (const table of [
			'tevrik.user',
			'tevrik.method',
			'tevrik.method_version',
			'tevrik.pack',
			'tevrik.supplement',
			'tevrik.stamp'
		]) {
			delete before[table];
			delete after[table];
		}
		expect(after).toEqual(before);
	});
});

describe('malformed requests', () => {
	/** How many: enough for every field of every schema to be broken in many ways. */
	const MANY = tries(1500, 20_000);
	const AT_ONCE = 16;

	it(
		`${MANY} of them give no error of the server and leave the database as it was`,
		{ timeout: 240_000 },
		async () => {
			const made = await owner.form('/account?/token', { name: 'fuzz', which: 'all', writes: 'on' });
			const before = await sumOf(db);
			const authorization = `Bearer ${shownOnce(await made.text(), 'token')}`;
			const random = uniform(20_26);
			const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
			const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
				Object.entries(methods).map(([method, o]) => {
					const content = o.requestBody?.content['application/json'];
					return {
						path,
						method,
						o,
						check:
							content &&
							checkAt('paths', path, method, 'requestBody', 'content', 'application/json', 'schema'),
						// By name, so that it is of what is there.
						example: OPERATIONS.find((known) => known.path === path && known.method === method)?.example
					};
				})
			);
			const statuses = new Map<number, number>();
			const broken: string[] = [];
			async function one(): Promise<void> {
				const { path, method, o, check, example } = pick(operations);
				const badId = !path.includes('{') || check ? false : random() < 0.7;
				const address = path.replace(/\{(\w+)\}/g, (_, name: string) =>
					badId ? pick(NO_IDS) : filled(`{${name}}`)
				);
				const query = (o.parameters ?? []).filter((p) => p.in === 'query');
				const asked = query.length
					? `?${new URLSearchParams(query.filter(() => random() < 0.4).map((p) => [p.name, worded(pick(ODDITIES))]))}`
					: '';
				const headers: Record<string, string> = { authorization, 'idempotency-key': String(random()) };
				let body: string | undefined;
				if (check) {
					const malformed = malformedBody(example, check, pick, random);
					body = malformed;
					headers['content-type'] =
						random() < 0.97 ? 'application/json' : pick(['text/json', 'application/xml']);
				} else if (method !== 'get') {
					// Without a body there is nothing to be malformed but the address.
					if (!badId) return one();
				}
				const answer = await fetch(`${application.origin}/api/v1${address}${asked}`, {
					method: method.toUpperCase(),
					headers,
					...(body === undefined ? {} : { body })
				});
				const text = await answer.text();
				statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
				// One person’s share of what is dear has an end: that is an answer, not a fault.
				const turnedAway = answer.status === 503 && answer.headers.has('retry-after');
				if (answer.status >= 500 && !turnedAway && broken.length < 5)
					broken.push(
						`${method} ${address}${asked} ${body?.slice(0, 300)} → ${answer.status} ${text.slice(0, 200)}`
					);
				if (method !== 'get' && answer.status < 400 && broken.length < 5)
					broken.push(`accepted: ${method} ${address} ${body?.slice(0, 300)}`);
			}
			let left = MANY;
			await Promise.all(
				Array.from({ length: AT_ONCE }, async () => {
					while (left-- > 0) await one();
				})
			);
			console.log(
				`measured: malformed requests: by status ${[...statuses]
					.sort()
					.map(([s, n]) => `${s}: ${n}`)
					.join(', ')}`
			);
			expect(broken).toEqual([]);
			expect(statuses.get(422)).toBeGreaterThan(MANY / 4);
			expect(await sumOf(db)).toEqual(before);
		}
	);
});

interface Document {
	paths: Record<
		string,
		Record<
			string,
			{
				parameters?: { name: string; in: string }[];
				requestBody?: { content: Record<string, { schema: object; example?: unknown }> };
			}
		>
	>;
}
const NO_IDS = [
	'1',
	'null',
	'..%2f..',
	'%00',
	'01900000-0000-7000-8000-00000000000',
	"' or 1=1 --",
	'💧',
	'ffffffff-ffff-ffff-ffff-ffffffffffff'
];
const ODDITIES: unknown[] = [
	null,
	true,
	0,
	-1,
	1.5,
	1e308,
	-1e308,
	2 ** 53,
	'',
	' ',
	'nothing',
	'2026-02-30T00:00:00Z',
	'2026-01-01T23:59:60Z',
	'0000-01-01T00:00:00Z',
	'9999-12-31T23:59:59Z',
	'\u0000',
	'\ud800',
	'x'.repeat(400),
	'constructor',
	[],
	[[]],
	[null, null],
	{},
	{ __proto__: null, a: 1 },
	{ $ref: '#' }
];

const worded = (value: unknown) => (typeof value === 'string' ? value : (JSON.stringify(value) ?? ''));

/** A body that its schema refuses: not JSON at all, or an accepted one with something broken in it. */
function malformedBody(
	example: unknown,
	check: ValidateFunction,
	pick: <T>(list: readonly T[]) => T,
	random: () => number
): string {
	if (random() < 0.05) return pick(['', '{', '[1,', 'null', '"', '{"a":}', 'NaN', '1e999', '[]']);
	for (let tries = 0; tries < 30; tries++) {
		const body = mutated(example === undefined ? pick(ODDITIES) : bodyOf(example), pick, random);
		if (!check(body)) return JSON.stringify(body) ?? 'undefined';
	}
	return '{';
}

/** Something in a value replaced by an oddity, left out, or added. */
function mutated(value: unknown, pick: <T>(list: readonly T[]) => T, random: () => number): unknown {
	if (value === null || typeof value !== 'object' || random() < 0.15) return pick(ODDITIES);
	if (Array.isArray(value)) {
		if (!value.length || random() < 0.2) return [...(value as unknown[]), pick(ODDITIES)];
		const at = Math.floor(random() * value.length);
		return value.map((v: unknown, i) => (i === at ? mutated(v, pick, random) : v));
	}
	const entries = Object.entries(value);
	if (!entries.length || random() < 0.1)
		return { ...value, [String(pick(['extra', 'id', '__proto__', 'constructor']))]: pick(ODDITIES) };
	const [key, inner] = pick(entries);
	if (random() < 0.15) return Object.fromEntries(entries.filter(([k]) => k !== key));
	return { ...value, [key]: mutated(inner, pick, random) };
}
