import { mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bench, type BenchResult } from '../../src/core/schedule';
import { SHIPPED_METHODS } from '../../src/core/methods';
import { requestOf, testsOf } from '../../src/lib/ui/bench/choices';
import { violationsIn } from '../support/axe';
import { NOW, startApplication } from '../support/application';
import {
	DESK,
	PATIENCE,
	PHONE,
	newDevice,
	openBrowser,
	reload,
	tabTo,
	tanksOf,
	visit
} from '../support/browser';
import { clear, keeperOf, save } from '../support/keeper';
import { SEEN, button, changed, doStep, frozenClock, text, turn } from '../support/test-session';

/** The session has an application of its own: in it hours pass, by a clock these tests turn. */
const folder = mkdtempSync(join(tmpdir(), 'tevrik-clock-'));
const clock = join(folder, 'now');
let elapsed = 0;
/** Whole or not at all: the server reads it while it is written. */
const setClock = () => {
	writeFileSync(`${clock}.next`, new Date(Date.parse(NOW) + elapsed).toISOString());
	renameSync(`${clock}.next`, clock);
};
setClock();

let browser: Browser;
let application: Awaited<ReturnType<typeof startApplication>>;
let tank: string;
let small: string;

beforeAll(async () => {
	application = await startApplication({ now: `file:${clock}` });
	browser = await openBrowser();
	[tank = '', small = ''] = await tanksOf(browser, application.origin);
});
afterAll(async () => {
	await browser?.close();
	await application?.stop();
	rmSync(folder, { recursive: true, force: true });
});

const devices = new Set<Page>();
/** A device whose clock goes on when the test says so. */
async function device(viewport: typeof DESK | typeof PHONE = DESK, like?: Page, keeps = false) {
	const page = like
		? Object.assign(await like.browserContext().newPage(), { wrongs: [] as string[] })
		: await newDevice(browser, viewport, { keeps });
	if (like) {
		await page.setViewport(viewport);
		page.setDefaultTimeout(PATIENCE);
	}
	await page.evaluateOnNewDocument(frozenClock);
	devices.add(page);
	page.once('close', () => devices.delete(page));
	return page;
}
/**
 * Lets time pass, on the devices and then on the server: an answer that is on its way meanwhile tells a time that has passed, which no
 * device believes. The other way round it would tell one that is yet to come, and the device would be ahead for good.
 */
async function pass(seconds: number): Promise<void> {
	elapsed += seconds * 1000;
	for (const page of devices)
		await page.evaluate((ms) => {
			(globalThis as unknown as { ahead: number }).ahead += ms;
		}, seconds * 1000);
	setClock();
}

const atBench = (page: Page, of = tank) => visit(page, `${application.origin}/s/${of}/bench`);
const planned = (page: Page) =>
	page.waitForFunction(
		() =>
			document.querySelector('[data-testid=total]') &&
			document.querySelector('.plan')?.getAttribute('aria-busy') === 'false'
	);
async function until(page: Page, there: () => Promise<boolean>): Promise<void> {
	for (let i = 0; i < 150 && !(await there()); i++) await doStep(page, pass);
	expect(await there(), 'the evening gets there').toBe(true);
}
const isOver = (page: Page) => async () => (await turn(page)) === 'over';
const shows = (page: Page, words: string) => async () =>
	(await turn(page)) !== 'over' && (await text(page, '.hands')).includes(words);

/** These tests, whatever is due. */
async function onlyThese(page: Page, names: string[]): Promise<void> {
	for (let left = 50; left > 0 && (await page.$('li[data-test] input')); left--) {
		const before = (await page.$$('li[data-test]')).length;
		await page.$eval('li[data-test] input', (e) => (e as HTMLInputElement).click());
		await page.waitForFunction((n) => document.querySelectorAll('li[data-test]').length < n, {}, before);
	}
	const addSelect = (await page.$$('section.tests select')).at(-2)!;
	for (const name of names) {
		const value = await page.evaluate(
			(e, wanted) => [...(e as HTMLSelectElement).options].find((o) => o.text === wanted)!.value,
			addSelect,
			name
		);
		await addSelect.select(value);
	}
}
const sent = (page: Page) =>
	page.waitForFunction(() => Object.keys(localStorage).every((key) => !key.startsWith('tevrik.outbox.')));

