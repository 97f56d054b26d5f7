import type { Browser, HTTPRequest, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { violationsIn } from '../support/axe';
import { NOW } from '../support/application';
import { origin } from '../support/house';
import { DESK, PHONE, demoCookie, newDevice, openBrowser, tanksOf } from '../support/browser';
import { keeperOf } from '../support/keeper';
import { until } from '../support/load';
import { person } from '../support/person';

let browser: Browser;
let tank: string;
let keeper: ReturnType<typeof keeperOf>;
beforeAll(async () => {
	browser = await openBrowser();
	[tank = ''] = await tanksOf(browser, origin);
	keeper = keeperOf(origin, tank);
});
afterAll(() => browser?.close());

type Answer = Parameters<HTTPRequest['respond']>[0];
/** Who answers writes instead of the server, or nobody; how often they were asked. */
async function between(page: Page) {
	const state = {
		says: undefined as Partial<Answer> | ((request: HTTPRequest) => Partial<Answer>) | undefined,
		asked: 0
	};
	await page.setRequestInterception(true);
	page.on('request', (request) => {
		if (request.method() !== 'PUT' || !state.says) return void request.continue();
		state.asked++;
		void request.respond(typeof state.says === 'function' ? state.says(request) : state.says);
	});
	return state;
}
const problem = (status: number, more: object = {}): Partial<Answer> => ({
	status,
	contentType: 'application/problem+json',
	headers: { 'tevrik-now': String(Date.parse(NOW)) },
	body: JSON.stringify({ type: 'about:blank', title: 'x', status, detail: 'It was refused.', ...more })
});
const chip = (page: Page, words: string) =>
	page.waitForFunction(
		(w) => (document.querySelector('[data-testid=waiting]')?.textContent ?? '').includes(w),
		{},
		words
	);
const empty = (page: Page) => page.waitForFunction(() => !document.querySelector('[data-testid=waiting]'));
async function read(page: Page, entry: string): Promise<void> {
	await page.waitForSelector('[data-entry]');
	await page.$eval('[data-entry]', (e) => {
		(e as HTMLInputElement).value = '';
		e.dispatchEvent(new Event('input', { bubbles: true }));
		(e as HTMLElement).focus();
	});
	await page.keyboard.type(entry);
	await page.waitForFunction(
		() => !document.querySelector<HTMLButtonElement>('form.bench [type=submit]')!.disabled
	);
	await page.keyboard.press('Enter');
	await page.waitForFunction(() =>
		/Saved: /.test(document.querySelector('[data-testid=saved]')?.textContent ?? '')
	);
}
/** Out of the dialog: while it stands it has the keyboard, and what is pressed before it has opened does not close it. */
async function leftDialog(page: Page): Promise<void> {
	for (let gone = false; !gone;) {
		await page.keyboard.press('Escape');
		gone = await page
			.waitForFunction(() => !document.querySelector('dialog[open]'), { timeout: 2000 })
			.then(() => true)
			.catch(() => false);
	}
}
/** How often a reading with this much left was kept. */
async function kept(left: number): Promise<number> {
	const { readings } = await person(origin, await demoCookie(origin)).json<{
		readings: { raw: { left?: number } }[];
	}>(`/api/v1/systems/${tank}/readings?parameter=alkalinity&limit=100`);
	return readings.filter((r) => r.raw.left === left).length;
}
/** Where everything stands that a finger may be on its way to. */
const targets = (page: Page) =>
	page.$$eval('header a, header select, header button, main button, main a, main input, nav a', (all) =>
		all
			.filter(
				(e) => !e.closest('[data-testid=saved], [data-testid=waiting]') && e.getBoundingClientRect().width > 0
			)
			.map((e) => {
				const { x, y, width, height } = e.getBoundingClientRect();
				return [e.textContent!.trim().slice(0, 20), ...[x, y, width, height].map(Math.round)].join(' ');
			})
	);

for (const [name, device] of [
	['a desk', DESK],
	['a phone', PHONE]
] as const)
	it(`at ${name}: what a hotel’s sign-in page answers is no answer; it waits, moves nothing, and arrives once`, async () => {
		const page = await newDevice(browser, device);
		await keeper.bench(page, 'Alkalinity, syringe, 6 mL');
		const hotel = await between(page);
		const entry = device === DESK ? '0.331' : '0.332';
		hotel.says = { status: 200, contentType: 'text/html', body: '<h1>Welcome to our network</h1>' };
		await page.keyboard.press('Escape');
		const before = await targets(page);
		await read(page, entry);
		await chip(page, device === DESK ? '1 on the way' : '1');
		// The entry is empty again after a save, as it was before.
		expect(await targets(page)).toEqual(before);
		// JSON of somebody else’s is none either.
		hotel.says = { status: 200, contentType: 'application/json', body: '{"id":"you are online"}' };
		await page.evaluate(() => dispatchEvent(new Event('online')));
		const asked = hotel.asked;
		await page.waitForFunction(() => document.querySelector('[data-testid=waiting]') !== null);
		expect(await kept(Number(entry))).toBe(0);
		hotel.says = undefined;
		await page.evaluate(() => dispatchEvent(new Event('online')));
		await empty(page);
		expect(await targets(page)).toEqual(before);
		expect(await kept(Number(entry))).toBe(1);
		// It was not asked again and again meanwhile.
		expect(asked).toBeLessThan(10);
		await page.browserContext().close();
	});

it('signed out, it says so and goes out after signing in; what is refused for good can be put right or dropped', async () => {
	const page = await newDevice(browser, DESK);
	await keeper.bench(page, 'Alkalinity, syringe, 6 mL');
	const server = await between(page);
	server.says = problem(401);
	await read(page, '0.341');
	await chip(page, 'Sign in to send');
	await page.click('[data-testid=waiting]');
	await page.waitForFunction(() =>
		/Nothing is lost/.test(document.querySelector('dialog[open]')?.textContent ?? '')
	);
	await leftDialog(page);
	server.says = undefined;
	await page.evaluate(() => dispatchEvent(new Event('online')));
	await empty(page);
	expect(await kept(0.341)).toBe(1);

	server.says = problem(422, { problems: [{ path: '/reading/left', message: 'must be at most 1' }] });
	await read(page, '0.342');
	await chip(page, '1 not taken');
	// It holds up nobody: the next one goes.
	server.says = undefined;
	await read(page, '0.343');
	await page.waitForFunction(
		() => Object.keys(localStorage).filter((key) => key.startsWith('tevrik.outbox.')).length === 1
	);
	expect(await kept(0.343)).toBe(1);
	await page.click('[data-testid=waiting]');
	await page.waitForSelector('[data-refused] input');
	expect(await violationsIn(page, '[data-testid=waiting-list]')).toEqual([]);
	expect(await page.$eval('[data-refused]', (e) => e.textContent)).toContain('must be at most 1');
	await page.$eval('[data-refused] input', (e) => (e as HTMLInputElement).select());
	await page.keyboard.type('0,344');
	await page.evaluate(() =>
		[...document.querySelectorAll('button')].find((b) => b.textContent!.trim() === 'Send again')!.click()
	);
	await empty(page);
	expect([await kept(0.342), await kept(0.344)]).toEqual([0, 1]);
	expect(page.wrongs.filter((w) => !/40[12]|422/.test(w))).toEqual([]);
	await page.browserContext().close();
});

it('a device’s clock that is set in the middle, ahead or back, stamps nothing wrong', async () => {
	const page = await newDevice(browser, DESK);
	await keeper.bench(page, 'Alkalinity, syringe, 6 mL');
	await page.evaluate(() => {
		const Set = class extends Date {
			constructor(...given: [number]) {
				super(...((given.length ? given : [Set.now()]) as [number]));
			}
			static override now = () => performance.timeOrigin + performance.now() + leap;
		};
		let leap = 0;
		globalThis.Date = Set as DateConstructor;
		Object.assign(globalThis, { set: (ms: number) => (leap = ms) });
	});
	for (const [entry, hours] of [
		['0.351', 3],
		['0.352', -5]
	] as const) {
		await page.evaluate(
			(ms) => (globalThis as never as { set: (ms: number) => void }).set(ms),
			hours * 3_600_000
		);
		await read(page, entry);
		await empty(page);
		const { readings } = await person(origin, await demoCookie(origin)).json<{
			readings: { raw: { left?: number }; takenAt: string }[];
		}>(`/api/v1/systems/${tank}/readings?parameter=alkalinity&limit=100`);
		const [kept, ...more] = readings.filter((r) => r.raw.left === Number(entry));
		expect(more).toEqual([]);
		expect(Math.abs(Date.parse(kept!.takenAt) - Date.parse(NOW))).toBeLessThan(10 * 60_000);
	}
	await page.browserContext().close();
});

it('two hundred pictures and five hundred readings wait over a reload, and go out; pictures nobody waits for are swept', async () => {
	const page = await newDevice(browser, PHONE);
	await keeper.bench(page, 'Alkalinity, syringe, 6 mL');
	const server = await between(page);
	server.says = problem(503);
	// As the application keeps them: what waits, and its pictures apart. One is an older page's, with its picture within it, and one picture nobody waits for.
	await page.evaluate(async () => {
		const opened = indexedDB.open('tevrik', 1);
		opened.onupgradeneeded = () => opened.result.createObjectStore('pictures');
		const db = await new Promise<IDBDatabase>((done) => (opened.onsuccess = () => done(opened.result)));
		const pictures = db.transaction('pictures', 'readwrite');
		const id = (n: number) => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
		const by = Object.entries(localStorage).find(([key]) => key === 'tevrik.person')?.[1];
		const wait = (n: number, path: string, more: object) =>
			localStorage.setItem(
				`tevrik.outbox.${id(n)}`,
				JSON.stringify({
					id: id(n),
					seq: n,
					path,
					method: 'PUT',
					about: `No ${n}`,
					by: JSON.parse(by!),
					...more
				})
			);
		for (let n = 0; n < 500; n++)
			wait(n, `/api/v1/readings/${id(n)}`, { body: { sampleId: id(n), padding: 'x'.repeat(900) } });
		for (let n = 0; n < 200; n++) {
			pictures.objectStore('pictures').put(`${n} `.padEnd(120_000, 'picture'), `key ${n}`);
			const path = `/api/v1/photos/${id(1000 + n)}`;
			wait(1000 + n, path, { quiet: true, picture: `key ${n}`, body: { readingId: id(n) } });
		}
		wait(2000, `/api/v1/photos/${id(2000)}`, {
			quiet: true,
			body: { readingId: id(0), picture: 'an old one' }
		});
		pictures.objectStore('pictures').put('nobody’s', 'nobody');
		await new Promise((done) => (pictures.oncomplete = done));
		db.close();
	});
	const held = () =>
		page.evaluate(async () => {
			const opened = indexedDB.open('tevrik', 1);
			const db = await new Promise<IDBDatabase>((done) => (opened.onsuccess = () => done(opened.result)));
			const keys = db.transaction('pictures').objectStore('pictures').getAllKeys();
			await new Promise((done) => (keys.onsuccess = done));
			db.close();
			return keys.result.length;
		});
	expect(await held()).toBe(201);
	await page.reload();
	await chip(page, '500');
	// The old one came to them, nobody's went.
	await page.waitForFunction(() => !Object.values(localStorage).some((text) => text.includes('an old one')));
	await until('pictures on the device', async () => (await held()) === 201);

	const pictures: string[] = [];
	server.says = (request) => {
		const { picture } = JSON.parse(request.postData() ?? '{}') as { picture?: string };
		if (picture) pictures.push(picture);
		return {
			status: 200,
			contentType: 'application/json',
			headers: { 'tevrik-now': String(Date.parse(NOW)) },
			body: JSON.stringify({ id: request.url().split('/').at(-1) })
		};
	};
	await page.evaluate(() => dispatchEvent(new Event('online')));
	await empty(page);
	await page.waitForFunction(
		() => !Object.keys(localStorage).some((key) => key.startsWith('tevrik.outbox.'))
	);
	expect(pictures).toHaveLength(201);
	expect(new Set(pictures.map((p) => p.split(' ')[0])).size).toBe(201);
	expect(pictures.filter((p) => p.length === 120_000)).toHaveLength(200);
	await page.reload();
	await until('pictures on the device', async () => (await held()) === 0);
	await page.browserContext().close();
});
