import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Application } from '../support/application';
import { violationsIn } from '../support/axe';
import { DESK, PHONE, openBrowser } from '../support/browser';
import { anEmptyServer, at, says } from '../support/stranger';

let browser: Browser;
const applications: Application[] = [];
beforeAll(async () => (browser = await openBrowser()));
afterAll(async () => {
	await browser?.close();
	for (const application of applications) await application.stop();
});

/** A server nobody has used yet, and a device in front of it. */
const atAnEmptyServer = (viewport: typeof DESK | typeof PHONE, language = 'en-GB') =>
	anEmptyServer(browser, applications, viewport, language);
/** What has the focus in turn and lies under something else. */
const covered = (page: Page, selector: string): Promise<string[]> =>
	page.$$eval(selector, (all) =>
		all.flatMap((e) => {
			if (!e.checkVisibility()) return [];
			(e as HTMLElement).focus();
			const { left, top, width, height } = e.getBoundingClientRect();
			const seen = document.elementFromPoint(left + width / 2, top + height / 2);
			return seen && (e.contains(seen) || seen.contains(e)) ? [] : [e.outerHTML.slice(0, 80)];
		})
	);
const value = '[data-testid=value]';
const fine = async (page: Page) => expect(await violationsIn(page)).toEqual([]);

describe('the first session, from an empty database', () => {
	it('by keyboard: account, tank, units, shelf, reading, in under sixty keystrokes and five screens', async () => {
		const page = await atAnEmptyServer(DESK);
		const [began, screens] = [Date.now(), [] as string[]];
		let keys = 0;
		/** What a keeper types: letters, and keys by their names in braces. */
		const type = async (text: string) => {
			for (const [, name, letter] of text.matchAll(/\{(\w+)\}|(.)/gs)) {
				if (name) await page.keyboard.press(name as 'Enter');
				else await page.keyboard.type(letter!);
				keys++;
			}
		};
		const screen = async (path: RegExp) => {
			await at(page, path);
			screens.push(new URL(page.url()).pathname.replace(/[0-9a-f-]{36}/, 'tank'));
			await fine(page);
		};
		await screen(/^\/signup$/);
		await type('Ada{Tab}a@b.example{Tab}nine herons!{Enter}');
		await screen(/^\/begin$/);
		await type('Reef{Tab}200{Enter}');
		await screen(/^\/begin\/units$/);
		await says(page, '[data-testid=sample]', /8\.1 dKH.*35 PSU.*25 °C.*6 May 2026/);
		await type('{Enter}');
		await screen(/\/shelf\/new$/);
		await page.waitForFunction(() => document.activeElement?.getAttribute('data-look') === 'syringe');
		await type('{Tab}{Tab}{Tab}1{Enter}0{Enter}.5{Enter}8{Enter}');
		await says(page, '[data-testid=fit]', /16 dKH for each mL used\. It goes by what is left/);
		await type('{Enter}');
		await says(page, '[data-testid=on-shelf]', /Alkalinity, syringe is on your shelf\./);
		await fine(page);
		await type('{Enter}');
		await screen(/\/bench\/one$/);
		await type('.41');
		await says(page, value, /^9\.4 ± 0\.4 dKH/);
		await type('{Enter}');
		await says(page, '[data-testid=saved]', /Saved: Alkalinity 9\.4 ± 0\.4 dKH/);
		console.log(
			`measured: first evening: ${keys} keystrokes, ${screens.length} screens, ${((Date.now() - began) / 1000).toFixed(0)} s with axe on each`
		);
		expect(keys).toBeLessThan(60);
		expect(screens).toHaveLength(5);
		expect(page.wrongs).toEqual([]);
		await page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));
		// The rack knows it, judges it, and asks for nothing else: nothing else stands on the shelf.
		await page.goto(page.url().replace(/bench\/one.*/, 'rack'));
		await says(page, 'main', /Nothing is due\./);
		await fine(page);
		await page.browserContext().close();
	});

	it('by touch on a phone: skipped and found again, a card, a kit without its chart, and its chart later', async () => {
		const page = await atAnEmptyServer(PHONE);
		const tap = async (selector: string) => {
			const found = (await page.waitForSelector(selector, { visible: true }))!;
			await found.evaluate((e) => e.scrollIntoView({ block: 'center' }));
			await found.tap();
		};
		const write = async (selector: string, text: string) => {
			await tap(selector);
			await page.$eval(selector, (e) => (e as HTMLInputElement).select());
			await page.keyboard.type(text);
		};
		await fine(page);
		await write('input[name=name]', 'Bo');
		await write('input[name=email]', 'bo@boathouse.example');
		await write('input[name=password]', 'nine herons!');
		await tap('form button[type=submit]');
		await at(page, /^\/begin$/);
		await fine(page);
		await write('input[name=name]', 'Jetty');
		await write('input[name=netVolumeL]', '50 gal');
		await tap('form button[type=submit]');
		await at(page, /^\/begin\/units$/);
		await fine(page);
		// Both are skipped; the rack says where to go on.
		await tap('::-p-text(Later)');
		await at(page, /\/shelf\/new$/);
		await tap('::-p-text(Later)');
		await at(page, /\/rack$/);
		await says(page, 'main', /189 L of water/);
		await fine(page);
		await tap('::-p-text(Add your first kit)');
		await at(page, /\/shelf\/new$/);
		// Whatever has the focus stands clear of the bar at the thumb.
		expect(await covered(page, '[data-kit] :is(input:not([type=file]), select, summary)')).toEqual([]);
		await tap('[data-look=card]');
		await page.select('[data-kit] select', 'nitrate');
		await write('[data-patches]', '0 2.5 5 10 25');
		await fine(page);
		await tap('[data-kit] button[type=submit]');
		await says(page, '[data-testid=on-shelf]', /Nitrate, colour card is on your shelf\./);
		await tap('[data-look=syringe]');
		await page.select('[data-kit] select', 'alkalinity');
		await tap('[data-kit] button[type=submit]');
		await says(page, '[data-testid=on-shelf]', /Alkalinity, syringe is on your shelf, without its chart/);
		await tap('::-p-text(Measure alkalinity)');
		await at(page, /\/bench\/one$/);
		await write('[data-entry]', '.41');
		await says(page, '[data-testid=not-yours]', /by a chart that is not yours yet/);
		expect(await page.$('.landing svg')).toBeNull();
		// Value and Save stay in view while the instrument is in hand.
		const seen = await page.evaluate(
			(where) =>
				[where, 'form.bench button[type=submit]'].map((s) => {
					const { top, bottom } = document.querySelector(s)!.getBoundingClientRect();
					return top >= 0 && bottom <= innerHeight;
				}),
			value
		);
		expect(seen).toEqual([true, true]);
		await fine(page);
		await tap('form.bench button[type=submit]');
		await says(page, '[data-testid=saved]', /Saved/);
		// What was saved lies over nothing.
		expect(await covered(page, '[data-entry], form.bench button, form.bench summary')).toEqual([]);
		await page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));
		await page.goto(page.url().replace(/bench\/one.*/, 'rack'));
		await says(page, '[data-testid=judgements]', /Alkalinity was read with an example chart\./);
		expect(await page.$eval('main', (e) => e.textContent)).not.toMatch(/Chance that|in range|▲ high/);
		await fine(page);
		// It is drawn hollow, and told as what it is.
		await page.goto(page.url().replace(/rack$/, 'trends?of=alkalinity'));
		await says(page, 'tbody', /Alkalinity, syringe ○ no chart of its own yet/);
		expect(await page.$('[data-testid=outlook]')).toBeNull();
		await page.goto(page.url().replace(/trends.*/, 'rack'));
		await page.waitForSelector('html[data-ready]');
		await tap('::-p-text(Enter its chart)');
		await at(page, /\/shelf\/[0-9a-f-]{36}$/);
		await fine(page);
		for (const [i, text] of ['1', '0', '.5', '10'].entries())
			await write(
				`[data-leaflet] tbody tr:nth-child(${1 + (i >> 1)}) td:nth-child(${1 + (i & 1)}) input`,
				text
			);
		await tap('form button[type=submit]');
		await at(page, /\/shelf$/);
		await page.goto(page.url().replace(/shelf$/, 'rack'));
		await says(page, 'main', /11\.\d ± 0\.\d dKH/);
		expect(await page.$eval('main', (e) => e.textContent)).not.toContain('not yours yet');
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('with a decimal comma in another language, on its screens and in its files', async () => {
		const page = await atAnEmptyServer(DESK, 'de-DE,de;q=0.9');
		for (const [name, text] of [
			['name', 'Cem'],
			['email', 'cem@boathouse.example'],
			['password', 'neun Reiher!!']
		])
			await page.type(`input[name=${name}]`, text!);
		await page.keyboard.press('Enter');
		await at(page, /^\/begin$/);
		await page.type('input[name=name]', 'Becken');
		await page.type('input[name=netVolumeL]', '87,5');
		await page.keyboard.press('Enter');
		await at(page, /^\/begin\/units$/);
		await says(page, '[data-testid=sample]', /8,1 dKH.*06\.05\.2026, \d\d:10/);
		await page.keyboard.press('Enter');
		await at(page, /\/shelf\/new$/);
		await page.focus('[data-leaflet] input');
		await page.keyboard.type('1,00\n0\n0,75\n4,2\n0,50\n8,4\n');
		await says(page, '[data-testid=fit]', /Straight: 16,8 dKH/);
		await page.keyboard.press('Enter');
		await page.waitForSelector('[data-testid=on-shelf]');
		await page.keyboard.press('Enter');
		await at(page, /\/bench\/one$/);
		await page.keyboard.type('0,41');
		await says(page, value, /^9,9 ± 0,4 dKH/);
		await page.keyboard.press('Enter');
		await says(page, '[data-testid=saved]', /Saved: Alkalinity 9,9 ± 0,4 dKH/);
		await page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));
		const rack = page.url().replace(/bench\/one.*/, 'rack');
		await page.goto(rack);
		await says(page, 'main', /87,5 L of water/);
		await says(page, 'main', /9,9 ± 0,[45] dKH/);
		const csv = await page.evaluate(
			async (address) => (await fetch(address)).text(),
			rack.replace(/\/s\/([^/]+)\/rack/, '/api/v1/systems/$1/readings.csv')
		);
		expect(csv).toMatch(/;alkalinity;9,9\d*;dKH;9,4\d*;10,2\d*;/);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});
});
