import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Application } from '../support/application';
import { PHONE, openBrowser } from '../support/browser';
import { anEmptyServer, at, handsOn, says } from '../support/stranger';

let browser: Browser;
const applications: Application[] = [];
beforeAll(async () => (browser = await openBrowser()));
afterAll(async () => {
	await browser?.close();
	for (const application of applications) await application.stop();
});

const sent = (page: Page) =>
	page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));

it('a stranger with a phone: kits by their leaflets, a test of yesterday, salt that was poured, a plan of the first day that is followed, and another tank', async () => {
	const page = await anEmptyServer(browser, applications, PHONE);
	const { tap, press, follow, write, choose, counted } = handsOn(page);
	await write('input[name=name]', 'Ines');
	await write('input[name=email]', 'ines@boathouse.example');
	await write('input[name=password]', 'nine herons!');
	await tap('form button[type=submit]');
	await at(page, /^\/begin$/);
	await write('input[name=name]', 'Cove');
	await write('input[name=netVolumeL]', '180');
	await tap('form button[type=submit]');
	await at(page, /^\/begin\/units$/);
	await tap('form button[type=submit]');
	await at(page, /\/shelf\/new$/);

	// Drops whose table falls and bends: whole, and drawn.
	await tap('[data-look=drops]');
	await choose('[data-kit] select', 'calcium');
	const cell = (line: number, column: number) =>
		`[data-leaflet] tbody tr:nth-child(${line}) td:nth-child(${column}) input`;
	for (const [i, [drops, value]] of [
		['7', '500'],
		['9', '465'],
		['11', '435'],
		['13', '410'],
		['15', '390']
	].entries()) {
		await write(cell(i + 1, 1), drops!);
		await write(cell(i + 1, 2), value!);
	}
	await says(page, '[data-testid=fit]', /A curve: kept as its 5 lines/);
	expect(await page.$('[data-suspect]')).toBeNull();
	await tap('[data-kit] button[type=submit]');
	await says(page, '[data-testid=on-shelf]', /Calcium, drops is on your shelf\./);

	// A syringe for alkalinity: 16.8 dKH for each mL.
	await tap('[data-look=syringe]');
	await choose('[data-kit] select', 'alkalinity');
	for (const [i, text] of ['1', '0', '.5', '8.4'].entries())
		await write(cell(1 + (i >> 1), 1 + (i & 1)), text);
	await tap('[data-kit] button[type=submit]');
	await says(page, '[data-testid=on-shelf]', /Alkalinity, syringe is on your shelf\./);
	await follow('Measure alkalinity');
	await at(page, /\/bench\/one$/);
	const tank = page.url().replace(/\/bench.*/, '');

	// Twice today, 0.57 left: 0.43 of 16.8 is 7.2 dKH.
	for (let i = 0; i < 2; i++) {
		await write('[data-entry]', '.57');
		await says(page, '[data-testid=value]', /^7\.2/);
		await tap('form.bench button[type=submit]');
		await says(page, '[data-testid=saved]', /Saved: Alkalinity 7\.2/);
	}
	// And what was read last night, as it is said.
	await write('[data-quick]', 'ca 13 drops yesterday 21:30');
	await says(page, '#quick-said', /410 ± .*5 May 2026/);
	await page.keyboard.press('Enter');
	await says(page, '[data-testid=value]', /^410/);
	await tap('form.bench button[type=submit]');
	await says(page, '[data-testid=saved]', /Saved: Calcium 410 .*5 May 2026, 21:30/);
	// The moment stays for what stood beside it in the note book, over a reload too, until it is now again.
	await page.reload();
	await at(page, /\/bench\/one$/);
	await page.waitForFunction(
		() => document.querySelector<HTMLInputElement>('input[type=datetime-local]')?.value === '2026-05-05T21:30'
	);
	await press('now');
	await page.waitForFunction(() => document.activeElement?.matches('[data-when]'));
	await sent(page);

	// Salt that was poured, from the readings.
	await page.goto(`${tank}/readings`);
	await at(page, /\/readings$/);
	await says(page, 'main', /5 May 2026.*Calcium.*410/);
	await press('Dose');
	await choose('[data-bottle]', 'salt');
	await write('[data-amount]', '100');
	await says(page, '#did-problem', /100 g of salt, salinity \+0\.49 PSU/);
	await press('Save');
	await says(page, 'main', /Saved: 100 g of salt/);
	await sent(page);

	// A bottle by its label's sentence, with its capful.
	await page.goto(`${tank}/shelf/pour`);
	await at(page, /\/shelf\/pour$/);
	await says(page, 'form', /Write it like this: 1 mL in 100 L/);
	await write('input[name=name]', 'Buffer');
	await write('input[name=label]', 'One capful (5 ml) raises the alkalinity of 100 litres by 0.5 dKH');
	await says(page, 'form', /Understood: 5 mL in 100 L raises alkalinity by 0\.5 dKH/);
	await tap('form button[type=submit]');
	await at(page, /\/shelf$/);

	// The first day's plan pours, asks for a test on the way, and is followed.
	await page.goto(`${tank}/adjust`);
	await at(page, /\/adjust$/);
	await says(page, '[data-testid=days]', /Buffer/);
	const first = await page.$eval('[data-testid=days]', (e) => e.textContent!.replace(/\s+/g, ' '));
	expect(first).toMatch(/alkalinity/i);
	expect(first).toMatch(/Test alkalinity|test alkalinity/);
	await press('Follow this plan');
	await says(page, 'main', /The plan you follow, made today/);
	console.log(`measured: a stranger’s first evenings: ${counted.taps} taps, ${counted.keys} keys`);

	// Another tank, from any room.
	await choose('header select', '/begin');
	await at(page, /^\/begin$/);
	await write('input[name=name]', 'Nursery');
	await write('input[name=netVolumeL]', '12');
	await choose('select[name=volumeUnit]', 'UK gal');
	await tap('form button[type=submit]');
	await at(page, /\/rack$/);
	// 12 imperial gallons are 54.55 L.
	await says(page, 'main', /Nursery.*54\.[56] L of water/);
	expect(await page.$$eval('header select option', (all) => all.map((o) => o.textContent))).toEqual([
		'Cove',
		'Nursery',
		'Another tank…'
	]);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});
