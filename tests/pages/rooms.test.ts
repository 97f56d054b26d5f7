import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
	countShifts,
	namelessTables,
	paleBorders,
	shifted,
	sideways,
	tooSmall,
	withoutRing
} from '../support/auditor';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, PHONE, newDevice, openBrowser, tanksOf, visit } from '../support/browser';
import { person, shownOnce } from '../support/person';

/** What holds in every room, whoever built it: for thumbs, for eyes at night, and for keys alone. */
let browser: Browser;
let tank: string;
let second: string;
beforeAll(async () => {
	browser = await openBrowser();
	[tank = '', second = ''] = await tanksOf(browser, origin);
});
afterAll(() => browser?.close());

const ROOMS = [
	'rack',
	'bench',
	'bench/one?of=alkalinity',
	'bench/one?of=nitrate',
	'bench/one?of=potassium',
	'bench/one?of=salinity',
	'readings',
	'readings/notebook',
	'trends?of=alkalinity',
	'adjust',
	'adjust/water',
	'adjust/pour',
	'adjust/mix',
	'shelf',
	'shelf/new',
	'shelf/pour',
	'shelf/proof?of=alkalinity',
	'shelf/waters',
	'shelf/lab',
	'practice',
	'practice?lesson=drip',
	'practice?lesson=pale-shades',
	'tank',
	'import',
	'reminders',
	'/account',
	'/begin',
	'/tanks',
	'/mail',
	'/notices',
	'/api/v1'
];
const addressOf = (room: string) => origin + (room.startsWith('/') ? room : `/s/${tank}/${room}`);

describe('in every room', () => {
	const titles = new Map<string, string>();
	it.each(ROOMS)('%s: holds what no rule of a checker alone can see, and axe is silent', async (room) => {
		const page = await newDevice(browser, PHONE);
		await countShifts(page);
		await visit(page, addressOf(room));
		expect(await shifted(page)).toEqual([]);
		const title = await page.title();
		expect(titles.get(title), title).toBeUndefined();
		titles.set(title, room);
		expect(title.startsWith('Long Gallery · ')).toBe(!room.startsWith('/'));
		expect(await tooSmall(page)).toEqual([]);
		expect(await namelessTables(page)).toEqual([]);
		expect(await violationsIn(page)).toEqual([]);
		expect(await paleBorders(page)).toEqual([]);
		expect(await withoutRing(page)).toEqual([]);
		expect(await sideways(page)).toEqual([]);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	const UNFOLDED = 'main details[open], main [aria-expanded=true], main [data-testid=eye]';
	it.each([
		['tank', 'All parameters', ''],
		['trends?of=alkalinity', 'Dosing rate', '#did input'],
		['readings', 'Alkalinity', '[id^=line-] a'],
		['bench/one?of=nitrate', 'Read from a picture', '[data-testid=eye] button'],
		['bench/one?of=alkalinity', 'Where the error comes from', '']
	])('%s: Escape folds “%s” in again, and the focus is on what opens it', async (room, words, inside) => {
		const page = await newDevice(browser, DESK);
		page.setDefaultTimeout(10_000);
		await visit(page, addressOf(room));
		const before = await page.$$eval(UNFOLDED, (e) => e.length);
		const until = (more: number) =>
			page.waitForFunction((s, n) => document.querySelectorAll(s).length === n, {}, UNFOLDED, before + more);
		await page.evaluate((called) => {
			const all = [...document.querySelectorAll<HTMLElement>('main button, main summary')];
			const it = all.find((e) => (e.ariaLabel ?? e.textContent).trim().startsWith(called))!;
			it.focus();
			it.click();
		}, words);
		await until(1);
		if (inside) await page.focus(inside);
		await page.keyboard.press('Escape');
		await until(0);
		await page.waitForFunction(() => document.activeElement !== document.body);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});
});

it('makes a token for the one tank that was ticked, and it opens no other', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, `${origin}/account`);
	await page.select('select[name=which]', 'some');
	await page.waitForSelector(`input[name=system][value="${second}"]`);
	await page.click(`input[name=system][value="${second}"]`);
	await page.type('form[action="?/token"] input[name=name]', 'wall clock');
	await page.keyboard.press('Enter');
	await page.waitForSelector('[data-testid=token]');
	const token = shownOnce(await page.content(), 'token');
	const asked = (path: string) =>
		person(origin).ask(`/api/v1${path}`, { headers: { authorization: `Bearer ${token}` } });
	const { systems } = (await (await asked('/systems')).json()) as { systems: { id: string }[] };
	expect(systems.map((s) => s.id)).toEqual([second]);
	expect((await asked(`/systems/${tank}`)).status).toBe(404);
	await page.browserContext().close();
});

it('adds tests to an evening one after the other: the list is ready for the next each time', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, `${origin}/s/${tank}/bench`);
	const count = () => page.$$eval('li[data-test]', (all) => all.length);
	const list = (await page.$$('section.tests select')).at(-2)!;
	for (let i = 0; i < 2; i++) {
		const before = await count();
		await list.select(await list.evaluate((e) => (e as HTMLSelectElement).options[1]!.value));
		await page.waitForFunction((n) => document.querySelectorAll('li[data-test]').length > n, {}, before);
		expect(await list.evaluate((e) => (e as HTMLSelectElement).selectedOptions[0]?.text)).toBe('choose…');
	}
	await page.browserContext().close();
});

it('says in the server’s own words why older lines do not come, and brings them when they do', async () => {
	const page = await newDevice(browser, DESK);
	let refuses = true;
	await page.setRequestInterception(true);
	page.on('request', (request) => {
		if (!refuses || !request.url().includes('/lines?')) return void request.continue();
		void request.respond({
			status: 503,
			contentType: 'application/problem+json',
			body: JSON.stringify({ title: 'Not just now', status: 503, detail: 'The book is being copied.' })
		});
	});
	await visit(page, `${origin}/s/${tank}/readings`);
	const lines = () => page.$$eval('[data-line]', (all) => all.length);
	const before = await lines();
	await page.evaluate(() => scrollTo(0, document.body.scrollHeight));
	await page.waitForFunction(() =>
		/The book is being copied/.test(document.querySelector('main [role=alert]')?.textContent ?? '')
	);
	expect(await lines()).toBe(before);
	refuses = false;
	await page.evaluate(() =>
		[...document.querySelectorAll('button')].find((b) => b.textContent!.trim() === 'Older')!.click()
	);
	await page.waitForFunction((n) => document.querySelectorAll('[data-line]').length > n, {}, before);
	expect(await page.$('main [role=alert]')).toBeNull();
	await page.browserContext().close();
});
