import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Method } from '../../src/core/instruments';
import { SHIPPED_METHODS, checkMethod, read, withOwnChart } from '../../src/core/methods';
import { observeIdeal, uniform } from '../../src/core/simulate';
import { parse } from '../../src/lib/server/validation';
import { packed } from '../../src/lib/ui/shelf/kit-link';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, newDevice, openBrowser, tanksOf, visit } from '../support/browser';
import { keeperOf, save, showing } from '../support/keeper';
import { patiently } from '../support/patient';

let browser: Browser;
/** What these tests save goes to the second tank; the first stays as the demo left it, for judging what is odd. */
let keeper: ReturnType<typeof keeperOf>;

beforeAll(async () => {
	browser = await openBrowser();
	keeper = keeperOf(origin, (await tanksOf(browser, origin))[1]!);
});
afterAll(() => browser?.close());

const device = () => newDevice(browser, DESK);
/** Something is pasted into a field, as from a sheet. */
const pasteInto = (page: Page, selector: string, text: string) =>
	page.$eval(
		selector,
		(field, pasted) => {
			const clipboardData = new DataTransfer();
			clipboardData.setData('text', pasted);
			field.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
		},
		text
	);
/** What is done with a kit on the shelf. */
const cardOf = (page: Page, kit: string, act: string) =>
	page.evaluate(
		(name, wanted) => {
			const card = [...document.querySelectorAll('li')].find(
				(c) => c.querySelector('h2')?.textContent === name
			)!;
			[...card.querySelectorAll<HTMLElement>('a, button')].find((a) => a.textContent === wanted)!.click();
		},
		kit,
		act
	);

