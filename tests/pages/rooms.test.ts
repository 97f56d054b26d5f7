import type { Browser, Page } from 'puppeteer-core';
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
import { PARAMETERS } from '../../src/core/catalogue';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, PHONE, newDevice, openBrowser, tanksOf, visit } from '../support/browser';
import { person, shownOnce } from '../support/person';
import { ROOMS, addressIn } from '../support/rooms';

/** What holds in every room, whoever built it: for thumbs, for eyes at night, and for keys alone. */
let browser: Browser;
let tank: string;
let second: string;
beforeAll(async () => {
	browser = await openBrowser();
	[tank = '', second = ''] = await tanksOf(browser, origin);
});
afterAll(() => browser?.close());

/** 210 mm less a centimetre at each side, px of 1/96 inch. */
const A4_BETWEEN_MARGINS = 718;
const addressOf = (room: string) => addressIn(origin, tank, room);

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

/** How many sheets of paper a page is. */
const sheets = async (page: Page): Promise<number> =>
	[
		...Buffer.from(await page.pdf({ preferCSSPageSize: true, format: 'a4' }))
			.toString('latin1')
			.matchAll(/\/Type\s*\/Page\b(?!s)/g)
	].length;

describe('on paper', () => {
	it('the summary is one page, with all parameters and a long plan too', async () => {
		const page = await newDevice(browser, PHONE);
		await visit(page, addressOf('wall'));
		expect(await sheets(page)).toBe(1);
		await page.evaluate((most) => {
			const rows = document.querySelector('article tbody')!;
			while (rows.children.length < most) rows.append(rows.firstElementChild!.cloneNode(true));
			for (const list of document.querySelectorAll('article ul'))
				for (let i = 0; i < 8; i++) list.append(list.firstElementChild!.cloneNode(true));
			dispatchEvent(new Event('beforeprint'));
		}, PARAMETERS.length);
		expect(await sheets(page)).toBe(1);
		await page.browserContext().close();
	});

	it.each(['rack', 'readings', 'trends?of=alkalinity', 'adjust', 'shelf', 'tank'])(
		'%s: black on white from the night, without header and bar, and as wide as the sheet',
		async (room) => {
			const page = await newDevice(browser, DESK);
			await visit(page, addressOf(room));
			await (await page.$$('header button')).at(-1)!.click();
			await page.waitForSelector('html.dark');
			await page.emulateMediaType('print');
			await page.setViewport({ width: A4_BETWEEN_MARGINS, height: 1000 });
			const found = await page.evaluate(() => {
				const seen = [...document.querySelectorAll<HTMLElement>('body *')].filter(
					(e) => e.checkVisibility() && !e.closest('svg, canvas')
				);
				return {
					wide: document.documentElement.scrollWidth,
					bars: seen.filter((e) => e.matches('header, nav, nav *')).length,
					colours: [...new Set(seen.map((e) => getComputedStyle(e).color))],
					// A mark that is set is its colour.
					grounds: [
						...new Set(
							seen.filter((e) => !e.matches('input')).map((e) => getComputedStyle(e).backgroundColor)
						)
					],
					paper: getComputedStyle(document.documentElement).backgroundColor
				};
			});
			expect(found).toEqual({
				wide: A4_BETWEEN_MARGINS,
				bars: 0,
				colours: ['rgb(0, 0, 0)'],
				grounds: ['rgba(0, 0, 0, 0)'],
				paper: 'rgb(255, 255, 255)'
			});
			await page.browserContext().close();
		}
	);
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

it('adds tests to a session one after the other: the list is ready for the next each time', async () => {
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
