import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { read, utils } from '@e965/xlsx';
import type { Habits } from '../../src/lib/api/habits';
import { origin } from '../support/house';
import { violationsIn } from '../support/axe';
import { DESK, demoCookie, newDevice, openBrowser, visit } from '../support/browser';
import { person, shownOnce, type Person } from '../support/person';

/** Two people who look at the same tank. */
const THEIRS: Record<string, Habits> = {
	'dKH, SG, F and gallons': {
		language: 'en-GB',
		units: { alkalinity: 'dKH', salinity: 'SG 25/25', temperature: 'F', volume: 'US gal', length: 'in' }
	},
	'ppm, PSU, C and litres': {
		language: 'en-GB',
		units: { alkalinity: 'ppm CaCO3', nitrate: 'mg/L NO3-N', phosphate: 'ug/L P' }
	}
};
/** Numbers with a unit that this person does not count in, and levels that only another unit has. */
const WRONG: Record<string, RegExp[]> = {
	'dKH, SG, F and gallons': [
		/[\d.]+ (?:ppm CaCO|PSU|°C|L of water|L\b(?! of purified))/,
		/\b3[345](?:\.\d)? ± /
	],
	'ppm, PSU, C and litres': [/[\d.]+ (?:dKH|SG|°F|US gal|mg\/L NO₃(?!-N)|mg\/L PO₄)/, /\b1\.02\d+ ± /]
};
const PAGES = [
	'rack',
	'bench',
	'bench/one?of=alkalinity',
	'bench/one?of=salinity',
	'bench/one?of=temperature',
	'readings',
	'readings?of=salinity',
	'trends?of=alkalinity',
	'trends?of=salinity',
	'trends?of=temperature',
	'trends?of=nitrate',
	'trends?view=all',
	'adjust',
	'adjust/water',
	'adjust/pour',
	'adjust/mix',
	'shelf',
	'shelf/pour',
	'shelf/proof?of=alkalinity',
	'shelf/waters',
	'shelf/lab',
	'practice',
	'tank',
	'wall',
	'import',
	'reminders'
];

let browser: Browser;
let tank: string;
const people: Record<string, Person> = {};

beforeAll(async () => {
	browser = await openBrowser();
	const odile = person(origin, await demoCookie(origin));
	const { systems } = await odile.json<{ systems: { id: string }[] }>('/api/v1/systems');
	tank = systems[0]!.id;
	people['dKH, SG, F and gallons'] = odile;
	const link = shownOnce(
		await (await odile.form(`/s/${tank}/tank?/invite`, { role: 'keeper' })).text(),
		'link'
	);
	const other = person(origin);
	const joined = await other.form(`/signup?invitation=${link.split('/').pop()!}`, {
		name: 'Percy',
		email: 'percy@boathouse.example',
		password: 'a heron at the sluice'
	});
	expect(joined.status).toBe(303);
	await other.form(`/invite/${link.split('/').pop()!}`, {});
	people['ppm, PSU, C and litres'] = other;
	for (const [name, habits] of Object.entries(THEIRS)) {
		const saved = await people[name]!.send('PUT', '/api/v1/habits', habits);
		expect(saved.status).toBe(200);
	}
});
afterAll(async () => {
	await browser?.close();
});

/** The page of somebody who is signed in already. */
async function deviceOf(who: Person): Promise<Page & { wrongs: string[] }> {
	const page = await newDevice(browser, DESK);
	await page.browserContext().setCookie(
		...who.cookie.split('; ').map((c) => {
			const [name, value] = c.split(/=(.*)/s) as [string, string];
			return { name, value, domain: new URL(origin).hostname, path: '/' };
		})
	);
	return page;
}
/** All that a page says: its words, what stands in fields, what a screen reader is told; without what is chosen from. */
const wordsOf = (page: Page) =>
	page.evaluate(() => {
		const main = document.querySelector('main')!.cloneNode(true) as HTMLElement;
		// Instruments and hints are in units of their own; lists hold what could be chosen.
		for (const e of main.querySelectorAll('select, option, .instrument, [data-testid=far], script'))
			e.remove();
		const said = [...main.querySelectorAll('[aria-label], [aria-valuetext]')].map((e) =>
			[e.getAttribute('aria-label'), e.getAttribute('aria-valuetext')].join(' ')
		);
		return [main.innerText ?? main.textContent, ...said].join('\n').replace(/\s+/g, ' ');
	});

it.each(Object.keys(THEIRS))('every page speaks in %s', async (name) => {
	const page = await deviceOf(people[name]!);
	const found: string[] = [];
	for (const room of PAGES) {
		await visit(page, `${origin}/s/${tank}/${room}`);
		if (room.includes('view=all'))
			await page.waitForFunction(() => !document.body.textContent!.includes('working it out'));
		const words = await wordsOf(page);
		for (const wrong of WRONG[name]!) {
			const said = new RegExp(`.{0,60}${wrong.source}.{0,30}`).exec(words)?.[0];
			if (said) found.push(`${room}: ${said}`);
		}
	}
	expect(found).toEqual([]);
	expect(page.wrongs).toEqual([]);
	await page.browserContext().close();
});

