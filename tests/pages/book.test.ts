import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { workbookOf } from '../../src/lib/sheets/workbook';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, PHONE, newDevice, openBrowser, tanksOf, visit } from '../support/browser';

let browser: Browser;
let tank: string;
let second: string;
const folder = mkdtempSync(join(tmpdir(), 'tevrik-sheets-'));

beforeAll(async () => {
	browser = await openBrowser();
	[tank = '', second = ''] = await tanksOf(browser, origin);
});
afterAll(async () => {
	await browser?.close();
	rmSync(folder, { recursive: true, force: true });
});

const says = (page: Page, words: RegExp) =>
	page.waitForFunction((source) => new RegExp(source).test(document.body.textContent!), {}, words.source);
const arrived = (page: Page) =>
	page.waitForFunction(() => Object.keys(localStorage).every((key) => !key.startsWith('tevrik.outbox.')));
const press = (page: Page, words: string) =>
	page.evaluate((w) => {
		[...document.querySelectorAll<HTMLElement>('main button, main a')]
			.find((b) => b.textContent!.trim() === w)!
			.click();
	}, words);
const lines = (page: Page) =>
	page.$$eval('[data-line]', (all) => all.map((l) => l.textContent!.replace(/\s+/g, ' ').trim()));

it('corrects a reading where it stands, keeps what it was, and takes several out and back', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, `${origin}/s/${second}/readings?parameter=alkalinity`);
	await page.waitForSelector('[data-line=reading] button.what');
	const before = await lines(page);
	// One that was read off a syringe, whatever other tests have measured here since.
	const at = before.findIndex((l) => /0\.\d+ (left|used),/.test(l));
	await (await page.$$('[data-line=reading] button.what'))[at]!.click();
	await says(page, /written down by/);
	await press(page, 'Correct it');
	const seen = await page.waitForSelector('[data-seen]');
	await seen!.evaluate((e) => (e as HTMLInputElement).select());
	await page.keyboard.type('nonsense');
	await page.waitForSelector('[data-seen][aria-invalid=true]');
	await seen!.evaluate((e) => (e as HTMLInputElement).select());
	await page.keyboard.type('.35');
	await page.waitForFunction(() =>
		/becomes \d/.test(document.querySelector('[data-testid=correct]')!.textContent!)
	);
	await page.type('[data-why]', 'counted again');
	await page.keyboard.press('Enter');
	await arrived(page);
	await says(page, /corrected by Odile: counted again/);
	expect((await lines(page))[at]).not.toBe(before[at]);
	expect((await lines(page))[at]).toContain('corrected');

	await press(page, 'Select');
	const boxes = (await page.$$('input[type=checkbox]')) as ElementHandle<HTMLInputElement>[];
	await boxes[0]!.click();
	await boxes[1]!.click();
	await page.type('form input[maxlength="280"]', 'old reagent');
	await page.keyboard.press('Enter');
	await arrived(page);
	await page.waitForFunction(
		(n) => document.querySelectorAll('[data-line]').length === n,
		{},
		before.length - 2
	);
	await press(page, 'Undo');
	await arrived(page);
	await page.waitForFunction((n) => document.querySelectorAll('[data-line]').length === n, {}, before.length);
	// The filter stands in the address; what was done comes in the same stream.
	await visit(page, `${origin}/s/${second}/readings?lines=events`);
	await page.waitForSelector('[data-line=event]');
	expect(await page.$$('[data-line=reading]')).toEqual([]);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('takes in a sheet as understood, once however often, and takes it back', async () => {
	const page = await newDevice(browser, DESK);
	const sheet = join(folder, 'before.csv');
	writeFileSync(
		sheet,
		'Datum;KH;Kalzium;Notiz\n05.01.2019;8,1;430;neue Lampe\n12.01.2019;7,9;<400;\n19.01.2019;viel;420;\n26.01.2019;8,0;1430;\n'
	);
	const choose = async () => {
		await visit(page, `${origin}/s/${second}/import`);
		const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>;
		await input.uploadFile(sheet);
		await page.waitForSelector('[data-testid=understood] li');
	};
	const take = async () => {
		await page.evaluate(() => {
			[...document.querySelectorAll('button')].find((b) => /^Import \d/.test(b.textContent!.trim()))!.click();
		});
		await page.waitForFunction(() =>
			/imported/.test(document.querySelector('[data-testid=progress]')?.textContent ?? '')
		);
		return page.$eval('[data-testid=progress]', (e) => e.textContent!.replace(/\s+/g, ' ').trim());
	};
	await choose();
	expect(await page.$$eval('[data-testid=understood] li', (all) => all.length)).toBe(7);
	expect(await page.$eval('[data-testid=refused]', (e) => e.textContent)).toMatch(/viel.*no number/);
	await says(page, /Far outside/);
	// A column's meaning is the keeper's: what is left out is not taken.
	await page.select('select[aria-label="What Kalzium holds"]', 'skip');
	await page.waitForFunction(() => document.querySelectorAll('[data-testid=understood] li').length === 3);
	await page.select('select[aria-label="What Kalzium holds"]', 'value calcium');
	await page.waitForFunction(() => document.querySelectorAll('[data-testid=understood] li').length === 7);
	expect(await take()).toMatch(/7 tests imported, 1 cell left out, 1 note/);
	await choose();
	expect(await take()).toMatch(/0 tests imported, 7 were there already/);

	const old = `${origin}/s/${second}/readings?to=2020-01-01T00:00:00.000Z`;
	await visit(page, old);
	expect(await lines(page)).toHaveLength(8);
	expect((await lines(page)).some((l) => /< 400 mg\/L/.test(l))).toBe(true);
	await visit(page, `${origin}/s/${second}/import`);
	const buttons = await page.$$('button[aria-label^="Undo the import of before.csv"]');
	await buttons.at(-1)!.click();
	await says(page, /, undone/);
	await visit(page, old);
	expect(await lines(page)).toHaveLength(0);
	// The same file brings back what went with it.
	await choose();
	expect(await take()).toMatch(/7 tests imported/);
	await visit(page, `${origin}/s/${second}/import`);
	await (await page.$$('button[aria-label^="Undo the import of before.csv"]'))[0]!.click();
	await page.waitForFunction(
		() => (document.querySelector('main')!.textContent!.match(/, undone/g) ?? []).length === 2
	);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('takes in a workbook as understood, refuses what is none, and loads its library only there', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, `${origin}/s/${second}/import`);
	const choose = async (name: string, bytes: Uint8Array) => {
		writeFileSync(join(folder, name), bytes);
		const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>;
		await input.uploadFile(join(folder, name));
	};
	await choose('broken.xlsx', new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3]));
	await says(page, /broken\.xlsx is no workbook that can be read/);
	const day = (n: number) => new Date(Date.UTC(2018, 0, n, 20));
	await choose(
		'before.xlsx',
		workbookOf('Log', [
			['date', 'alkalinity', 'nitrate'],
			[day(5), 8.1, '<0.2'],
			[day(12), 7.9, '4-8']
		])
	);
	await page.waitForSelector('[data-testid=understood] li');
	expect(await page.$eval('[data-testid=understood]', (e) => e.textContent!.replace(/\s+/g, ' '))).toMatch(
		/5 Jan 2018.*Alkalinity 8\.1 dKH.*Nitrate < 0\.2 mg\/L NO₃.*12 Jan 2018.*4 to 8 mg\/L NO₃/
	);
	expect(await violationsIn(page)).toEqual([]);
	await press(page, 'Import 4 tests');
	await says(page, /4 tests imported/);
	// The library of workbooks came with its worker alone.
	const loaded = await page.evaluate(() => performance.getEntriesByType('resource').map((r) => r.name));
	expect(
		loaded.some((name) => /\.js$/.test(name) && /xlsx|workbook/i.test(name) && !/worker/.test(name))
	).toBe(false);
	await page.browserContext().close();
});

