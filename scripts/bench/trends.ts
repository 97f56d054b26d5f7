import type { Browser } from 'puppeteer-core';
import { v7 as uuid } from 'uuid';
import { normal, uniform } from '../../src/core/simulate';
import { trend, type TrendRequest } from '../../src/core/trend';
import type { SaveReading } from '../../src/lib/api/readings';
import { DESK, newDevice, visit } from '../../tests/support/browser';
import type { Row } from './row';

const DAYS = 3650;
const DAY = 86_400_000;
const PARAMETERS: [string, string, number, number][] = [
	['alkalinity', 'dKH', 8.3, 0.17],
	['calcium', 'mg/L', 430, 8],
	['magnesium', 'mg/L', 1330, 25],
	['potassium', 'mg/L', 400, 12],
	['nitrate', 'mg/L NO3', 8, 1.5],
	['phosphate', 'mg/L PO4', 0.06, 0.012],
	['salinity', 'PSU', 35, 0.4],
	['ph', 'pH', 8.15, 0.05]
];

/** Ten years of daily readings that wander about a level. */
function tenYears(
	parameter: string,
	unit: string,
	level: number,
	error: number,
	until: number
): TrendRequest {
	const gauss = normal(uniform(parameter.length));
	let at = level;
	const readings = Array.from({ length: DAYS }, (_, i) => {
		at += 0.3 * error * gauss() + 0.02 * (level - at);
		return {
			at: new Date(until - (DAYS - i) * DAY).toISOString(),
			value: at + error * gauss(),
			standardUncertainty: error,
			method: 'kit',
			trueness: error / 2
		};
	});
	return {
		parameter,
		unit,
		readings,
		now: new Date(until).toISOString(),
		band: { lower: level * 0.9, upper: level * 1.1 }
	};
}

/** The model over ten years of eight parameters, fit included, beside reading the same request as JSON. */
export function models(): Row[] {
	const until = Date.parse('2026-05-06T20:10:00Z');
	const requests = PARAMETERS.map((p) => tenYears(...p, until));
	trend(requests[0]!);
	const each = requests.map((request) => {
		const text = JSON.stringify(request);
		let started = performance.now();
		JSON.parse(text);
		const json = performance.now() - started;
		started = performance.now();
		if (!trend(request).ok) throw new Error('ten years cannot be followed');
		return { json, took: performance.now() - started };
	});
	const worst = Math.max(...each.map((e) => e.took));
	const sum = (key: 'json' | 'took') => each.reduce((total, e) => total + e[key], 0);
	return [
		{
			what: `model of ${DAYS} daily readings of eight parameters, the slowest`,
			measured: `${worst.toFixed(0)} ms`,
			against: `${(worst / 300).toFixed(2)} of the goal of 300 ms; all eight ${(sum('took') / sum('json')).toFixed(0)} times reading their JSON`
		}
	];
}

/** How many tanks a technician keeps here, and how many letters are on their way at once. */
const TANKS = 50;
const AT_ONCE = 12;

/** Fills a tank with ten years of alkalinity through the API, then opens its trends; and the rack of one tank among fifty. */
export async function trendPages(browser: Browser, origin: string): Promise<Row[]> {
	const page = await newDevice(browser, DESK);
	await visit(page, origin);
	const demo = page.url();
	let letter: SaveReading | undefined;
	page.on('request', (r) => {
		if (r.method() === 'PUT' && r.url().includes('/readings/'))
			letter = JSON.parse(r.postData()!) as SaveReading;
	});
	for (let i = 0; i < TANKS; i++) {
		const form = new URLSearchParams({
			id: uuid(),
			name: `Round ${i}`,
			netVolumeL: '200',
			timeZone: 'Europe/Dublin',
			lower: '7.5',
			upper: '9'
		});
		const made = await fetch(`${origin}/begin?/make`, {
			method: 'POST',
			body: form,
			headers: { origin },
			redirect: 'manual'
		});
		if (made.status >= 400) throw new Error(`a tank could not be made: ${made.status}`);
	}
	await visit(page, origin);
	const tank = await page.$eval('header select', (e) => (e as HTMLSelectElement).options[2]!.value);
	await visit(page, `${origin}/s/${tank}/bench/one?of=alkalinity`);
	await page.type('[data-entry]', '0.5');
	await page.waitForFunction(() => /\d/.test(document.querySelector('[data-testid=value]')!.textContent!));
	await page.click('form.bench button[type=submit]');
	while (!letter) await page.waitForNetworkIdle({ idleTime: 200 });
	const gauss = normal(uniform(7));
	const from = Date.parse(letter.takenAt);
	const days = Array.from({ length: DAYS }, (_, i) => i + 1);
	const started = performance.now();
	await Promise.all(
		Array.from({ length: AT_ONCE }, async () => {
			for (let day = days.pop(); day !== undefined; day = days.pop()) {
				const left = Math.round(100 * Math.min(0.62, Math.max(0.38, 0.5 + 0.02 * gauss()))) / 100;
				const body: SaveReading = {
					...letter!,
					sampleId: uuid(),
					takenAt: new Date(from - day * DAY).toISOString(),
					reading: { left }
				};
				const stored = await fetch(`${origin}/api/v1/readings/${uuid()}`, {
					method: 'PUT',
					headers: { 'content-type': 'application/json' },
					body: JSON.stringify(body)
				});
				if (!stored.ok) throw new Error(`a reading was refused: ${await stored.text()}`);
			}
		})
	);
	const saved = DAYS / ((performance.now() - started) / 1000);
	const open = async (path: string, ready: string) => {
		const times: number[] = [];
		for (let i = 0; i < 5; i++) {
			const begun = performance.now();
			await page.goto(`${origin}${path}`);
			await page.waitForSelector(ready);
			times.push(performance.now() - begun);
		}
		return { first: times[0]!, again: [...times].sort((a, b) => a - b)[2]! };
	};
	const trends = await open(`/s/${tank}/trends?of=alkalinity`, '[data-ready=true] canvas');
	const rack = await open(new URL(demo).pathname, 'a.tube');
	await page.browserContext().close();
	const ms = ({ first, again }: { first: number; again: number }) =>
		`${first.toFixed(0)} / ${again.toFixed(0)} ms`;
	return [
		{
			what: 'readings saved a second through the API, one transaction each',
			measured: saved.toFixed(0),
			against: `${AT_ONCE} on their way at once`
		},
		{
			what: `trends page with ${DAYS} readings, until drawn; first and again`,
			measured: ms(trends),
			against: `${(trends.first / 1000).toFixed(2)} / ${(trends.again / 1000).toFixed(2)} of the goal of 1 s`
		},
		{
			what: `rack page of a keeper of ${TANKS + 2} tanks, until it stands; first and again`,
			measured: ms(rack),
			against: `${(rack.again / trends.again).toFixed(2)} of the trends page`
		}
	];
}