describe('the shelf', () => {
	const leaflet = [
		'1.00 0',
		'0.90 1.6',
		'0.80 3.3',
		'0.70 9.4',
		'0.60 6.5',
		'0.50 8.1',
		'0.40 9.8',
		'0.30 11.4'
	];

	it('makes a method from a leaflet, names the mistyped line, uses it, and changes it without touching old readings', async () => {
		const page = await device();
		await keeper.at(page, 'shelf/new');
		await page.select('[data-kit] select', 'alkalinity');
		await pasteInto(page, '[data-leaflet] input', leaflet.join('\n'));
		await page.waitForFunction(() =>
			document.querySelector('[data-suspect]')?.textContent?.includes('should probably be 4.9')
		);
		expect(await page.$eval('[data-suspect]', (e) => e.textContent)).toContain('Line 4');
		expect(await page.$eval('[data-testid=fit]', (e) => e.textContent)).toMatch(
			/for each mL used.*\bleft\b/s
		);
		await page.$eval('[data-name]', (e) => (e as HTMLInputElement).select());
		await page.keyboard.type('My own alkalinity');
		await page.click('[data-kit] button[type=submit]');
		await page.waitForFunction(() =>
			document
				.querySelector('[data-testid=on-shelf]')
				?.textContent?.includes('My own alkalinity is on your shelf')
		);

		await keeper.at(page, 'shelf');
		await cardOf(page, 'My own alkalinity', 'Change');
		await page.waitForSelector('[aria-label="Words of step 1"]');
		for (const [label, text] of [
			['Words of step 1', 'Add 3 drops.'],
			['Seconds of step 1', '30'],
			['Caution of step 1', 'Stains.']
		])
			await page.$eval(
				`[aria-label="${label}"]`,
				(e, typed) => {
					(e as HTMLInputElement).value = typed;
					e.dispatchEvent(new Event('change', { bubbles: true }));
				},
				text!
			);
		await page.click('form button[type=submit]');
		await page.waitForFunction(() =>
			[...document.querySelectorAll('h2')].some((h) => h.textContent === 'My own alkalinity')
		);

		await keeper.bench(page, 'My own alkalinity');
		await page.type('[data-entry]', '0.48');
		await showing(page, '8.5 ± 0.4 dKH');
		await save(page);
		const before = await keeper.newest(page, 'alkalinity');

		await keeper.at(page, 'shelf?');
		await cardOf(page, 'My own alkalinity', 'Change');
		await page.waitForFunction(() => document.body.textContent?.includes('Version 2.'));
		const step = (label: string) =>
			page.$eval(`[aria-label="${label} of step 1"]`, (e) => (e as HTMLInputElement).value);
		expect([await step('Words'), await step('Seconds'), await step('Caution')]).toEqual([
			'Add 3 drops.',
			'30',
			'Stains.'
		]);
		const perMl = '::-p-xpath(//label[contains(., "for each mL used")]//input)';
		await page.$eval(perMl, (e) => {
			(e as HTMLInputElement).value = '20';
			e.dispatchEvent(new Event('change', { bubbles: true }));
		});
		await page.click('form button[type=submit]');
		await page.waitForFunction(() => document.querySelector('h1')?.textContent === 'Shelf');
		expect(await keeper.newest(page, 'alkalinity')).toBe(before);
		await page.browserContext().close();
	});

	it('a chart that is unusual as a whole stands without it until its keeper has looked again', async () => {
		const page = await device();
		await keeper.at(page, 'shelf/new');
		await page.select('[data-kit] select', 'alkalinity');
		// The column of values stands a row too low.
		const lower = ['1.00 1.7', '0.90 3.4', '0.80 5.0', '0.70 6.7', '0.60 8.4', '0.50 10.1', '0.40 11.8'];
		await pasteInto(page, '[data-leaflet] input', lower.join('\n'));
		await page.waitForSelector('[data-testid=asks]');
		expect(await page.$eval('[data-testid=asks]', (e) => e.textContent)).toMatch(
			/row too high or too low.*1[.]7/s
		);
		const button = () => page.$eval('[data-kit] button[type=submit]', (e) => e.textContent);
		expect(await button()).toMatch(/without its chart/);
		await page.click('[data-testid=asks] button');
		await page.waitForFunction(() => !document.querySelector('[data-testid=asks]'));
		expect(await button()).not.toMatch(/without its chart/);
		// Another line is another chart.
		await pasteInto(page, '[data-leaflet] tr:last-child input', '0.30 13.4\n0.20 15.1');
		await page.waitForSelector('[data-testid=asks]');
		await page.browserContext().close();
	});

	it('takes in a shared file, and refuses a broken one with the place and the reason', async () => {
		const page = await device();
		await keeper.at(page, 'shelf');
		const folder = mkdtempSync(join(tmpdir(), 'tevrik-files-'));
		const put = async (name: string, text: string) => {
			writeFileSync(join(folder, name), text);
			const input = (await page.$('input[type=file]')) as ElementHandle<HTMLInputElement>;
			await input.uploadFile(join(folder, name));
		};
		const shared = { ...SHIPPED_METHODS[0]!, name: 'From a friend' };
		await put('friend.json', JSON.stringify(shared));
		await page.waitForFunction(() =>
			[...document.querySelectorAll('h2')].some((h) => h.textContent === 'From a friend')
		);
		await put('broken.json', '{"format":');
		await page.waitForFunction(() =>
			document.querySelector('[role=alert]')?.textContent?.includes('is not a JSON file')
		);
		await put('hostile.json', JSON.stringify({ ...shared, scale: { kind: 'linear', perMl: -3 } }));
		await page.waitForFunction(() =>
			document.querySelector('[role=alert]')?.textContent?.includes('/scale/perMl must be more than 0')
		);
		rmSync(folder, { recursive: true });
		const schema = (await (await fetch(`${origin}/api/v1/methods/schema`)).json()) as {
			$id: string;
			oneOf: unknown[];
		};
		expect(schema).toMatchObject({ $id: 'tevrik.method/1' });
		expect(schema.oneOf).toHaveLength(5);
		await page.browserContext().close();
	});

	it('puts another keeper’s kit on the shelf from its link; a link that was cut off says so', async () => {
		const page = await device();
		const kit = { ...withOwnChart(SHIPPED_METHODS[0]!), name: 'From across the water' };
		const link = await packed(kit);
		await visit(page, `${origin}/kit#${link.slice(0, 60)}`);
		await page.waitForFunction(() => /holds no kit/.test(document.body.textContent!));
		await page.evaluate((part) => (location.hash = part), link);
		await page.waitForFunction(() => document.querySelector('h1')?.textContent === 'From across the water');
		expect(await page.$eval('main', (e) => e.textContent)).toMatch(
			/for each mL used.*Hold it against your own leaflet/s
		);
		expect(await violationsIn(page)).toEqual([]);
		await page.click('main button');
		await page.waitForFunction(() =>
			[...document.querySelectorAll('h2')].some((h) => h.textContent === 'From across the water')
		);
		await page.browserContext().close();
	});

	it('counts a pack down by readings', async () => {
		const page = await device();
		const left = async () => {
			await keeper.at(page, 'shelf');
			return page.evaluate(() => {
				const card = [...document.querySelectorAll('li')].find((c) =>
					c.textContent?.includes('Magnesium, syringe, 2 mL')
				)!;
				return Number(/(\d+) tests left/.exec(card.textContent!)![1]);
			});
		};
		const before = await left();
		await keeper.bench(page, 'Magnesium, syringe, 2 mL');
		await page.type('[data-entry]', '0.31');
		await save(page);
		expect(await left()).toBe(before - 1);
		await page.click('[aria-label="Pack C is used up"]');
		await page.waitForFunction(() =>
			document.querySelector('[role=status]')?.textContent?.includes('Pack C is off')
		);
		await page.waitForSelector('[aria-label="Pack C is used up"]', { hidden: true });
		await page.click('[role=status] button');
		await page.waitForSelector('[aria-label="Pack C is used up"]');
		await page.browserContext().close();
	});
});