it('the same stored values stand behind both, on pages and in files', async () => {
	const level = async (name: string, of: string) => {
		const page = await deviceOf(people[name]!);
		await visit(page, `${origin}/s/${tank}/trends?of=${of}`);
		const said = await page.$eval('tbody tr td:nth-child(2)', (e) => e.textContent!.trim());
		await page.browserContext().close();
		return said;
	};
	const [us, si] = Object.keys(THEIRS) as [string, string];
	const numberIn = (text: string) => Number(/[\d.]+/.exec(text)![0]);
	const [dKH, ppm] = [await level(us, 'alkalinity'), await level(si, 'alkalinity')];
	expect([dKH, ppm].map((t) => t.replace(/[\d.]+/g, 'n'))).toEqual(['n ± n dKH', 'n ± n ppm CaCO₃']);
	expect(numberIn(ppm) / numberIn(dKH)).toBeCloseTo(17.85, 0);
	const [sg, psu] = [await level(us, 'salinity'), await level(si, 'salinity')];
	expect(sg).toMatch(/^1\.02\d+ ± 0\.00\d+ SG 25\/25$/);
	expect(psu).toMatch(/^3\d(\.\d)? ± [\d.]+ PSU$/);

	for (const [name, units] of [
		[us, { alkalinity: 'dKH', salinity: 'SG 25/25', temperature: 'F', nitrate: 'mg/L NO3' }],
		[si, { alkalinity: 'ppm CaCO3', salinity: 'PSU', temperature: 'C', nitrate: 'mg/L NO3-N' }]
	] as const) {
		const csv = await (await people[name]!.ask(`/api/v1/systems/${tank}/readings.csv`)).text();
		const rows = csv
			.trim()
			.split('\r\n')
			.slice(1)
			.map((line) => line.split(','));
		const bytes = await (await people[name]!.ask(`/api/v1/systems/${tank}/readings.xlsx`)).arrayBuffer();
		const book = read(new Uint8Array(bytes));
		const cells = utils.sheet_to_json<Record<string, unknown>>(book.Sheets[book.SheetNames[0]!]!);
		expect(cells).toHaveLength(rows.length);
		for (const [parameter, unit] of Object.entries(units)) {
			const ours = rows.filter((r) => r[2] === parameter);
			expect(new Set(ours.map((r) => r[4])), `${name}: ${parameter}`).toEqual(new Set([unit]));
			const theirs = cells.filter((c) => c['parameter'] === parameter);
			expect(theirs.map((c) => String(c['reading']))).toEqual(ours.map((r) => r[3]));
		}
	}
	// Programs have what is stored, whoever's token they hold.
	for (const name of [us, si]) {
		const { readings } = await people[name]!.json<{ readings: { unit: string }[] }>(
			`/api/v1/systems/${tank}/readings?parameter=alkalinity&limit=5`
		);
		expect(new Set(readings.map((r) => r.unit))).toEqual(new Set(['dKH']));
	}
});

it('what is typed without a unit is in the person’s own, and what nobody touched stays as it was stored', async () => {
	const [, si] = Object.keys(THEIRS) as [string, string];
	const page = await deviceOf(people[si]!);
	await visit(page, `${origin}/s/${tank}/tank`);
	const bands = async () =>
		(
			await people[si]!.json<{ bands: Record<string, { lower: number; upper: number }> }>(
				`/api/v1/systems/${tank}`
			)
		).bands;
	const before = await bands();
	const field = (name: string) => `input[name="${name}"]`;
	expect(await page.$eval(field('alkalinity.upper'), (e) => (e as HTMLInputElement).value)).toMatch(
		/^1[4-7]\d$/
	);
	await page.$eval(field('alkalinity.upper'), (e) => (e as HTMLInputElement).select());
	await page.keyboard.type('170');
	await page.keyboard.press('Enter');
	await page.waitForFunction(() => document.body.textContent!.includes('The bands are saved'));
	const after = await bands();
	expect(after['alkalinity']!.upper).toBeCloseTo(170 / 17.848, 2);
	expect(after['alkalinity']!.lower).toBe(before['alkalinity']!.lower);
	expect({ ...after, alkalinity: null }).toEqual({ ...before, alkalinity: null });

	// A dose in their unit, stored in ours.
	await visit(page, `${origin}/s/${tank}/trends?of=alkalinity`);
	await page.evaluate(() =>
		[...document.querySelectorAll('button')].find((b) => b.textContent!.trim() === 'Dose')!.click()
	);
	await page.waitForSelector('[data-amount]');
	await page.type('[data-amount]', '9');
	await page.keyboard.press('Enter');
	await page.waitForFunction(() => document.body.textContent!.includes('Saved: dose of 9 ppm CaCO₃'));
	await page.waitForFunction(() => Object.keys(localStorage).every((k) => !k.startsWith('tevrik.outbox.')));
	const { events } = await people[si]!.json<{ events: { event: { kind: string; change?: number } }[] }>(
		`/api/v1/systems/${tank}/events`
	);
	expect(events.findLast((e) => e.event.kind === 'dose')!.event.change).toBeCloseTo(9 / 17.848, 3);
	await page.browserContext().close();
});

it('units and dates are chosen in the account, and used at once', async () => {
	const [us] = Object.keys(THEIRS) as [string, string];
	const page = await deviceOf(people[us]!);
	await visit(page, `${origin}/account`);
	expect(await violationsIn(page, '[data-habits]')).toEqual([]);
	await page.select('[data-habits] select', 'de-DE');
	await page.waitForFunction(() =>
		/8,1 dKH.*1,0264 SG.*77 °F.*06\.05\.2026/.test(
			document.querySelector('[data-testid=sample]')!.textContent!
		)
	);
	await page.click('[data-habits] button[type=submit]');
	await page.waitForFunction(() =>
		document.body.textContent!.includes('Saved: used everywhere from now on.')
	);
	await visit(page, `${origin}/s/${tank}/trends?of=salinity`);
	expect(await page.$eval('tbody tr td:nth-child(2)', (e) => e.textContent!.trim())).toMatch(
		/^1,02\d+ ± 0,00\d+ SG/
	);
	await page.browserContext().close();
});
