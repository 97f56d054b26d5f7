import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, PHONE, newDevice, openBrowser, tabTo, tanksOf, visit } from '../support/browser';
import { clear, keeperOf, save } from '../support/keeper';

let browser: Browser;
let tank: string;
beforeAll(async () => {
	browser = await openBrowser();
	tank = (await tanksOf(browser, origin))[0]!;
});
afterAll(() => browser?.close());

const room = (path: string) => `${origin}/s/${tank}/${path}`;
const text = (page: Page, selector: string) =>
	page.$eval(selector, (e) => e.textContent!.replace(/\s+/g, ' ').trim());
async function fill(page: Page, name: string, value: string): Promise<void> {
	await page.$eval(`input[name=${name}]`, (e) => ((e as HTMLInputElement).value = ''));
	await page.type(`input[name=${name}]`, value);
}
const inReferences = (page: Page, words: string) =>
	page.waitForFunction(
		(w) => document.querySelector('[data-testid=references]')!.textContent!.includes(w),
		{},
		words
	);

describe('a kit against what is known', () => {
	it('is checked with a reference by its label, from the shelf and back, and knows its error better', async () => {
		const page = await newDevice(browser, DESK);
		await visit(page, room('shelf'));
		await page.evaluate(() =>
			[...document.querySelectorAll<HTMLElement>('main a')]
				.find((a) => a.textContent!.trim() === 'Kit checks')!
				.click()
		);
		await page.waitForSelector('[data-testid=cards]');
		expect(await text(page, '[data-testid=cards]')).toMatch(/Alkalinity, syringe, 6 mL .*never checked/);
		// What is wrong stands beside its place, and what was typed stays.
		await fill(page, 'name', 'Bottle of the school');
		await fill(page, 'value', '8,05');
		await page.click('form[aria-label="Another reference"] button[type=submit]');
		await page.waitForSelector('form[aria-label="Another reference"] [role=alert]');
		await fill(page, 'error', '0,1');
		await page.click('form[aria-label="Another reference"] button[type=submit]');
		await inReferences(page, 'Bottle of the school');
		expect(await text(page, '[data-testid=references]')).toMatch(/Bottle of the school 8.05 ± 0.1 dKH/);
		expect(await violationsIn(page)).toEqual([]);

		const levelError = () =>
			page.evaluate(async (id) => {
				const { request } = (await (await fetch(`/api/v1/systems/${id}/plan`)).json()) as {
					request: { parameters: { parameter: string; now: { standardDeviation: number } }[] };
				};
				return request.parameters.find((p) => p.parameter === 'alkalinity')!.now.standardDeviation;
			}, tank);
		const unproved = await levelError();
		const check = (
			await page.$$eval('[data-testid=references] a', (all) => all.map((a) => (a as HTMLAnchorElement).href))
		)[0]!;
		await visit(page, check);
		expect(await text(page, 'main')).toMatch(/Bottle of the school/);
		for (const read of ['0.52', '0.51', '0.52', '0.52']) {
			await clear(page);
			await page.type('[data-entry]', read);
			await save(page);
		}
		await visit(page, room('shelf/proof?of=alkalinity'));
		const said = await text(page, '[data-testid=checks]');
		expect(said).toMatch(
			/Agrees in 4 tests of Bottle of the school: off by [+−]0\.\d ± 0\.\d dKH\. Its own error is ± 0.\d+ dKH now, where ± 0.\d+ was allowed for; levels and plans go by that\./
		);
		const [now, before] = [...said.matchAll(/(?:error is|where) ± ([\d.]+)/g)].map((m) => Number(m[1]));
		expect(now!).toBeLessThan(before!);
		await page.waitForSelector('[data-testid=checks] canvas[data-drawn]');
		expect(await text(page, '[data-testid=cards]')).toMatch(/Alkalinity, syringe, 6 mL \d+×.*2 pairs.*today/);
		expect(await violationsIn(page)).toEqual([]);
		// What the check taught is used: the tank's own level is known better, though no test of its water came.
		expect(await levelError()).toBeLessThan(0.97 * unproved);
		// It rests on its own water alone.
		await visit(page, room('trends?of=alkalinity'));
		expect(await text(page, 'tbody')).not.toMatch(/Bottle of the school/);
		// What its door says is what the page says.
		const checks = await page.evaluate(
			async (id) =>
				(await (await fetch(`/api/v1/systems/${id}/proof?of=alkalinity`)).json()) as {
					kits: { check: { tests: number; result: { verdict: string } } | null }[];
				},
			tank
		);
		expect(checks.kits.flatMap((k) => (k.check ? [[k.check.tests, k.check.result.verdict]] : []))).toEqual([
			[4, 'agrees']
		]);
		// A reference that was past its date when it was tested proves nothing.
		const checksUntil = (until: string) =>
			page.evaluate(
				async (of, systemId, until) => {
					const content = { values: { alkalinity: { value: 8.05, standardUncertainty: 0.051 } }, until };
					const about = { systemId, kind: 'reference', name: 'Bottle of the school', content };
					await fetch(`/api/v1/sources/${of}`, {
						method: 'PUT',
						headers: { 'content-type': 'application/json' },
						body: JSON.stringify(about)
					});
					const its = (await (await fetch(`/api/v1/systems/${systemId}/proof?of=alkalinity`)).json()) as {
						kits: { check: unknown }[];
					};
					return its.kits.filter((k) => k.check).length;
				},
				new URL(check).searchParams.get('water')!,
				tank,
				until
			);
		expect(await checksUntil('2026-01-31')).toBe(0);
		expect(await checksUntil('2027-01-31')).toBe(1);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('or by salt that was weighed in, on a phone', async () => {
		const page = await newDevice(browser, PHONE);
		await visit(page, room('shelf/proof?of=potassium'));
		await page.evaluate(() =>
			[...document.querySelectorAll<HTMLElement>('[role=radio]')]
				.find((b) => b.textContent!.trim() === 'By weighing salt')!
				.click()
		);
		await page.waitForSelector('input[name=salt]');
		await fill(page, 'name', 'Weighed at the kitchen table');
		await fill(page, 'salt', 'NaCl');
		await fill(page, 'grams', '1,26');
		await fill(page, 'litres', '2');
		await page.tap('form[aria-label="Another reference"] button[type=submit]');
		await page.waitForFunction(() =>
			/▲/.test(document.querySelector('form[aria-label="Another reference"] [role=alert]')?.textContent ?? '')
		);
		await fill(page, 'salt', 'KCl');
		await page.tap('form[aria-label="Another reference"] button[type=submit]');
		await inReferences(page, 'Weighed at the kitchen table');
		// 1.26 g of KCl in 2 L hold 330 mg/L; a scale with a tenth of a gram is the worst of it.
		expect(await text(page, '[data-testid=references]')).toMatch(/Weighed at the kitchen table 330.\d ± 1\d/);
		expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width);
		expect(await violationsIn(page)).toEqual([]);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});
});

it('two kits on the same water: whether they differ, what makes it, and what would tell', async () => {
	const page = await newDevice(browser, DESK);
	const keeper = keeperOf(origin, tank);
	for (const [kit, read] of [
		['Alkalinity, syringe, 6 mL', '0.5'],
		['Alkalinity, drops', '15'],
		['Alkalinity, syringe, 6 mL', '0.5'],
		['Alkalinity, drops', '15']
	] as const) {
		await keeper.bench(page, kit);
		await page.$eval('[data-entry], input[data-instrument]', (e) => (e as HTMLElement).focus());
		await page.keyboard.type(read);
		await save(page);
	}
	await visit(page, room('shelf/proof?of=alkalinity'));
	expect(await text(page, '[data-testid=difference]')).toMatch(
		/Alkalinity, (syringe, 6 mL|drops) reads [\d.]+ ± [\d.]+ dKH (less|more) than Alkalinity, (drops|syringe, 6 mL) in 2 pairs, more than .*Alkalinity, syringe, 6 mL agrees with a reference: it is the other that is off, and a check of it would say by how much\./
	);
	await page.waitForSelector('[data-testid=pair] canvas[data-drawn]');
	expect(await text(page, '[data-testid=cards]')).toMatch(/Scatter of repeats/);
	expect(await violationsIn(page)).toEqual([]);
	await page.evaluate(() => document.documentElement.classList.add('dark'));
	expect(await violationsIn(page)).toEqual([]);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('a kit that reads high: its keeper has that taken off, sees where it is, and takes it back', async () => {
	const page = await newDevice(browser, DESK);
	const checks = room('shelf/proof?of=alkalinity');
	await visit(page, checks);
	const kit = await page.$eval('[data-testid=pair] select', (e) => {
		const its = [...(e as HTMLSelectElement).options].find((o) => o.text === 'Alkalinity, drops')!;
		return its.value;
	});
	const bottle = await page.$eval('[data-testid=references] a', (e) =>
		new URL((e as HTMLAnchorElement).href).searchParams.get('water')!
	);
	for (let i = 0; i < 4; i++) {
		await visit(page, room(`bench/one?of=alkalinity&with=${kit}&water=${bottle}`));
		await page.$eval('[data-entry], input[data-instrument]', (e) => (e as HTMLElement).focus());
		await page.keyboard.type('15');
		await save(page);
	}
	await visit(page, checks);
	expect(await text(page, '[data-testid=checks]')).toMatch(/Reads [\d.]+ ± [\d.]+ dKH too high in 4 tests/);
	const drops = async () => {
		const found = (await page.evaluate(
			async (id, of) =>
				(await (
					await fetch(`/api/v1/systems/${id}/lines?parameter=alkalinity&method=${of}`)
				).json()) as unknown,
			tank,
			kit
		)) as { lines: { value: number; sourceKind: string; proof: { takenOff?: number } | null }[] };
		return found.lines.filter((l) => l.sourceKind === 'tank');
	};
	const asRead = (await drops())[0]!.value;
	await tabTo(page, /Take [\d.]+ dKH off what this pack reads, since /);
	await page.keyboard.press('Enter');
	await page.waitForSelector('[data-testid=taken]');
	expect(await text(page, '[data-testid=checks]')).toMatch(/are taken off what it reads, by your word/);
	expect(await violationsIn(page)).toEqual([]);
	// It holds from the day of the first check on: what is read now is nearer, surer, and says so.
	await visit(page, room(`bench/one?of=alkalinity&with=${kit}`));
	await page.$eval('[data-entry], input[data-instrument]', (e) => (e as HTMLElement).focus());
	await page.keyboard.type('15');
	expect(await text(page, '[data-testid=proved]')).toMatch(/^[\d.]+ dKH taken off, checked with /);
	await save(page);
	const [now] = await drops();
	expect(now!.proof!.takenOff!).toBeGreaterThan(0);
	expect(now!.value).toBeCloseTo(asRead - now!.proof!.takenOff!, 6);
	for (const there of ['readings', 'trends?of=alkalinity']) {
		await visit(page, room(there));
		expect(await text(page, 'main'), there).toMatch(/◆ [\d.]+ dKH taken off, checked with/);
	}
	await visit(page, checks);
	await page.click('[data-testid=taken] button');
	await page.waitForFunction(() => !document.querySelector('[data-testid=taken]'));
	// Without a reference: what is found of an amount that was added.
	await page.evaluate(() =>
		[...document.querySelectorAll('summary')].find((e) => /Add a known amount/.test(e.textContent!))!.click()
	);
	for (const [name, value] of [
		['plain', '8,0'],
		['spiked', '10,0'],
		['added', '2']
	] as const)
		await fill(page, name, value);
	expect(await text(page, '[data-testid=recovery]')).toMatch(/^100 ± [\d.]+ % of what was added is found/);
	expect(await violationsIn(page)).toEqual([]);
	expect((await drops())[0]).toMatchObject({ value: asRead });
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('a tank’s water beside the sea at its own salinity, and beside another water', async () => {
	const page = await newDevice(browser, PHONE);
	await visit(page, room('shelf/waters'));
	expect(await text(page, '[data-testid=beside]')).toMatch(
		/Calcium mg\/L.*(no difference shown|beyond what errors explain)/
	);
	expect(await text(page, 'main')).toMatch(/beside sea water at its own salinity, 34.\d PSU/);
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width);
	expect(await violationsIn(page)).toEqual([]);
	// Of a water of which nothing was read that is said, and how to begin.
	await page.evaluate(() => {
		const list = [...document.querySelectorAll<HTMLSelectElement>('main select')][1]!;
		list.value = [...list.options].find((o) => o.text === 'Mixing bin')!.value;
		list.dispatchEvent(new Event('change', { bubbles: true }));
	});
	await page.waitForFunction(() => /Measure the same levels of both/.test(document.body.textContent!));
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});
