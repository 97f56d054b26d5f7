import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { violationsIn } from '../support/axe';
import { DESK, PHONE, newDevice, openBrowser, tanksOf, visit } from '../support/browser';
import { origin } from '../support/house';

let browser: Browser;
let tank: string;
beforeAll(async () => {
	browser = await openBrowser();
	[tank = ''] = await tanksOf(browser, origin);
});
afterAll(() => browser?.close());

const lesson = async (id: string, viewport = DESK as typeof DESK | typeof PHONE) => {
	const page = await newDevice(browser, viewport);
	await visit(page, `${origin}/s/${tank}/practice`);
	await page.click(`a[href$="lesson=${id}"]`);
	await page.waitForFunction(
		(id) => location.search.includes(id) && document.querySelector('h1 + span'),
		{},
		id
	);
	return page;
};
const button = async (page: Page, text: string) => {
	const found = await page.waitForSelector(
		`::-p-xpath(//main//button[contains(normalize-space(), "${text}")])`
	);
	await found!.evaluate((e) => e.scrollIntoView({ block: 'center' }));
	await found!.click();
};
/** What an eye sees: how far the vial stands between the leaflet's first colour and its last, 0 to 1, away from where the drops fall. */
const turned = (page: Page): Promise<number> =>
	page.evaluate(() => {
		const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=vial]')!;
		const at = canvas
			.getContext('2d')!
			.getImageData((139 / 400) * canvas.width, (520 / 560) * canvas.height, 1, 1).data;
		const [from, , to] = [...document.querySelectorAll<HTMLElement>('.leaflet span')].map((s) =>
			getComputedStyle(s).backgroundColor.match(/\d+/g)!.map(Number)
		);
		const along = to!.map((v, i) => v - from![i]!);
		const length = along.reduce((sum, v) => sum + v * v, 0);
		return along.reduce((sum, v, i) => sum + v * (at[i]! - from![i]!), 0) / length;
	});
/** Drips with a hand that is given, and lets it swirl, until the colour stays turned. */
async function titrate(
	page: Page,
	begin: () => Promise<void>,
	end: () => Promise<void>,
	swirl: (on: boolean) => Promise<void>
) {
	for (let round = 0; round < 60 && (await turned(page)) < 0.5; round++) {
		await swirl(false);
		await begin();
		await page.evaluate(() => new Promise((done) => setTimeout(done, 350)));
		await end();
		await swirl(true);
		await page.evaluate(() => new Promise((done) => setTimeout(done, 900)));
	}
	await swirl(false);
}
/** The number a truth says was meant, and was. */
const said = async (page: Page): Promise<[number, number]> => {
	await page.waitForSelector('[data-testid=truth]');
	return page.$$eval('[data-testid=truth] strong', ([a, b]): [number, number] => [
		Number(a!.textContent),
		Number(b!.textContent)
	]);
};
/** Where the plunger stands, as a screen reader says it: "2.5 lines below 0.3". */
const stands = async (page: Page): Promise<number> => {
	const words = await page.$eval('[role=img][aria-label^="Syringe"]', (e) => e.getAttribute('aria-label')!);
	const [, lines, side, near] = /stands ([\d.]+) lines (above|below) ([\d.]+)/.exec(words)!;
	const line = await page.$eval('form', (f) => Number(/One line is ([\d.]+)/.exec(f.textContent!)![1]));
	return Number(near) + (side === 'above' ? 1 : -1) * Number(lines) * line;
};

it('by mouse: dragged, the syringe drips; the truth is within a few drops and says where the rest came from', async () => {
	const page = await lesson('drip');
	expect(await violationsIn(page)).toEqual([]);
	const box = (await (await page.$('[data-testid=vial]'))!.boundingBox())!;
	const [x, y] = [box.x + box.width / 2, box.y + box.height * 0.2];
	await titrate(
		page,
		async () => {
			await page.mouse.move(x, y);
			await page.mouse.down();
			await page.mouse.move(x, y + 66, { steps: 4 });
		},
		() => page.mouse.up(),
		async (on) => {
			if (on) await page.keyboard.down('s');
			else await page.keyboard.up('s');
		}
	);
	await button(page, 'That is the end');
	await page.waitForSelector('input[name=read]');
	// Digits go to the reading.
	await page.keyboard.type((await stands(page)).toFixed(3));
	await page.keyboard.press('Enter');
	const [number, truth] = await said(page);
	expect(Math.abs(number / truth - 1)).toBeLessThan(0.09);
	expect(truth).toBeGreaterThan(360);
	expect(await violationsIn(page)).toEqual([]);
	expect(page.wrongs).toEqual([]);
}, 120_000);