it('changes a tank: volume from its sizes, a school’s bands, a band of one’s own', async () => {
	const page = await newDevice(browser, PHONE);
	await visit(page, `${origin}/s/${second}/tank`);
	await page.click('input[value=sizes]');
	for (const [name, text] of [
		['lengthCm', '60'],
		['widthCm', '40'],
		['depthCm', '30,5'],
		['rockKg', '5']
	])
		await page.type(`input[name=${name}]`, text!);
	// 73.2 L of glass less 2 L of rock.
	await says(page, /71\.2 L of water/);
	await press(page, 'Save');
	await says(page, /● Saved/);
	await press(page, 'Fed tank');
	await says(page, /Bands as fed tank/);
	await page.$eval('input[name="nitrate.lower"]', (e) => ((e as HTMLInputElement).value = '30'));
	await page.$eval('input[name="nitrate.upper"]', (e) => ((e as HTMLInputElement).value = '3'));
	await press(page, 'Save the bands');
	await says(page, /lower limit below/);
	expect(await page.$eval('input[name="nitrate.lower"]', (e) => (e as HTMLInputElement).value)).toBe('30');
	expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
	await page.browserContext().close();
});

it('prints one page for the wall, and axe finds nothing in either theme', async () => {
	const page = await newDevice(browser, DESK);
	for (const path of [
		`/s/${tank}/readings`,
		`/s/${tank}/import`,
		`/s/${tank}/tank`,
		'/account',
		'/tanks',
		'/api/v1'
	]) {
		await visit(page, origin + path);
		expect(await violationsIn(page)).toEqual([]);
	}
	await visit(page, `${origin}/s/${tank}/wall`);
	const pdf = Buffer.from(await page.pdf({ format: 'A4', preferCSSPageSize: true })).toString('latin1');
	expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
	await page.browserContext().close();
});
