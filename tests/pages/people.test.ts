import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startApplication, type Application } from '../support/application';
import { origin } from '../support/house';
import { DESK, PHONE, demoCookie, newDevice, openBrowser } from '../support/browser';
import { databaseOf, person, shownOnce, sumOf } from '../support/person';

let browser: Browser;
let fresh: Application;

beforeAll(async () => {
	browser = await openBrowser();
	fresh = await startApplication({ mode: 'start' });
});
afterAll(async () => {
	await browser?.close();
	await fresh?.stop();
});

const submit = async (page: Page, fields: Record<string, string>) => {
	await page.waitForSelector('html[data-ready]');
	for (const [name, text] of Object.entries(fields)) {
		await page.$eval(`input[name=${name}]`, (e) => ((e as HTMLInputElement).value = ''));
		await page.type(`input[name=${name}]`, text);
	}
	await page.keyboard.press('Enter');
};
const at = (page: Page, path: string) =>
	page.waitForFunction((wanted) => location.pathname === wanted, {}, path);

describe('a fresh server', () => {
	const account = { name: 'Wenna', email: 'wenna@boathouse.example', password: 'eleven herons' };

	it('leads through the first account, says what is wrong, and keeps what was typed', async () => {
		const page = await newDevice(browser, PHONE);
		await page.goto(fresh.origin);
		await at(page, '/signup');
		expect(await page.$eval('h1', (e) => e.textContent)).toContain('first account');
		await submit(page, { ...account, password: 'short' });
		await page.waitForFunction(() => /at least 12/.test(document.body.textContent!));
		expect(await page.$eval('input[name=email]', (e) => (e as HTMLInputElement).value)).toBe(account.email);
		await submit(page, { password: account.password });
		await at(page, '/begin');
		const cookie = (await page.browserContext().cookies()).find((c) => /session/.test(c.name))!;
		expect([cookie.httpOnly, cookie.sameSite]).toEqual([true, 'Lax']);
		// Nobody else makes an account after that.
		const late = await person(fresh.origin).form('/signup', { ...account, email: 'late@boathouse.example' });
		expect(late.status).toBe(422);
		await page.browserContext().close();
	});

	it('takes a book of another server in, and gives it out again as it was', async () => {
		const demo = person(origin, await demoCookie(origin));
		const { systems } = await demo.json<{ systems: { id: string; name: string }[] }>('/api/v1/systems');
		const { id } = systems.find((s) => s.name === 'Long Gallery')!;
		// A correction, a void and a note are in it.
		const { readings } = await demo.json<{
			readings: { id: string; methodVersionId: string; raw: object; takenAt: string; revision: number }[];
		}>(`/api/v1/systems/${id}/readings?limit=20&parameter=alkalinity`);
		const oldest = readings.at(-1)!;
		const corrected = await demo.send('PUT', `/api/v1/readings/${oldest.id}/correction`, {
			basedOn: oldest.revision,
			takenAt: oldest.takenAt,
			methodVersionId: oldest.methodVersionId,
			reading: { left: 0.51 },
			reason: 'read off the wrong line'
		});
		expect(corrected.status).toBe(200);
		await demo.send('PUT', `/api/v1/readings/${oldest.id}/void`, { reason: 'on second thoughts' });
		await demo.send('DELETE', `/api/v1/readings/${oldest.id}/void`, {});
		type Book = { writtenAt: string; readings: { revisions: unknown[] }[]; events: unknown[] };
		const book = await demo.json<Book>(`/api/v1/systems/${id}/book`);
		expect(book.readings.length).toBeGreaterThan(100);
		expect(book.readings.some((r) => r.revisions.length === 4)).toBe(true);

		const wenna = person(fresh.origin);
		await wenna.form('/signin?/in', account);
		const there = await wenna.send('PUT', `/api/v1/systems/${id}/book`, book);
		expect([there.status, await there.text()]).toEqual([200, JSON.stringify({ id })]);
		const again = await wenna.json<Book>(`/api/v1/systems/${id}/book`);
		expect({ ...again, writtenAt: '' }).toEqual({ ...book, writtenAt: '' });

		// As a copy it has ids of its own, and says the same.
		const copy = crypto.randomUUID();
		expect((await wenna.send('PUT', `/api/v1/systems/${copy}/book`, book)).status).toBe(200);
		expect((await wenna.send('PUT', `/api/v1/systems/${copy}/book`, book)).status).toBe(200);
		const plain = (b: Book) =>
			b.readings.map((r) => JSON.stringify(r).replace(/"[0-9a-f-]{36}"/g, '""')).sort();
		const second = await wenna.json<Book>(`/api/v1/systems/${copy}/book`);
		expect(plain(second)).toEqual(plain(book));
		expect(second.events).toHaveLength(book.events.length);

		// What does not fit together is refused whole, with its place.
		const db = await databaseOf(fresh.data);
		const before = await sumOf(db);
		const [first, ...rest] = book.readings;
		for (const [broken, path] of [
			[{ ...book, format: 'tevrik.book/2' }, '/format'],
			[{ ...book, readings: [{ ...first, sourceId: crypto.randomUUID() }, ...rest] }, '/readings/0/sourceId'],
			[{ ...book, readings: [first, first] }, '/readings/1/id']
		] as const) {
			const refused = await wenna.send('PUT', `/api/v1/systems/${crypto.randomUUID()}/book`, broken);
			expect(refused.status).toBe(422);
			expect(
				((await refused.json()) as { problems: { path: string }[] }).problems.map((p) => p.path)
			).toContain(path);
		}
		expect(await sumOf(db)).toEqual(before);
		await db.end();
	});

	it('slows wrong passwords down, ends sessions, and gives a new password by a link', async () => {
		const { origin } = fresh;
		const wenna = person(origin);
		expect((await wenna.form('/signin?/in', account)).status).toBe(303);
		await wenna.form('/forgot', { email: account.email });
		const link = /http\S+\/reset\/\S+?(?=[\s<])/.exec(await (await wenna.ask('/mail')).text())![0];
		const elsewhere = person(origin);
		await elsewhere.form('/signin?/in', account);
		const thief = person(origin);
		const answers = [];
		for (let i = 0; i < 7; i++)
			answers.push(
				await (await thief.form('/signin?/in', { ...account, password: `guess number ${i}` })).text()
			);
		expect(answers[0]).toContain('do not go together');
		expect(answers[6]).toContain('Too many tries');
		expect((await thief.form('/forgot', { email: 'nobody@boathouse.example' })).status).toBe(200);

		const renewed = { ...account, password: 'twelve herons' };
		expect(await (await thief.form(link.replace(origin, ''), { password: 'short' })).text()).toContain(
			'at least 12'
		);
		await thief.form(link.replace(origin, ''), { password: renewed.password });
		for (const device of [wenna, elsewhere]) expect((await device.ask('/account')).status).toBe(303);
		expect(
			(await person(origin).form(link.replace(origin, ''), { password: 'thirteen herons' })).status
		).toBe(422);
		// The address is slowed down from here, whoever asks; another minute and it goes.
		const db = await databaseOf(fresh.data);
		await db.query('delete from attempt');
		await db.end();
		expect((await wenna.form('/signin?/in', account)).status).toBe(422);
		expect((await wenna.form('/signin?/in', renewed)).status).toBe(303);
		expect((await wenna.ask('/account')).status).toBe(200);
		// Nowhere but to this application, whatever an address says.
		const led = await person(origin).form('/signin?/in&to=//elsewhere.example', renewed);
		expect(led.headers.get('location')).toBe('/');
	});

	it('shares a tank by a link that works once, and keeps its last owner', async () => {
		const { origin } = fresh;
		const wenna = person(origin);
		await wenna.form('/signin?/in', { ...account, password: 'twelve herons' });
		const { systems } = await wenna.json<{ systems: { id: string }[] }>('/api/v1/systems');
		const tank = systems[0]!.id;
		const link = shownOnce(
			await (await wenna.form(`/s/${tank}/tank?/invite`, { role: 'keeper' })).text(),
			'link'
		);
		const page = await newDevice(browser, DESK);
		await page.goto(link);
		await page.waitForSelector('html[data-ready]');
		await Promise.all([page.waitForNavigation(), page.click('a[href^="/signup?invitation"]')]);
		await submit(page, { name: 'Piet', email: 'piet@boathouse.example', password: 'a bucket of sand' });
		// The account was made by the link, and is a member.
		await at(page, `/s/${tank}/rack`);
		expect((await person(origin).ask(new URL(link).pathname)).status).toBe(200);
		expect(await (await person(origin).ask(new URL(link).pathname)).text()).toContain(
			'no longer lets anybody in'
		);
		// A keeper writes, and does not let others in.
		const piet = person(
			origin,
			(await page.browserContext().cookies()).map((c) => `${c.name}=${c.value}`).join('; ')
		);
		expect((await piet.send('PATCH', `/api/v1/systems/${tank}`, { phase: 'young' })).status).toBe(200);
		expect((await piet.form(`/s/${tank}/tank?/invite`, { role: 'keeper' })).status).toBe(403);
		expect((await piet.ask('/mail')).status).toBe(403);
		const own = await wenna.form(`/s/${tank}/tank?/member`, { id: await idOf('Wenna'), role: 'none' });
		expect(await own.text()).toContain('needs an owner');
		expect(
			(await piet.form(`/s/${tank}/tank?/member`, { id: await idOf('Piet'), role: 'none' })).status
		).toBe(404);
		expect((await piet.ask(`/s/${tank}/rack`)).status).toBe(404);
		await page.browserContext().close();

		async function idOf(name: string): Promise<string> {
			const db = await databaseOf(fresh.data);
			const [[found]] = (await db.query('select id from user where name = ?', [name])) as unknown as [
				{ id: string }[]
			];
			await db.end();
			return found!.id;
		}
	});
});

it('pages are served under a policy that runs no script of a stranger’s', async () => {
	const response = await fetch(`${origin}/signin`);
	const policy = response.headers.get('content-security-policy')!;
	const scripts = /script-src ([^;]*)/.exec(policy)![1]!;
	expect(scripts).not.toMatch(/unsafe|https?:|\*/);
	expect(policy).toContain("frame-ancestors 'none'");
	expect(response.headers.get('x-content-type-options')).toBe('nosniff');
});
