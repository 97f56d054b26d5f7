import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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
	'/mail'
];
const addressOf = (room: string) => origin + (room.startsWith('/') ? room : `/s/${tank}/${room}`);

/** A thumb’s width, px (WCAG 2.2, 2.5.5), less what a browser rounds. */
const THUMB = 43.5;
/** Everything that is pressed, chosen or typed into, and is smaller than a thumb: its words and its size. */
const tooSmall = (page: Page) =>
	page.evaluate((least) => {
		const all = document.querySelectorAll<HTMLElement>(
			'button, select, input:not([type=hidden]), textarea, summary, a.link'
		);
		return [...all].flatMap((e) => {
			if (!e.checkVisibility() || e.closest('.sr-only')) return [];
			// A mark is hit by its words too.
			const hit = e.matches('[type=checkbox], [type=radio]') ? (e.closest('label') ?? e) : e;
			const { width, height } = hit.getBoundingClientRect();
			const words = (e.getAttribute('aria-label') ?? hit.textContent ?? '').trim().slice(0, 40);
			return width < least || height < least
				? [`${words}: ${Math.round(width)} x ${Math.round(height)}`]
				: [];
		});
	}, THUMB);

/** Where a room is wider than its screen: on small ones (WCAG 1.4.10), and with letters twice as large (1.4.4). */
async function sideways(page: Page): Promise<string[]> {
	const found: string[] = [];
	for (const [width, letters] of [
		[390, 1],
		[360, 1],
		[320, 1],
		[390, 2],
		[1280, 2]
	] as const) {
		await page.setViewport({ ...PHONE, width });
		await page.evaluate((size) => (document.documentElement.style.fontSize = `${100 * size}%`), letters);
		// A chart follows a frame later.
		const fits = page.waitForFunction(
			(most) => document.documentElement.scrollWidth <= most,
			{ timeout: 3000 },
			width
		);
		if (!(await fits.catch(() => undefined))) found.push(`${width} px, letters ${letters} times`);
	}
	return found;
}

describe('in every room', () => {
	it.each(ROOMS)(
		'%s: a thumb finds everything, nothing scrolls sideways, and axe is silent',
		async (room) => {
			const page = await newDevice(browser, PHONE);
			await visit(page, addressOf(room));
			expect(await tooSmall(page)).toEqual([]);
			expect(await violationsIn(page)).toEqual([]);
			expect(await sideways(page)).toEqual([]);
			expect(page.wrongs).toEqual([]);
			await page.browserContext().close();
		}
	);

	it.each(['readings', 'adjust', 'tank', '/account'])(
		'%s: whoever goes by keys sees where they are',
		async (room) => {
			const page = await newDevice(browser, DESK);
			await visit(page, addressOf(room));
			const unseen: string[] = [];
			for (let i = 0; i < 25; i++) {
				await page.keyboard.press('Tab');
				const at = await page.evaluate(() => {
					const e = document.activeElement as HTMLElement | null;
					if (!e || e === document.body) return undefined;
					const held = getComputedStyle(e);
					const focused = [held.outlineStyle, held.outlineColor, held.boxShadow, held.borderColor].join();
					const outlined = held.outlineStyle !== 'none' && parseFloat(held.outlineWidth) > 0;
					e.blur();
					const left = getComputedStyle(e);
					const plain = [left.outlineStyle, left.outlineColor, left.boxShadow, left.borderColor].join();
					e.focus();
					return outlined || focused !== plain ? undefined : e.outerHTML.slice(0, 80);
				});
				if (at) unseen.push(at);
			}
			expect(unseen).toEqual([]);
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