it('by thumb on a phone: held, the bottle drips; the phone rings in the middle, and drops are counted', async () => {
	const page = await lesson('phone', PHONE);
	const hold = async (text: string) => {
		const found = await page.waitForSelector(
			`::-p-xpath(//main//button[contains(normalize-space(), "${text}")])`
		);
		const box = (await found!.boundingBox())!;
		return page.touchscreen.touchStart(box.x + box.width / 2, box.y + box.height / 2);
	};
	let rang = false;
	let touch: Awaited<ReturnType<typeof hold>> | undefined;
	await titrate(
		page,
		async () => {
			if (await page.$('.practice [role=alert]')) {
				rang = true;
				expect(await violationsIn(page)).toEqual([]);
				await button(page, 'Put it away');
			}
			touch = await hold('Squeeze');
		},
		async () => void (await touch?.end()),
		async (on) => {
			if (on) touch = await hold('Swirl');
			else await touch?.end().catch(() => undefined);
		}
	);
	expect(rang).toBe(true);
	await button(page, 'That is the end');
	await (await page.waitForSelector('input[name=read]'))!.type('no');
	await button(page, 'That is it');
	expect(await page.$eval('main', (m) => m.textContent)).toContain('write a whole number');
	await page.$eval('input[name=read]', (i) => ((i as HTMLInputElement).value = ''));
	await page.type('input[name=read]', '9');
	await button(page, 'That is it');
	const [number] = await said(page);
	expect(number).toBeGreaterThan(2);
	expect(page.wrongs).toEqual([]);
}, 120_000);

it('by keys alone and without a network: plungers are read, a wrong kind of number is told from a misreading, and nothing reaches the book', async () => {
	const page = await newDevice(browser, DESK, { keeps: true });
	await visit(page, `${origin}/s/${tank}/practice`);
	const readings = () =>
		page.evaluate(async (t) => await (await fetch(`/api/v1/systems/${t}/readings?limit=1`)).text(), tank);
	const before = await readings();
	await page.setOfflineMode(true);
	await page.focus('a[href$="lesson=left-or-used"]');
	await page.keyboard.press('Enter');
	let wasMisread = false;
	for (let i = 0; i < 4; i++) {
		await page.waitForFunction(
			(n) => document.querySelector('h1 + span')?.textContent?.includes(`step ${n} of 4`),
			{},
			i + 1
		);
		await page.waitForSelector('input[name=read]');
		const byUsed = await page.$eval('form label[for]', (l) => l.textContent!.startsWith('Used'));
		const left = await stands(page);
		// One is said the wrong way round, where that is another number.
		const wrong: boolean = !wasMisread && Math.abs(left - 0.5) > 0.05;
		wasMisread ||= wrong;
		await page.keyboard.type((byUsed !== wrong ? 1 - left : left).toFixed(3));
		await page.keyboard.press('Enter');
	}
	await page.waitForSelector('[data-testid=truth]');
	const truths = await page.$$eval('[data-testid=truth]', (all) => all.map((t) => t.textContent!));
	expect(truths.filter((t) => t.includes('left for what was used'))).toHaveLength(1);
	// A screen reader says half lines: nothing finer can be typed.
	expect(truths.filter((t) => /Exactly right|Within one/.test(t)).length).toBeGreaterThanOrEqual(3);
	await page.setOfflineMode(false);
	expect(await readings()).toBe(before);
}, 120_000);

