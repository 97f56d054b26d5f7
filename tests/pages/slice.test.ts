import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Reading } from '../../src/lib/api/readings';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, PHONE, demoCookie, newDevice, openBrowser, reload, tanksOf, visit } from '../support/browser';
import { patiently } from '../support/patient';

let browser: Browser;
let system: string;
let cookie: string;

beforeAll(async () => {
	browser = await openBrowser();
	[system = ''] = await tanksOf(browser, origin);
	cookie = await demoCookie(origin);
});
afterAll(() => browser?.close());

const device = (viewport: typeof DESK | typeof PHONE = DESK) => newDevice(browser, viewport);
const bench = (page: Page) => visit(page, `${origin}/s/${system}/bench/one?of=alkalinity`);
const shown = (page: Page) =>
	page.$eval('[data-testid=value]', (e) => e.textContent!.replace(/\s+/g, ' ').trim());
const showing = (page: Page, text: string) =>
	page.waitForFunction(
		(wanted) =>
			document.querySelector('[data-testid=value]')?.textContent?.replace(/\s+/g, ' ').includes(wanted),
		{},
		text
	);
const saved = (page: Page) =>
	page.waitForFunction(
		() => /Saved: (.+)Undo/.exec(document.querySelector('[data-testid=saved]')?.textContent ?? '')?.[1]
	);
/** The page says that something it holds has not reached the server yet. */
const onTheWay = (page: Page) =>
	page.waitForFunction(() =>
		/1 on the way/.test(document.querySelector('[data-testid=waiting]')?.textContent ?? '')
	);
/** Every letter has reached the server. */
const arrived = (page: Page) =>
	page.waitForFunction(() => Object.keys(localStorage).every((key) => !key.startsWith('tevrik.outbox.')));

/** First rows of the table on the trends page: value and what was seen. */
async function table(page: Page): Promise<string[]> {
	await visit(page, `${origin}/s/${system}/trends?of=alkalinity`);
	return page.$$eval('tbody tr', (rows) =>
		rows.map((row) =>
			[...row.querySelectorAll('td')]
				.slice(1, 3)
				.map((c) => c.textContent!.trim())
				.join(' | ')
		)
	);
}

