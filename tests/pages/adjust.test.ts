import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { violationsIn } from '../support/axe';
import { origin } from '../support/house';
import { DESK, PHONE, newDevice, openBrowser, tabTo, tanksOf, visit } from '../support/browser';
import { keeperOf, save } from '../support/keeper';

let browser: Browser;
/** The demo’s small tank: its alkalinity is too low, and what brings it stands on the shelf. */
let tank: string;
beforeAll(async () => {
	browser = await openBrowser();
	tank = (await tanksOf(browser, origin))[1]!;
});
afterAll(() => browser?.close());

const room = (path = 'adjust') => `${origin}/s/${tank}/${path}`;
const sent = (page: Page) =>
	page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));
const text = (page: Page, selector: string) =>
	page.$eval(selector, (e) => e.textContent!.replace(/\s+/g, ' ').trim());
const followed = (page: Page) =>
	page.waitForFunction(() => /The plan you follow/.test(document.body.textContent!));

describe('the room Adjust', () => {
	it('goes from the rack to a ticked pour and back by keys alone, and the other wishes say their price', async () => {
		const page = await newDevice(browser, DESK);
		await visit(page, room('rack'));
		await tabTo(page, /Show the plan/);
		await page.keyboard.press('Enter');
		await page.waitForSelector('[data-testid=days]');
		expect(await text(page, '[data-testid=levels]')).toMatch(/Alkalinity.*▼ low, in range/);
		// What is not sure is not poured for, and says so.
		expect(await text(page, '[data-testid=says]')).toMatch(/[Tt]est (again )?before dosing/);
		expect(await text(page, '[data-testid=cautions]')).toMatch(/burns eyes and skin.*vet/);
		await tabTo(page, /What would the others take/);
		await page.keyboard.press('Enter');
		await page.waitForFunction(() =>
			[...document.querySelectorAll('[data-wish]')].every((e) => /\d pours?/.test(e.textContent!))
		);
		// The page’s own worker finds what the server found.
		const first = await text(page, '[data-wish=soonest]');
		const poured = (words: string) => Number(/(\d+) pours?/.exec(words)![1]);
		const glasses = await page.$$eval('[data-kind=dose]', (all) => all.length);
		expect(poured(first)).toBe(glasses);
		expect(await violationsIn(page)).toEqual([]);

		await tabTo(page, /Follow this plan/);
		await page.keyboard.press('Enter');
		await followed(page);
		await sent(page);
		await tabTo(page, /^Done: [\d.]+ mL of Carbonate solution/);
		await page.keyboard.press('Enter');
		await page.waitForFunction(() =>
			/✓ done/.test(document.querySelector('[data-testid=days]')!.textContent!)
		);
		await sent(page);
		expect(await violationsIn(page)).toEqual([]);
		await visit(page, room('trends?of=alkalinity'));
		expect(await text(page, 'main')).toMatch(/Carbonate solution/);
		await visit(page, room());
		await tabTo(page, /^Undo: /);
		await page.keyboard.press('Enter');
		await page.waitForFunction(
			() => !/✓ done/.test(document.querySelector('[data-testid=days]')!.textContent!)
		);
		await sent(page);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('is ticked off by thumb, of another amount with a decimal comma, and at the bench', async () => {
		const page = await newDevice(browser, PHONE);
		await visit(page, room());
		if (await page.$('[data-testid=follow]')) await page.tap('[data-testid=follow]');
		await followed(page);
		await sent(page);
		const step = '[data-day="0"] [data-kind=dose]';
		await page.waitForSelector(`${step} button[aria-expanded]`);
		await page.tap(`${step} button[aria-expanded]`);
		const field = `${step} form input`;
		await page.waitForSelector(field);
		await page.$eval(field, (e) => {
			(e as HTMLInputElement).value = '';
			e.dispatchEvent(new Event('input', { bubbles: true }));
		});
		await page.type(field, 'much');
		await page.waitForSelector(`${step} [role=alert]`);
		await page.$eval(field, (e) => ((e as HTMLInputElement).value = ''));
		await page.type(field, '3,5');
		expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width);
		await page.tap(`${step} form button[type=submit]`);
		await page.waitForFunction((s) => /✓ done/.test(document.querySelector(s)!.textContent!), {}, step);
		await sent(page);
		const events = await page.evaluate(
			async (id) => (await (await fetch(`/api/v1/systems/${id}/events`)).json()) as { events: unknown[] },
			tank
		);
		expect(JSON.stringify(events)).toContain('"amountMl":3.5');
		await page.tap(`${step} button[aria-label^="Undo"]`);
		await page.waitForFunction((s) => !/✓ done/.test(document.querySelector(s)!.textContent!), {}, step);
		await sent(page);

		await visit(page, room('bench'));
		// The session also offers the plan's water change.
		const pour = '[data-testid=pours] button[aria-label^="Done"][aria-label*="mL"]';
		await page.waitForSelector(pour);
		// The session's strip above it has its height once it is planned.
		await page.waitForSelector('.plan[aria-busy=false]');
		await page.tap(pour);
		await page.waitForFunction(() =>
			/✓ done/.test(document.querySelector('[data-testid=pours]')?.textContent ?? '')
		);
		await sent(page);
		// It stays with its undo once the server has it.
		expect(await text(page, '[data-testid=pours]')).toMatch(/✓ done/);
		await visit(page, room());
		await page.waitForFunction((s) => /✓ done/.test(document.querySelector(s)!.textContent!), {}, step);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('has a glass moved to another day by keys, with the price of each day, and put back', async () => {
		const page = await newDevice(browser, DESK);
		await visit(page, room('adjust?prefer=soonest'));
		await tabTo(page, /^Move: [\d.]+ mL of Carbonate solution/);
		await page.keyboard.press('Enter');
		const days = '[data-testid=move-to] button';
		await page.waitForFunction(
			(s) => [...document.querySelectorAll(s)].every((b) => !b.textContent!.includes('…')),
			{},
			days
		);
		expect(await page.$$eval(days, (all) => all.map((b) => b.textContent!).join())).toMatch(
			/out of range|in range|more doses?|doses? fewer/
		);
		expect(await violationsIn(page)).toEqual([]);
		const moved = await text(page, '[data-day="0"] [data-kind=dose]');
		await tabTo(page, /^\s*Friday/);
		await page.keyboard.press('Enter');
		await page.waitForSelector('[data-testid=moved]');
		expect(await text(page, '[data-testid=moved]')).toMatch(
			/Moved: [\d.]+ mL of Carbonate solution from today to Friday\. ?Beside the plan without it: .*(?:more|fewer)/s
		);
		// What it says is the focus, so that whoever hears the page hears it.
		expect(await page.evaluate(() => document.activeElement?.getAttribute('data-testid'))).toBe('moved');
		expect(await page.$('[data-day="0"] [data-kind=dose]')).toBeNull();
		expect(await text(page, '[data-day="2"]')).toMatch(/mL of Carbonate solution/);
		expect(await violationsIn(page)).toEqual([]);
		await tabTo(page, /^\s*Put back/);
		await page.keyboard.press('Enter');
		await page.waitForFunction(() => !document.querySelector('[data-testid=moved]'));
		await page.waitForSelector('[data-day="0"] [data-kind=dose]');
		expect((await text(page, '[data-day="0"] [data-kind=dose]')).slice(0, 8)).toBe(moved.slice(0, 8));
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('is made again from a new reading, and says what changed and why', async () => {
		const page = await newDevice(browser, DESK);
		const keeper = keeperOf(origin, tank);
		await visit(page, room());
		if (await page.$('[data-testid=follow]')) await page.click('[data-testid=follow]');
		await followed(page);
		await sent(page);
		for (let i = 0; i < 2; i++) {
			await keeper.bench(page, 'Alkalinity, syringe, 4 mL, by what was used');
			await page.type('[data-entry]', '0.46');
			await save(page);
		}
		await visit(page, room());
		expect(await text(page, '[data-testid=changes]')).toMatch(/Alkalinity .*(expected|to dose|waits)/);
		expect(await violationsIn(page)).toEqual([]);
		await page.evaluate(() =>
			[...document.querySelectorAll('button')]
				.find((b) => b.textContent!.trim() === 'Plan again from here')!
				.click()
		);
		await sent(page);
		await page.waitForFunction(() => !document.querySelector('[data-testid=changes]'));
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('is asked for without a bottle and without water changes', async () => {
		const page = await newDevice(browser, DESK);
		await visit(page, room('adjust?prefer=fewest&noChangeBefore=never'));
		const names = await page.$$eval('fieldset label', (all) => all.map((e) => e.textContent!.trim()));
		expect(names).toContain('Carbonate solution');
		await page.evaluate(() =>
			[...document.querySelectorAll('fieldset label')]
				.find((e) => e.textContent!.includes('Carbonate'))!
				.querySelector('input')!
				.click()
		);
		await page.waitForFunction(() => location.search.includes('without='));
		await page.waitForFunction(
			() => !/of Carbonate solution/.test(document.querySelector('[data-testid=days]')!.textContent!)
		);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});
});

it('something to pour is read from its label’s sentence as it is typed, and stands on the shelf', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, room('shelf/pour'));
	await page.type('input[name=name]', 'Potash');
	await page.type('input[name=label]', '2 mL in 10 gal raises potassium by 1,5 ppm');
	await page.waitForSelector('[data-testid=does]');
	expect(await text(page, 'form')).toMatch(/Understood: 2 mL in 37.9 L raises potassium by 1.5 mg\/L/);
	await page.type('input[name=amount]', '250');
	await page.type('input[name=price]', '12,50');
	expect(await violationsIn(page)).toEqual([]);
	await page.keyboard.press('Enter');
	await page.waitForFunction(() =>
		/Potash/.test(document.querySelector('[data-testid=bottles]')?.textContent ?? '')
	);
	expect(await text(page, '[data-testid=bottles]')).toMatch(/Potash.*250 mL left/);
	// A recipe of more than dissolves is refused beside its place, and nothing is lost.
	await visit(page, room('shelf/pour'));
	await page.evaluate(() =>
		[...document.querySelectorAll('[role=radio]')]
			.find((b) => b.textContent!.includes('Mixed at home'))!
			.dispatchEvent(new MouseEvent('click', { bubbles: true }))
	);
	await page.type('input[name=grams]', '500');
	await page.waitForFunction(() => /dissolves at 20 °C/.test(document.querySelector('form')!.textContent!));
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('what a change of water brings, and a net volume measured by a pour', async () => {
	const page = await newDevice(browser, DESK);
	await visit(page, room('adjust/water'));
	expect(await text(page, '[data-testid=brings]')).toMatch(/Alkalinity dKH/);
	const field = async (name: string, value: string) => {
		await page.$eval(`input[name=${name}]`, (e) => ((e as HTMLInputElement).value = ''));
		await page.type(`input[name=${name}]`, value);
	};
	await field('largest', '25 %');
	await field('every', '10');
	await page.waitForFunction(() => /A change of 25 % takes/.test(document.body.textContent!));
	await page.click('main form button[type=submit]');
	await page.waitForFunction(() => /Plans go by it now/.test(document.body.textContent!));
	await field('poured', '40');
	await field('before', '400');
	await field('after', '460');
	await page.waitForSelector('[data-testid=volume]');
	expect(await text(page, '[data-testid=volume]')).toMatch(/The pour alone says 27.3 L/);
	await page.evaluate(() =>
		[...document.querySelectorAll('button')].find((b) => /^Use /.test(b.textContent!))!.click()
	);
	await page.waitForFunction(
		() => !/Now 25 L/.test(document.querySelector('[aria-label="Net volume"]')!.textContent!)
	);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('what is poured and dosed by hand names its bottle, and a dosing pump written so is known to the plan', async () => {
	const page = await newDevice(browser, DESK);
	const press = (words: string) =>
		page.evaluate(
			(w) =>
				[...document.querySelectorAll<HTMLElement>('main button')]
					.find((b) => b.textContent!.trim() === w)!
					.click(),
			words
		);
	const pick = (name: string) =>
		page.$eval(
			'[data-bottle]',
			(e, wanted) => {
				const list = e as HTMLSelectElement;
				list.value = [...list.options].find((o) => o.text === wanted)!.value;
				list.dispatchEvent(new Event('change', { bubbles: true }));
			},
			name
		);
	await visit(page, room('trends?of=alkalinity'));
	await press('Dosing rate');
	await pick('Carbonate solution');
	await page.type('[data-amount]', '2,5');
	await page.waitForFunction(() => /2.5 mL of Carbonate solution a day/.test(document.body.textContent!));
	expect(await violationsIn(page)).toEqual([]);
	await page.keyboard.press('Enter');
	await sent(page);
	const plan = () =>
		page.evaluate(
			async (id) =>
				(await (await fetch(`/api/v1/systems/${id}/plan`)).json()) as {
					request: { dosing: { mlPerDay: number }[] };
				},
			tank
		);
	expect((await plan()).request.dosing).toContainEqual(expect.objectContaining({ mlPerDay: 2.5 }));
	await press('Undo');
	await sent(page);
	expect((await plan()).request.dosing).not.toContainEqual(expect.objectContaining({ mlPerDay: 2.5 }));
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('one pour by itself, and waters mixed for what is wanted', async () => {
	const page = await newDevice(browser, PHONE);
	await visit(page, room('adjust/pour'));
	await page.$eval('main select', (e) => {
		const list = e as HTMLSelectElement;
		list.value = [...list.options].find((o) => o.text === 'Carbonate solution')!.value;
		list.dispatchEvent(new Event('change', { bubbles: true }));
	});
	await page.type('input[name=change]', '1,5');
	await page.waitForFunction(() =>
		/over 3 days/.test(document.querySelector('[data-testid=dose]')!.textContent!)
	);
	const poured = await page.$eval('input[name=amount]', (e) => Number((e as HTMLInputElement).value));
	expect(await text(page, '[data-testid=dose]')).toMatch(
		/(in one go|hours apart).*sodium.*burns eyes and skin/s
	);
	// The other way round: what that amount does is the change that was asked for.
	await page.$eval('input[name=amount]', (e) => ((e as HTMLInputElement).value = ''));
	await page.type('input[name=amount]', String(poured));
	expect(await page.$eval('input[name=change]', (e) => Number((e as HTMLInputElement).value))).toBeCloseTo(
		1.5,
		2
	);
	await page.type('input[name=amount]', 'x');
	await page.waitForSelector('[role=alert]');
	expect(await violationsIn(page)).toEqual([]);

	// One tap is not two: what was written down is asked no more, and can be undone.
	await page.$eval('input[name=amount]', (e) => ((e as HTMLInputElement).value = ''));
	await page.type('input[name=amount]', '0,5');
	const pour = () =>
		page.evaluate(() =>
			[...document.querySelectorAll('button')].find((b) => b.textContent!.trim() === 'I poured this')?.click()
		);
	await page.waitForFunction(() => /I poured this/.test(document.body.textContent!));
	await pour();
	await page.waitForFunction(() => /Saved: 0.5 mL of Carbonate solution/.test(document.body.textContent!));
	await pour();
	await sent(page);
	const poured05 = await page.evaluate(
		async (id) =>
			JSON.stringify(await (await fetch(`/api/v1/systems/${id}/events`)).json()).split('"amountMl":0.5')
				.length - 1,
		tank
	);
	expect(poured05).toBe(1);
	await page.evaluate(() =>
		[...document.querySelectorAll('main button')]
			.find((b) => b.textContent!.trim() === 'Undo')!
			.dispatchEvent(new MouseEvent('click', { bubbles: true }))
	);
	await sent(page);
	await visit(page, room('adjust/mix'));
	const field = (label: string) => `input[aria-label="${label}"]`;
	await page.type(field('General hardness of tap water'), '16');
	await page.type(field('General hardness wanted'), '6');
	await page.waitForFunction(() =>
		/tap water 3[78] %/.test(document.querySelector('[data-testid=shares]')!.textContent!)
	);
	await page.type('input[name=now]', '0');
	await page.type('input[name=wanted]', '35');
	await page.waitForFunction(() => /of dry mix, into purified water/.test(document.body.textContent!));
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width);
	expect(await violationsIn(page)).toEqual([]);
	// A reload loses nothing.
	await visit(page, room('adjust/mix'));
	await page.waitForFunction(() =>
		/tap water 3[78] %/.test(document.querySelector('[data-testid=shares]')!.textContent!)
	);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});
