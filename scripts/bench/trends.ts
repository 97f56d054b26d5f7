import { DAY } from '../../src/core/base';
import { build } from 'esbuild';
import type { Browser } from 'puppeteer-core';
import { v7 as uuid } from 'uuid';
import { normal, uniform } from '../../src/core/simulate';
import { asOneWater, trend, type TrendRequest } from '../../src/core/trend';
import type { SaveReading } from '../../src/lib/api/readings';
import { DESK, newDevice, visit } from '../../tests/support/browser';
import type { Person } from '../../tests/support/person';
import { newTank } from '../../tests/support/load';
import { takeIn } from './book';
import type { Row } from './row';

const DAYS = 3650;
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
	const started = performance.now();
	if (!asOneWater(requests).ok) throw new Error('ten years cannot be followed');
	const together = performance.now() - started;
	const sum = (key: 'json' | 'took') => each.reduce((total, e) => total + e[key], 0);
	return [
		{
			what: `model of ${DAYS} daily readings of eight parameters, the slowest`,
			measured: `${worst.toFixed(0)} ms`,
			against: `${(worst / 300).toFixed(2)} of the goal of 300 ms; all eight ${(sum('took') / sum('json')).toFixed(0)} times reading their JSON`
		},
		{
			what: `the same eight as one water`,
			measured: `${together.toFixed(0)} ms`,
			against: `${(together / 1500).toFixed(2)} of the goal of 1.5 s; ${(together / sum('took')).toFixed(2)} of one after another`
		}
	];
}

/** The same model for one parameter in a web worker of the browser, beside the same here. */
export async function modelInWorker(browser: Browser): Promise<Row> {
	const request = tenYears(...PARAMETERS[0]!, Date.parse('2026-05-06T20:10:00Z'));
	const built = await build({
		stdin: {
			contents: `import { trend } from './src/core/trend';
				onmessage = ({ data }) => { const t = performance.now(); const r = trend(data); postMessage([r.ok, performance.now() - t]); };`,
			resolveDir: process.cwd(),
			loader: 'ts'
		},
		bundle: true,
		write: false,
		format: 'iife',
		logLevel: 'error'
	});
	const page = await browser.newPage();
	const times = await page.evaluate(
		async (code, asked) => {
			const worker = new Worker(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })));
			const taken: number[] = [];
			for (let i = 0; i < 3; i++) {
				const [ok, ms] = await new Promise<[boolean, number]>((done) => {
					worker.onmessage = ({ data }) => done(data as [boolean, number]);
					worker.postMessage(asked);
				});
				if (!ok) throw new Error('ten years cannot be followed');
				taken.push(ms);
			}
			return taken;
		},
		built.outputFiles[0]!.text,
		request as unknown as object
	);
	await page.close();
	const here = performance.now();
	trend(request);
	const server = performance.now() - here;
	const again = Math.min(...times);
	return {
		what: `model of ${DAYS} daily readings in a worker of the page, first and again`,
		measured: `${times[0]!.toFixed(0)} / ${again.toFixed(0)} ms`,
		against: `${(again / server).toFixed(2)} of the server’s (${server.toFixed(0)} ms)`
	};
}

/** How many tanks a technician keeps here, how many letters are saved one by one, and how many are on their way at once. */
const TANKS = 50;
/** A cheap tablet beside this machine. */
const SLOW_DOWN = 4;
const LETTERS = 1000;
const AT_ONCE = 12;

/** Ten years of eight parameters, daily, as a sheet. */
function tenYearsSheet(until: number): string {
	const columns = PARAMETERS.map((p) => tenYears(...p, until).readings);
	const rows = Array.from({ length: DAYS }, (_, i) =>
		[columns[0]![i]!.at, ...columns.map((c) => ('value' in c[i]! ? c[i].value.toPrecision(4) : ''))].join(',')
	);
	return [`time,${PARAMETERS.map(([name]) => name).join(',')}`, ...rows].join('\n');
}