it('finds the smallest difference of shade, by ear too; and a hand that was measured counts in readings once it is let', async () => {
	const page = await lesson('pale-shades');
	await page.evaluate(() => localStorage.setItem('tevrik.practice-lamp', '"daylight"'));
	// A key that belongs to a list answers no pair.
	await page.focus('header select');
	await page.keyboard.press('ArrowLeft');
	expect(await page.$eval('main', (m) => m.textContent)).toContain('1 of 16');
	await page.$eval('header select', (e) => (e as HTMLElement).blur());
	for (let i = 0; i < 16; i++) {
		const [left, right] = await page.$$eval('[data-testid=pair] span', (spans) =>
			spans.map((s) =>
				getComputedStyle(s)
					.backgroundColor.match(/\d+/g)!
					.reduce((sum, v) => sum + Number(v), 0)
			)
		);
		await page.keyboard.press(left! < right! ? 'ArrowLeft' : 'ArrowRight');
	}
	await page.waitForSelector('[data-testid=growing]');
	expect(await violationsIn(page)).toEqual([]);
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('Enter');
	await page.waitForSelector('[data-testid=truth]');
	expect(await page.$eval('[data-testid=truth]', (t) => t.textContent)).toContain('read too early');

	// A dozen tries of a hand that goes two drops too far.
	await page.evaluate(() => {
		const name = Object.keys(localStorage).find((k) => k.startsWith('tevrik.practice.'))!;
		const tries = JSON.parse(localStorage.getItem(name)!) as Record<string, unknown>;
		const endPoints = Array.from({ length: 12 }, (_, i) => ({
			instrument: 'syringe',
			parameter: 'alkalinity',
			light: 'daylight',
			over: 1.5 + (i % 3) * 0.5
		}));
		localStorage.setItem(name, JSON.stringify({ ...tries, endPoints }));
	});
	await visit(page, `${origin}/s/${tank}/practice`);
	await page.waitForSelector('[data-testid=hand]');
	expect(await page.$eval('[data-testid=hand]', (t) => t.textContent)).toMatch(
		/2 ± 0\.\d drops past the end/
	);
	expect(await violationsIn(page)).toEqual([]);
	await button(page, 'Let it count in my readings');
	await page.waitForFunction(() =>
		document.querySelector('[data-testid=hand]')?.textContent?.includes('counts, by 12 tries')
	);
	const budget = async () => {
		await visit(page, `${origin}/s/${tank}/bench/one?of=alkalinity`);
		await page.keyboard.type('0.5');
		await page.waitForFunction(() => /±/.test(document.querySelector('main')?.textContent ?? ''));
		return page.$eval('main', (m) => m.textContent!);
	};
	expect(await budget()).toContain('your end point, by practice');
	await visit(page, `${origin}/s/${tank}/practice`);
	await button(page, 'No more');
	await page.waitForFunction(
		() => !document.querySelector('[data-testid=hand]')?.textContent?.includes('counts, by')
	);
	expect(await budget()).not.toContain('your end point, by practice');
	expect(page.wrongs).toEqual([]);
}, 120_000);

it('brings every lesson to its truth', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, `${origin}/s/${tank}/practice`);
	const ids = await page.$$eval('a[href*="lesson="]', (all) => all.map((a) => a.getAttribute('href')!));
	expect(ids).toHaveLength(11);
	const ACTS: [string, (page: Page) => Promise<unknown>][] = [
		['[data-testid=vial]', (p) => p.keyboard.press('Enter')],
		['main [role=slider]', (p) => p.keyboard.press('Enter')],
		['input[name=read]', (p) => p.type('input[name=read]', '1').then(() => p.keyboard.press('Enter'))],
		['[data-testid=pair]', (p) => p.keyboard.press('ArrowLeft')],
		['[data-testid=growing]', (p) => p.keyboard.press('Enter')],
		['[data-testid=shake]', (p) => button(p, 'Shaken enough')],
		['[data-testid=settle]', (p) => button(p, 'Pour it')],
		[
			'[data-testid=filter]',
			async (p) => {
				// Half a millilitre has to have run through.
				await p.waitForFunction(
					() => !/^0[.,]0/.test(document.querySelector('[data-testid=filter]')?.textContent ?? '')
				);
				await button(p, 'Take a part');
			}
		],
		['input[name=part]', (p) => p.type('input[name=part]', '0.05').then(() => p.keyboard.press('Enter'))]
	];
	for (const id of ids) {
		await visit(page, new URL(id, page.url()).href);
		for (let i = 0; i < 60 && !(await page.$('[data-testid=truth]')); i++)
			for (const [there, act] of ACTS)
				if (await page.$(there)) {
					await act(page);
					break;
				}
		expect(await page.$$eval('[data-testid=truth]', (all) => all.length), id).toBeGreaterThan(0);
	}
	expect(page.wrongs).toEqual([]);
}, 120_000);