/** Takes the network from the page's service worker too, which asks for pages on its own. */
async function withoutNetwork(page: Page): Promise<{ end: () => Promise<void> }> {
	const target = await browser.waitForTarget(
		(t) => t.type() === 'service_worker' && t.browserContext() === page.browserContext()
	);
	const session = await target.createCDPSession();
	const emulate = (offline: boolean) =>
		session.send('Network.emulateNetworkConditions', {
			offline,
			latency: 0,
			downloadThroughput: -1,
			uploadThroughput: -1
		});
	await session.send('Network.enable');
	await emulate(true);
	await expect(page.evaluate(() => fetch('/s/nowhere').then((r) => r.status))).rejects.toThrow();
	return { end: async () => void (await emulate(false)) };
}

describe('a session at the bench', () => {
	it('is planned: what is due is ticked, the strip is the calculation, a forced order has its price', async () => {
		const page = await device();
		await atBench(page);
		await planned(page);
		const chosen = await page.$$eval('li[data-test]', (rows) =>
			rows.map((r) => r.getAttribute('data-test')!)
		);
		expect([...chosen].sort()).toEqual(
			[
				'alk-syringe-6',
				'ca-syringe-5',
				'k-drops-filter',
				'mg-syringe-2',
				'no3-card',
				'po4-meter',
				'sg-refractometer'
			].sort()
		);

		const methods = chosen.map((id) => {
			const profile = SHIPPED_METHODS.find((m) => m.id === id)!;
			return { id, versionId: id, profile };
		});
		const solve = (order: string[]) => {
			const tests = testsOf(
				methods.map((choice) => ({ choice })),
				[]
			);
			const ids = order.map((id) => tests.find((t) => t.methodVersionId === id)!.id);
			const outcome = bench(requestOf(tests, (id) => methods.find((m) => m.id === id)!.profile, 1, ids));
			return (outcome as { value: BenchResult }).value;
		};
		const strip = () =>
			page.$$eval('.strip .work', (all) => Math.max(...all.map((e) => Number(e.getAttribute('data-to')))));
		const best = solve([]);
		expect(best.proved).toBe(true);
		expect(await strip()).toBeCloseTo(best.makespan, 6);
		// Hands are in one place at a time, and every stretch is drawn where it is.
		const works = await page.$$eval('.strip .work', (all) =>
			all.map((e) => ({
				from: Number(e.getAttribute('data-from')),
				to: Number(e.getAttribute('data-to')),
				left: e.getBoundingClientRect().left - e.parentElement!.getBoundingClientRect().left,
				width: e.parentElement!.getBoundingClientRect().width
			}))
		);
		for (const [i, w] of works.entries()) {
			expect(w.left / w.width).toBeCloseTo(w.from / best.makespan, 2);
			if (i > 0) expect(w.from).toBeGreaterThanOrEqual(works[i - 1]!.to - 1e-6);
		}

		// Potassium has the longest wait; put last it costs what the calculation says.
		const last = async () => page.$$eval('li[data-test]', (rows) => rows.at(-1)!.getAttribute('data-test'));
		while ((await last()) !== 'k-drops-filter') {
			const order = await page.$$eval('li[data-test]', (rows) =>
				rows.map((r) => r.getAttribute('data-test')!)
			);
			await page.click('li[data-test=k-drops-filter] button[aria-label$=later]');
			await page.waitForFunction(
				(before) =>
					[...document.querySelectorAll('li[data-test]')].map((r) => r.getAttribute('data-test')).join() !==
						before && document.querySelector('.plan')?.getAttribute('aria-busy') === 'false',
				{},
				order.join()
			);
		}
		const order = await page.$$eval('li[data-test]', (rows) => rows.map((r) => r.getAttribute('data-test')!));
		const forced = solve(order);
		expect(await strip()).toBeCloseTo(forced.makespan, 6);
		expect(forced.makespan).toBeGreaterThan(best.makespan + 60);
		expect(await text(page, '[role=status]')).toContain(
			`costs ${Math.round((forced.makespan - best.makespan) / 60)} min more`
		);
		// Dragging a stretch to the front does the same the other way round.
		const potassium = (await page.$('.work[data-test]:last-child'))!;
		const box = (await potassium.boundingBox())!;
		const strips = (await (await page.$('.strip'))!.boundingBox())!;
		await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
		await page.mouse.down();
		await page.mouse.move(strips.x + 2, box.y + box.height / 2, { steps: 6 });
		await page.mouse.up();
		await page.waitForFunction(
			() => document.querySelector('li[data-test]')?.getAttribute('data-test') === 'k-drops-filter'
		);
		expect(await violationsIn(page)).toEqual([]);
		await button(page, 'Let Tevrik choose');
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('runs by keyboard alone: interrupted, re-planned, read late, followed from a second tab, saved once', async () => {
		const page = await device();
		await atBench(page);
		await planned(page);
		// pH and temperature are not due; without salinity six tests remain.
		await page.focus('li[data-test=sg-refractometer] input');
		await page.keyboard.press('Space');
		await planned(page);
		await button(page, 'Begin');
		await turn(page);
		expect(await page.$('header.hidden')).not.toBeNull();

		await until(page, shows(page, 'shake'));
		// A shake cut short by its keeper.
		await pass(2);
		await page.keyboard.press('Space');
		await page.waitForSelector('[data-testid=countdown]');
		await pass(8);
		const shaking = await turn(page);
		// What began it does not end it: that has a button of its own.
		await page.keyboard.press('Space');
		expect(await turn(page)).toBe(shaking);
		await button(page, 'End it');
		await changed(page, shaking);

		// The tab dies in the middle; another is opened at the same place, minutes later.
		await until(page, async () => (await page.$$('[data-clock]')).length > 0);
		const address = page.url();
		const before = await turn(page);
		const waiting = await text(page, '[data-clock]');
		const again = await device(DESK, page);
		await page.close();
		await pass(60);
		await visit(again, address);
		expect(await turn(again)).toBe(before);
		const seconds = (words: string) => words.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
		const left = seconds(await text(again, '[data-clock]'));
		expect(seconds(waiting) - left).toBe(60);

		// A second tab follows, and is followed.
		const other = await device(DESK, again);
		await visit(other, address);
		expect(await turn(other)).toBe(before);
		await doStep(other, pass);
		const there = await turn(other);
		await other.close();
		await again.bringToFront();
		expect(there).not.toBe(before);
		expect(await turn(again)).toBe(there);

		// A test is added in the middle; what has begun stays, and the rest is planned anew.
		await button(again, 'Change');
		await again.select(
			'.change select',
			await again.$$eval('.change option', (all) =>
				all.find((o) => o.textContent === 'Iron, card')!.getAttribute('value')!
			)
		);
		await again.waitForFunction(() => document.querySelector('.change')?.textContent?.includes('Iron'));
		await button(again, 'Back to the step');
		SEEN['Iron'] = '<0.02';

		// The telephone rings while the nitrate stands.
		await until(again, async () =>
			again.$$eval('[aria-label=Clocks] li', (all) => all.some((c) => c.textContent!.includes('Nitrate')))
		);
		await pass(11 * 60);
		await again.waitForFunction(() =>
			[...document.querySelectorAll('[aria-label=Clocks] li.late')].some((c) =>
				/Nitrate.*late.*too high/s.test(c.textContent!)
			)
		);
		await until(again, isOver(again));

		const sheet = await text(again, '[data-testid=results]');
		expect(sheet).toMatch(/mixing 8 s of \d+ s|mixing 8 s of 2:00/);
		expect(sheet).toMatch(/Nitrate.*matching \d+:\d\d late: the colour goes on deepening/);
		expect(await violationsIn(again)).toEqual([]);
		expect(await text(again, '[data-testid=finish]')).toBe('Save all 7');
		await again.click('[data-testid=finish]');
		await again.waitForFunction(() => location.pathname.endsWith('/rack'));
		await sent(again);
		await visit(again, `${application.origin}/s/${tank}/trends?of=nitrate`);
		// The mark stays with the reading.
		expect(await text(again, 'tbody tr')).toMatch(/between 5 and 10.*late/);
		await visit(again, `${application.origin}/s/${tank}/trends?of=calcium`);
		expect(await text(again, 'tbody tr')).toContain('0.14 left');
		expect(again.wrongs).toEqual([]);
		await again.browserContext().close();
	});

	it('pours in the wait of a test, once its water is drawn, and leads from its results to the plan, by thumb and by keys', async () => {
		const page = await device(PHONE);
		const plan = `${application.origin}/s/${small}/adjust`;
		const followed = (on: Page) =>
			on.waitForFunction(() => /The plan you follow/.test(document.body.textContent!));
		await visit(page, plan);
		await page.tap('[data-testid=follow]');
		await followed(page);
		await sent(page);
		await atBench(page, small);
		await page.waitForSelector('section.tests');
		await onlyThese(page, ['Nitrate, card, low and high range', 'Alkalinity, drops']);
		await planned(page);
		await button(page, 'Begin');
		await turn(page);
		const pours = () => text(page, '[data-testid=pours]');
		expect(await pours()).toMatch(/mL of Carbonate solution.*about \d\d:\d\d, while Nitrate waits/);
		SEEN['Alkalinity'] = '12';
		await until(page, async () => !!(await page.$('[data-testid=pour-now]')));
		// Before alkalinity's own water is drawn a pour would be measured with it.
		expect(
			await page.$$eval('[aria-label=Clocks] li', (all) => all.map((c) => c.textContent).join())
		).toMatch(/Nitrate/);
		expect(await text(page, '.hands')).toMatch(
			/Time to pour, until.*(mL of Carbonate solution|Change [\d.]+ L of water).*then Nitrate/
		);
		expect(await violationsIn(page)).toEqual([]);
		// What is next is offered as soon as one is ticked, until there is none.
		await page.tap('[data-testid=pour-now] button');
		await page.waitForFunction(() => {
			const next = document.querySelector<HTMLElement>('[data-testid=pour-now] button');
			next?.click();
			return !next;
		});
		expect(await pours()).toMatch(/✓ done/);
		await until(page, isOver(page));
		const evening = page.url();
		await page.tap('[data-testid=finish-adjust]');
		await page.waitForFunction(() => location.pathname.endsWith('/adjust'));
		await sent(page);
		await page.waitForFunction(() =>
			/✓ done/.test(document.querySelector('[data-testid=days]')!.textContent!)
		);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();

		const keys = await device(DESK);
		await visit(keys, evening);
		await keys.waitForSelector('[data-testid=results]');
		await tabTo(keys, /Show the plan/);
		await keys.keyboard.press('Enter');
		await followed(keys);
		const done = (yes: boolean) =>
			keys.waitForFunction(
				(wanted) =>
					!!document.querySelector('[data-testid=days] [aria-label^="Undo: "][aria-label*="Carb"]') ===
					wanted,
				{},
				yes
			);
		await tabTo(keys, /^Undo: [\d.]+ mL of Carbonate solution/);
		await keys.keyboard.press('Enter');
		await done(false);
		await sent(keys);
		await tabTo(keys, /^Done: [\d.]+ mL of Carbonate solution/);
		await keys.keyboard.press('Enter');
		await done(true);
		await sent(keys);
		expect(keys.wrongs).toEqual([]);
		await keys.browserContext().close();
	});

	it('checks a kit with known water, blind, and the next reading is surer of its kit', async () => {
		const page = await device();
		/** Of the newest reading of the tank by that kit: its error, and what it rests on. */
		const newest = () =>
			page.evaluate(async (id) => {
				const found = await fetch(`/api/v1/systems/${id}/lines?parameter=alkalinity`);
				const { lines } = (await found.json()) as {
					lines: {
						line: string;
						methodName: string;
						sourceKind: string;
						standardUncertainty: number;
						proof: { by: string } | null;
					}[];
				};
				return lines.find(
					(l) => l.line === 'reading' && l.sourceKind === 'tank' && /6 mL/.test(l.methodName)
				)!;
			}, tank);
		await visit(page, `${application.origin}/s/${tank}/shelf/proof?of=alkalinity`);
		const before = await newest();
		expect(before.proof).toBeNull();
		await tabTo(page, /in an evening, twice/);
		await page.keyboard.press('Enter');
		await page.waitForSelector('section.tests');
		await planned(page);
		// More often than proposed, beside a test of the tank's own.
		const list = (await page.$$('section.tests select')).at(-2)!;
		const check = await list.evaluate(
			(e) =>
				[...(e as HTMLSelectElement).options].find((o) =>
					/^Alkalinity, syringe, 6 mL, with Reference/.test(o.text)
				)!.value
		);
		for (let i = 0; i < 2; i++) {
			await list.select(check);
			await page.waitForFunction((n) => document.querySelectorAll('li[data-test]').length === n, {}, 3 + i);
		}
		await list.select(check.split('@')[0]!);
		await planned(page);
		expect(await violationsIn(page)).toEqual([]);
		const names = await page.$$eval('li[data-test] .font-medium', (all) =>
			all.map((e) => e.textContent!.trim())
		);
		expect(names.toSorted()).toEqual([
			'Alkalinity',
			...[1, 2, 3, 4].map((i) => `Alkalinity, Reference solution, ${i} of 4`)
		]);
		for (const [i, read] of ['0.52', '0.51', '0.52', '0.53'].entries())
			SEEN[`Alkalinity, Reference solution, ${i + 1} of 4`] = read;
		SEEN['Alkalinity'] = '0.49';
		await button(page, 'Begin');
		await until(page, async () => !!(await page.$('section.reading')));
		await page.type('[data-entry]', '0.52');
		expect(await text(page, 'section.reading')).toMatch(/hidden until every test of the evening is over/);
		expect(await text(page, '[data-testid=value]')).toBe('–');
		expect(await text(page, 'section.reading')).not.toMatch(/± \d/);
		await clear(page);
		await until(page, isOver(page));
		expect(await text(page, '[data-testid=repeated]')).toMatch(
			/^◎ Alkalinity, Reference solution, 4 times: [78]\.\d+ ± 0\.\d+ dKH as one\. They agree\. One more is not worth its \d+ (s|min): it would make ± 0\.\d+\.$/
		);
		await page.click('[data-testid=finish]');
		await page.waitForFunction(() => location.pathname.endsWith('/rack'));
		await sent(page);
		const now = await newest();
		expect(now.proof?.by).toBe('Reference solution');
		expect(now.standardUncertainty).toBeLessThan(0.95 * before.standardUncertainty);
		await visit(page, `${application.origin}/s/${tank}/bench/one?of=alkalinity`);
		await clear(page);
		await page.type('[data-entry]', '0.52');
		expect(await text(page, '[data-testid=proved]')).toBe('kit checked with Reference solution');
		// What was read of the bottle is no reading of the tank.
		await visit(page, `${application.origin}/s/${tank}/readings`);
		expect((await text(page, 'main')).match(/· Reference solution/g)).toHaveLength(4);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('two kits disagree: the same water by both, twice each, on a phone at night, and a verdict', async () => {
		const page = await device(PHONE);
		const keeper = keeperOf(application.origin, tank);
		for (const [kit, read] of [
			['Alkalinity, syringe, 6 mL', '0.5'],
			['Alkalinity, drops', '15']
		] as const) {
			await keeper.bench(page, kit);
			await page.$eval('[data-entry], input[data-instrument]', (e) => (e as HTMLElement).focus());
			await page.keyboard.type(read);
			await save(page);
		}
		const checks = `${application.origin}/s/${tank}/shelf/proof?of=alkalinity`;
		await visit(page, checks);
		await page.tap('[data-testid=same-water]');
		await page.waitForSelector('section.tests');
		await planned(page);
		await page.evaluate(() => document.documentElement.classList.add('dark'));
		expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
		expect(await violationsIn(page)).toEqual([]);
		for (const [i, [syringe, drops]] of [
			['0.5', '15'],
			['0.51', '15']
		].entries()) {
			SEEN[`Alkalinity, syringe, 6 mL, ${i + 1} of 2`] = syringe!;
			SEEN[`Alkalinity, drops, ${i + 1} of 2`] = drops!;
		}
		await button(page, 'Begin');
		await until(page, isOver(page));
		expect(await page.$$eval('[data-testid=repeated]', (all) => all.length)).toBe(2);
		expect(await violationsIn(page)).toEqual([]);
		await page.tap('[data-testid=finish]');
		await page.waitForFunction(() => location.pathname.endsWith('/rack'));
		await sent(page);
		await visit(page, checks);
		expect(await text(page, '[data-testid=difference]')).toMatch(
			/in 3 pairs, more than .*syringe, 6 mL agrees with a reference: it is the other that is off/
		);
		expect(page.wrongs).toEqual([]);
		await page.browserContext().close();
	});

	it('runs on a phone with each result saved as it comes, goes on without a network, and another device follows', async () => {
		const page = await device(PHONE, undefined, true);
		await atBench(page, small);
		await page.waitForSelector('section.tests');
		await onlyThese(page, ['Alkalinity, drops', 'Calcium, drops']);
		const saveSelect = (await page.$$('section.tests select')).at(-1)!;
		await saveSelect.select('each');
		await planned(page);
		expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
		expect(await violationsIn(page)).toEqual([]);
		await button(page, 'Begin');
		await turn(page);
		await sent(page);

		await page
			.waitForFunction(async () => !!(await caches.match(location.href)))
			.catch(async (failure) => {
				const worker = await page.evaluate(async () => {
					const { installing, waiting, active } = (await navigator.serviceWorker.getRegistration()) ?? {};
					const states = [installing, waiting, active].map((w) => w?.state ?? '-');
					return [location.href, !!navigator.serviceWorker.controller, ...states, ...(await caches.keys())];
				});
				throw new Error(`not kept: ${worker.join(' ')}`, { cause: failure });
			});

		const follower = await device(DESK);
		await visit(follower, page.url());
		expect(await turn(follower)).toBe(await turn(page));
		const before = await turn(page);
		await pass(5);
		await page.tap('.press');
		await changed(page, before);
		const now = await turn(page);
		await follower.waitForFunction(
			(there) => document.querySelector('[data-turn]')?.getAttribute('data-turn') === there,
			{},
			now
		);

		// Without the network this device goes on, and says what is not sent yet.
		await page.setOfflineMode(true);
		SEEN['Alkalinity'] = '12';
		SEEN['Calcium'] = '27';
		for (let i = 0; i < 3; i++) {
			const at = await turn(page);
			await pass(5);
			if (await page.$('section.reading')) break;
			await page.tap('.press');
			await changed(page, at);
		}
		await page.waitForFunction(() => /not sent yet/.test(document.body.textContent!));
		expect(await turn(follower)).toBe(now);
		// Even a reload finds the session where it stood.
		const here = await turn(page);
		const offline = await withoutNetwork(page);
		await reload(page);
		expect(await turn(page)).toBe(here);
		await offline.end();
		await page.setOfflineMode(false);
		await page.evaluate(() => dispatchEvent(new Event('online')));
		await until(page, isOver(page));
		await page.tap('[data-testid=finish]');
		await page.waitForFunction(() => location.pathname.endsWith('/rack'));
		await sent(page);
		await follower.waitForSelector('[data-testid=results]');
		await visit(follower, `${application.origin}/s/${small}/trends?of=calcium`);
		expect(await text(follower, 'tbody tr')).toContain('27 drops');
		await page.browserContext().close();
		await follower.browserContext().close();
	});

	it('a sample goes to a lab by post, its sheet comes back after days, and proves a kit of that session', async () => {
		const page = await device(PHONE);
		const at = (path: string) => visit(page, `${application.origin}/s/${tank}/${path}`);
		await keeperOf(application.origin, tank).bench(page, 'Calcium, syringe, 5 mL');
		await clear(page);
		await page.type('[data-entry]', '0.12');
		await save(page);
		await at('shelf/lab');
		expect(await violationsIn(page)).toEqual([]);
		await button(page, 'Draw a sample now');
		await page.waitForSelector('[data-testid=posted]');
		expect(await text(page, '[data-testid=posted]')).toMatch(/S-\d+ drawn .*its sheet is back on/);
		expect(await page.$('[data-testid=posted] button')).toBeNull();
		const labs = () =>
			page.evaluate(async (id) => {
				const found = await fetch(`/api/v1/systems/${id}/lab-sheets`);
				return (await found.json()) as { answers: { results: object[] }[]; posted: { id: string }[] };
			}, tank);
		const { posted } = await labs();
		const early = await page.evaluate(
			async (id, sample) => (await fetch(`/api/v1/systems/${id}/lab-sheets/${sample}`)).text(),
			tank,
			posted[0]!.id
		);
		expect(early).toMatch(/is still at the lab/);
		await pass(5 * 86_400 + 60);
		await at('shelf/lab');
		await button(page, 'Take its sheet in');
		await page.waitForSelector('[data-testid=answer]');
		expect(await text(page, '[data-testid=taken]')).toMatch(/✓ \d+ answers of Boathouse Lab \(simulated\)/);
		expect(await text(page, '[data-testid=answer]')).toMatch(
			/Calcium [\d.]+ ± [\d.]+ mg\/L Calcium, syringe, 5 mL: [\d.]+ ± [\d.]+ (○ no difference shown|[▲▼])/
		);
		expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
		await page.evaluate(() => document.documentElement.classList.add('dark'));
		expect(await violationsIn(page)).toEqual([]);
		// A sheet of another lab, as a file; the same file a second time adds nothing.
		const file = join(folder, 'sheet.csv');
		writeFileSync(
			file,
			'lab;Quay Lab\nsample;Q7\ndrawn;2026-04-02 20:00\nparameter;result;unit;±\nMagnesium;1315,5;mg/L;20\nGold;1;mg/L;1\n'
		);
		for (let i = 0; i < 2; i++) {
			await page.waitForSelector('[data-testid=sheet]');
			const input = (await page.$('[data-testid=sheet]')) as unknown as ElementHandle<HTMLInputElement>;
			await input.uploadFile(file);
			await page.waitForFunction(() =>
				/1 answer of Quay Lab.*Left out: line 6/s.test(
					document.querySelector('[data-testid=taken]')?.textContent ?? ''
				)
			);
			expect((await labs()).answers).toHaveLength(2);
		}
		await at('shelf/proof?of=calcium');
		expect(await text(page, '[data-testid=checks]')).toMatch(/in \d+ tests? of Boathouse Lab \(simulated\)/);
		expect(page.wrongs.filter((w) => !/status of 422/.test(w))).toEqual([]);
		await page.browserContext().close();
	});
});