/** Fills a tank with ten years of eight parameters, then opens its trends; and the rack of one tank among fifty. */
export async function trendPages(browser: Browser, keeper: Person, origin: string): Promise<Row[]> {
	const page = await newDevice(browser, DESK);
	await visit(page, origin);
	const demo = page.url();
	const tanks: string[] = [];
	for (let i = 0; i < TANKS; i++) tanks.push(await newTank(keeper, `Round ${i}`));
	const [tank, other] = tanks as [string, string];
	const { sources } = await keeper.json<{ sources: { id: string }[] }>(`/api/v1/systems/${other}`);
	const { methods } = await keeper.json<{ methods: { versionId: string; profile: { id: string } }[] }>(
		'/api/v1/methods'
	);
	const until = Date.parse('2026-05-06T20:00:00Z');
	let left = LETTERS;
	const started = performance.now();
	await Promise.all(
		Array.from({ length: AT_ONCE }, async () => {
			while (left-- > 0) {
				const body: SaveReading = {
					sourceId: sources[0]!.id,
					sampleId: uuid(),
					takenAt: new Date(until - left * DAY).toISOString(),
					methodVersionId: methods.find((m) => m.profile.id === 'alk-syringe-6')!.versionId,
					reading: { left: 0.5 }
				};
				const stored = await keeper.send('PUT', `/api/v1/readings/${uuid()}`, body);
				if (!stored.ok) throw new Error(`a reading was refused: ${await stored.text()}`);
			}
		})
	);
	const saved = LETTERS / ((performance.now() - started) / 1000);
	await takeIn(keeper, tank, tenYearsSheet(until));
	const open = async (path: string, ready: string, count = 1) => {
		const times: number[] = [];
		for (let i = 0; i < 5; i++) {
			const begun = performance.now();
			await page.goto(`${origin}${path}`);
			await page.waitForFunction((s, n) => document.querySelectorAll(s).length >= n, {}, ready, count);
			times.push(performance.now() - begun);
		}
		return { first: times[0]!, again: [...times].sort((a, b) => a - b)[2]! };
	};
	const trends = await open(`/s/${tank}/trends?of=alkalinity`, '[data-ready=true] canvas');
	await page.emulateCPUThrottling(SLOW_DOWN);
	const slow = await open(`/s/${tank}/trends?of=alkalinity`, '[data-ready=true] canvas');
	await page.emulateCPUThrottling(1);
	const all = await open(
		`/s/${tank}/trends?view=all`,
		'[data-testid=small] canvas[data-drawn]',
		PARAMETERS.length
	);
	const rack = await open(new URL(demo).pathname, 'a.tube');
	await page.browserContext().close();
	const ms = ({ first, again }: { first: number; again: number }) =>
		`${first.toFixed(0)} / ${again.toFixed(0)} ms`;
	const goal = ({ first, again }: { first: number; again: number }) =>
		`${(first / 1000).toFixed(2)} / ${(again / 1000).toFixed(2)} of the goal of 1 s`;
	return [
		{
			what: 'readings saved a second through the API, one transaction each',
			measured: saved.toFixed(0),
			against: `${AT_ONCE} on their way at once`
		},
		{
			what: `trends page of one of eight parameters with ${DAYS} readings each, until drawn; first and again`,
			measured: ms(trends),
			against: goal(trends)
		},
		{
			what: `the same with a processor ${SLOW_DOWN} times slower`,
			measured: ms(slow),
			against: `${(slow.again / 1500).toFixed(2)} of the goal of 1.5 s`
		},
		{
			what: 'all eight on one axis, until the last is drawn; first and again',
			measured: ms(all),
			against: goal(all)
		},
		{
			what: `rack page of a keeper of ${TANKS + 2} tanks, until it stands; first and again`,
			measured: ms(rack),
			against: `${(rack.again / trends.again).toFixed(2)} of the trends page`
		}
	];
}