describe('from the syringe to a saved reading', () => {
	it('by mouse: drag, see the value move, save, find it in the rack and on the trend after a reload, undo', async () => {
		const page = await device();
		await bench(page);
		const syringe = (await page.$('[role=slider]'))!;
		const box = (await syringe.boundingBox())!;
		const x = box.x + box.width / 2;
		await page.mouse.move(x, box.y + box.height * 0.16);
		await page.mouse.down();
		await page.mouse.move(x, box.y + box.height * 0.3, { steps: 4 });
		const onTheWay = await shown(page);
		await page.mouse.move(x, box.y + box.height * 0.5, { steps: 8 });
		await page.mouse.up();
		expect(await shown(page)).not.toBe(onTheWay);
		const typed = await page.$eval('[data-entry]', (e) => (e as HTMLInputElement).value);
		const value = /^[\d.]+/.exec(await shown(page))![0];
		await page.click('button[type=submit]');
		await saved(page);
		await arrived(page);

		expect((await table(page))[0]).toBe(`${await firstValue(page)} | ${Number(typed)} left`);
		await page.goto(`${origin}/s/${system}/rack`);
		await reload(page);
		expect(await page.$eval('a.tube', (e) => e.textContent)).toMatch(new RegExp(`tested today: ${value}`));
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('by keyboard alone: arrows, the other convention, save with Enter, undo', async () => {
		const page = await device();
		const before = await table(page);
		await bench(page);
		await tabTo(page, '[role=slider]');
		await page.keyboard.press('ArrowDown');
		await page.keyboard.down('Shift');
		for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown');
		await page.keyboard.up('Shift');
		// 0.51 mL used of 0.036 mol/L acid in 6 mL: 0.51 × 16.823 dKH.
		await showing(page, '8.6 ± 0.4 dKH');
		expect(await page.$eval('[role=slider]', (e) => e.getAttribute('aria-valuetext'))).toContain('0.49');
		await tabTo(page, 'fieldset button:last-of-type');
		await page.keyboard.press('Space');
		expect(await page.$eval('[data-entry]', (e) => (e as HTMLInputElement).value)).toBe('0.51');
		await showing(page, '8.6 ± 0.4 dKH');
		await page.focus('[data-entry]');
		await page.keyboard.press('Enter');
		await saved(page);
		await arrived(page);
		expect(await table(page)).toHaveLength(Math.min(25, before.length + 1));

		await bench(page);
		await page.focus('[data-entry]');
		await page.keyboard.type('left 0,5');
		await showing(page, '8.4 ± 0.4 dKH');
		await page.keyboard.press('Enter');
		await saved(page);
		await tabTo(page, '[data-testid=saved] button');
		await page.keyboard.press('Enter');
		await page.waitForFunction(() =>
			document.querySelector('[data-testid=saved]')?.textContent?.includes('Undone')
		);
		expect(await page.$eval('[data-entry]', (e) => (e as HTMLInputElement).value)).toBe('left 0,5');
		await arrived(page);
		expect((await table(page)).filter((row) => row.includes('0.5 left')).length).toBe(
			before.filter((row) => row.includes('0.5 left')).length
		);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('by touch on a phone, without scrolling sideways', async () => {
		const page = await device(PHONE);
		await bench(page);
		const box = (await (await page.$('[role=slider]'))!.boundingBox())!;
		await page.touchscreen.touchStart(box.x + box.width / 2, box.y + box.height * 0.4);
		await page.touchscreen.touchMove(box.x + box.width / 2, box.y + box.height * 0.55);
		await page.touchscreen.touchEnd();
		await showing(page, '±');
		for (const room of ['bench/one', 'rack', 'trends']) {
			if (room !== 'bench/one') await visit(page, `${origin}/s/${system}/${room}`);
			expect(await page.evaluate(() => document.documentElement.scrollWidth), room).toBeLessThanOrEqual(390);
		}
		await bench(page);
		await showing(page, '±');
		// Whatever is asked above it, the button is in reach and not behind the rooms.
		await page.$eval('button[type=submit]', (b) => b.scrollIntoView({ block: 'center' }));
		await page.tap('button[type=submit]');
		await saved(page);
		await arrived(page);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('keeps a bad entry, says what is wrong, and keeps a draft over a reload', async () => {
		const page = await device();
		await bench(page);
		for (const [text, sentence] of [
			['1.4', /between 0 and 1 mL, the syringe's size/],
			['0.48-0.46', /smaller end first/],
			['<0.2', /stands at a line or between two/],
			['blue', /holds no number/]
		] as const) {
			await page.$eval('[data-entry]', (e) => ((e as HTMLInputElement).value = ''));
			await page.type('[data-entry]', text);
			expect(await page.$eval('#entry-problem', (e) => e.textContent)).toMatch(sentence);
			expect(await page.$eval('[data-entry]', (e) => (e as HTMLInputElement).value)).toBe(text);
			expect(await page.$eval('button[type=submit]', (e) => (e as HTMLButtonElement).disabled)).toBe(true);
		}
		await page.$eval('[data-entry]', (e) => ((e as HTMLInputElement).value = ''));
		await page.type('[data-entry]', '0,46-0,48');
		await showing(page, '8.7 to 9.1 dKH');
		await reload(page);
		await showing(page, '8.7 to 9.1 dKH');
		await page.browserContext().close();
	});

	it('without a network keeps the reading on the device and sends it when the network is back', async () => {
		const page = await device();
		await bench(page);
		await page.type('[data-entry]', '0.47');
		await showing(page, '8.9');
		await page.setOfflineMode(true);
		await page.keyboard.press('Enter');
		await saved(page);
		await onTheWay(page);
		await page.setOfflineMode(false);
		await reload(page);
		await arrived(page);
		expect((await table(page)).some((row) => row.includes('0.47 left'))).toBe(true);
		await page.browserContext().close();
	});

	it('takes a reading back whose answer was lost on the way', async () => {
		const page = await device();
		await bench(page);
		// The server stores it, and the page never hears of it.
		let stored: Promise<unknown> = Promise.resolve();
		let losing = true;
		await page.setRequestInterception(true);
		page.on('request', (request) => {
			if (!losing || request.method() !== 'PUT') return void request.continue();
			stored = fetch(request.url(), {
				method: 'PUT',
				headers: { 'content-type': 'application/json', cookie },
				body: request.postData()!
			}).then(() => request.abort());
		});
		await page.type('[data-entry]', '0.39');
		await showing(page, '±');
		await page.keyboard.press('Enter');
		await saved(page);
		await onTheWay(page);
		await page.waitForFunction(() =>
			Object.keys(localStorage).some((key) => localStorage.getItem(key)!.includes('"tried":true'))
		);
		await stored;
		losing = false;
		await page.click('[data-testid=saved] button');
		await page.waitForFunction(() =>
			document.querySelector('[data-testid=saved]')?.textContent?.includes('Undone')
		);
		await page.reload();
		await arrived(page);
		expect((await table(page)).some((row) => row.includes('0.39 left'))).toBe(false);
		await page.browserContext().close();
	});
});

describe('the server', () => {
	const put = (id: string, body: unknown) =>
		fetch(`${origin}/api/v1/readings/${id}`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json', cookie },
			body: JSON.stringify(body)
		});
	/** A save as the bench sends it, caught on its way. */
	async function sentByBench(): Promise<Record<string, unknown>> {
		const page = await device();
		await bench(page);
		await page.type('[data-entry]', '0.44');
		await showing(page, '±');
		const request = page.waitForRequest((r) => r.method() === 'PUT');
		await page.keyboard.press('Enter');
		const body = JSON.parse((await request).postData()!) as Record<string, unknown>;
		await arrived(page);
		await page.browserContext().close();
		return body;
	}

	it('stores a reading once however often and at whatever moment it is sent', async () => {
		const body = { ...(await sentByBench()), sampleId: crypto.randomUUID() };
		const id = crypto.randomUUID();
		const answers = await Promise.all(Array.from({ length: 8 }, () => put(id, body)));
		const stored = (await Promise.all(answers.map((a) => a.json()))) as Reading[];
		expect(answers.map((a) => a.status)).toEqual(Array(8).fill(200));
		expect(new Set(stored.map((r) => JSON.stringify(r))).size).toBe(1);
		expect(stored[0]).toMatchObject({ id, revision: 1, unit: 'dKH' });
		expect(stored[0]!.value).toBeCloseTo(0.56 * ((0.036 * 1000) / 6) * (56.077 / 20), 9);

		const voiding = () =>
			fetch(`${origin}/api/v1/readings/${id}/void`, {
				method: 'PUT',
				headers: { 'content-type': 'application/json', cookie },
				body: JSON.stringify({ reason: 'a test' })
			}).then((r) => r.json() as Promise<Reading>);
		const voided = [await voiding(), await voiding()];
		expect(voided.map((r) => [r.revision, r.voided])).toEqual([
			[2, true],
			[2, true]
		]);
	});

	it('refuses what cannot be, with the place and a sentence', async () => {
		const body = await sentByBench();
		for (const [part, path] of [
			[{ reading: { left: 2 } }, '/reading/left'],
			[{ reading: { drops: 2 } }, '/reading'],
			[{ takenAt: '2031-01-01T00:00:00Z' }, '/takenAt'],
			[{ takenAt: 'yesterday' }, '/takenAt'],
			[{ methodVersionId: crypto.randomUUID() }, '/methodVersionId'],
			[{ sourceId: crypto.randomUUID() }, '/sourceId'],
			[{ extra: 1 }, '/extra']
		] as const) {
			const answer = await put(crypto.randomUUID(), { ...body, ...part });
			expect(answer.status).toBe(422);
			const said = (await answer.json()) as { error: string; problems: { path: string; message: string }[] };
			expect(said.error).toBe('invalid');
			expect(said.problems.map((p) => p.path)).toContain(path);
		}
		expect((await fetch(`${origin}/s/${crypto.randomUUID()}/rack`, { headers: { cookie } })).status).toBe(
			404
		);
	});

	it('answers calculations as the command line does', async () => {
		const ask = (body: string, type = 'application/json'): Promise<Response> =>
			patiently(() =>
				fetch(`${origin}/api/v1/calc/convert`, {
					method: 'POST',
					headers: { 'content-type': type },
					body
				})
			);
		const request = { quantity: 'alkalinity', value: 8, from: 'dKH', to: 'ppm CaCO3' };
		expect(await (await ask(JSON.stringify(request))).json()).toMatchObject({ unit: 'ppm CaCO3' });
		expect((await ask('{"quantity":')).status).toBe(422);
		// What a form on a foreign page could send is turned away before it is read.
		expect((await ask(JSON.stringify(request), 'text/plain')).status).toBe(403);
		expect((await ask('[]')).status).toBe(422);
	});
});

it('a first tank is made with a form that keeps what was typed and says what is wrong', async () => {
	const page = await device(PHONE);
	await visit(page, `${origin}/begin`);
	await page.type('input[name=name]', 'Cellar');
	await page.type('input[name=netVolumeL]', 'plenty');
	await page.click('button[type=submit]');
	await page.waitForFunction(() =>
		/holds no number/.test(
			document.getElementById(
				document.querySelector('input[name=netVolumeL]')!.getAttribute('aria-describedby')!
			)!.textContent!
		)
	);
	expect(await page.$eval('input[name=name]', (e) => (e as HTMLInputElement).value)).toBe('Cellar');
	await page.$eval('input[name=netVolumeL]', (e) => ((e as HTMLInputElement).value = '25 gal'));
	await page.click('button[type=submit]');
	// Whoever has a tank already has chosen units and filled a shelf: this one begins at its rack.
	await page.waitForFunction(() => location.pathname.endsWith('/rack'));
	expect(await page.$eval('header select', (e) => (e as HTMLSelectElement).selectedOptions[0]!.text)).toBe(
		'Cellar'
	);
	// What was written in gallons is kept in litres.
	expect(await page.$eval('main', (e) => e.textContent)).toMatch(/94\.6\s+L of water/);
	await visit(page, page.url().replace(/rack.*/, 'bench/one?of=alkalinity'));
	await page.type('[data-entry]', '0.5');
	await showing(page, '8.4 ± 0.4 dKH');
	await page.browserContext().close();
});

it('axe finds nothing wrong in either theme', async () => {
	const page = await device();
	for (const room of ['rack', 'bench/one', 'trends']) {
		await visit(page, `${origin}/s/${system}/${room}`);
		if (room === 'bench/one') await page.type('[data-entry]', '0.48');
		expect(await violationsIn(page)).toEqual([]);
	}
	await page.browserContext().close();
});

async function firstValue(page: Page): Promise<string> {
	return page.$eval('tbody tr td:nth-child(2)', (e) => e.textContent!.trim());
}

/** Presses Tab until the element has the focus, as a keyboard user must be able to. */
async function tabTo(page: Page, selector: string): Promise<void> {
	for (let i = 0; i < 60; i++) {
		if (await page.evaluate((s) => document.activeElement?.matches(s), selector)) return;
		await page.keyboard.press('Tab');
	}
	throw new Error(`${selector} cannot be reached by Tab`);
}