it('no mutilated method file gets through or breaks the server', async () => {
	const random = uniform(42);
	const pick = <T>(list: T[]): T => list[Math.floor(random() * list.length)]!;
	const hostile = [
		null,
		-1,
		1e308,
		'',
		'x'.repeat(5000),
		[],
		{},
		true,
		'__proto__',
		[[0, 0]],
		'../../etc',
		NaN,
		{ $ref: '#' },
		0.5
	];
	const mutate = (value: unknown): unknown => {
		if (Array.isArray(value) && value.length && random() < 0.8) {
			const copy = [...(value as unknown[])];
			const i = Math.floor(random() * copy.length);
			if (random() < 0.3) copy.splice(i, 1);
			else copy[i] = mutate(copy[i]);
			return copy;
		}
		if (value && typeof value === 'object' && !Array.isArray(value) && random() < 0.9) {
			const copy: Record<string, unknown> = { ...(value as Record<string, unknown>) };
			const key = pick(Object.keys(copy));
			if (random() < 0.2) delete copy[key];
			else if (random() < 0.15) copy[`${key}x`] = copy[key];
			else copy[key] = mutate(copy[key]);
			return copy;
		}
		return pick(hostile);
	};
	const passed: unknown[] = [];
	for (let i = 0; i < 10_000; i++) {
		let file: unknown = pick(SHIPPED_METHODS);
		for (let k = 0; k <= random() * 3; k++) file = mutate(file);
		const text = JSON.stringify(file);
		const parsed = parse(Method, text === undefined ? undefined : JSON.parse(text));
		if (!parsed.ok) {
			expect(parsed.problems.length).toBeGreaterThan(0);
			continue;
		}
		if (checkMethod(parsed.value).length) continue;
		// What gets through can be read: a number that is one, or a problem in words.
		const other = parsed.value.takeAway
			? { other: { [parsed.value.takeAway.parameter]: { value: 1, standardUncertainty: 0.1 } } }
			: {};
		const result = read({ method: parsed.value, reading: observeIdeal(parsed.value, 8), ...other });
		if (result.ok && result.value.value !== null) expect(Number.isFinite(result.value.value)).toBe(true);
		if (i % 50 === 0) passed.push(parsed.value);
	}
	// And over the wire: nothing answers with a server's error.
	for (const profile of [...passed.slice(0, 40), ...hostile]) {
		const answer = await patiently(() =>
			fetch(`${origin}/api/v1/calc/reading`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ method: profile, reading: { left: 0.5 } })
			})
		);
		expect(answer.status).toBeLessThan(500);
	}
});
