import type { Browser } from 'puppeteer-core';
import { DESK, visit } from '../../tests/support/browser';
import type { Row } from './row';

/** One frame of a 60 Hz screen, ms. */
const FRAME = 1000 / 60;
/** A cheap tablet beside this machine. */
const SLOW_DOWN = 4;
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** First page at a cold cache with a slowed processor, and the script it loads, compressed. */
export async function firstLoad(browser: Browser, origin: string, cookie: string): Promise<Row[]> {
	const times: number[] = [];
	const paints: number[] = [];
	let bytes = 0;
	// The server has served a page before, as it has for anyone but the very first.
	await fetch(origin, { headers: { cookie } });
	const cookies = cookie.split('; ').map((c) => c.split(/=(.*)/s) as [string, string]);
	for (let i = 0; i < 5; i++) {
		const context = await browser.createBrowserContext();
		for (const [name, value] of cookies)
			await context.setCookie({ name, value, domain: new URL(origin).hostname });
		const page = await context.newPage();
		await page.setViewport(DESK);
		const session = await page.createCDPSession();
		await session.send('Network.enable');
		const scripts = new Set<string>();
		bytes = 0;
		session.on('Network.responseReceived', (e) => e.type === 'Script' && scripts.add(e.requestId));
		session.on('Network.loadingFinished', (e) => {
			if (scripts.has(e.requestId)) bytes += e.encodedDataLength;
		});
		await page.emulateCPUThrottling(SLOW_DOWN);
		const started = performance.now();
		await visit(page, origin);
		times.push(performance.now() - started);
		paints.push(
			await page.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? NaN)
		);
		await page.waitForNetworkIdle({ idleTime: 300 });
		await context.close();
	}
	return [
		{
			what: `first page shown, cold cache, processor ${SLOW_DOWN} times slower`,
			measured: `${Math.round(median(paints))} ms`,
			against: `${(median(paints) / 1000).toFixed(2)} of the goal of 1 s`
		},
		{
			what: 'the same, until it answers to hands',
			measured: `${Math.round(median(times))} ms`,
			against: `${(median(times) / 1500).toFixed(2)} of the goal of 1.5 s`
		},
		{
			what: 'script of the first load, compressed',
			measured: `${Math.round(bytes / 1000)} kB`,
			against: `${(bytes / 150_000).toFixed(2)} of the goal of 150 kB`
		}
	];
}

/** From the key's event to the number in the page. */
export async function keystroke(browser: Browser, origin: string): Promise<Row> {
	const page = await browser.newPage();
	await page.setViewport(DESK);
	await visit(page, origin);
	await visit(page, page.url().replace(/rack$/, 'bench/one?of=alkalinity'));
	const times = await page.evaluate(async () => {
		const syringe = document.querySelector<SVGElement>('[role=slider]')!;
		const number = document.querySelector('.answer')!;
		const taken: number[] = [];
		for (let i = 0; i < 60; i++) {
			const changed = new Promise<number>((done) => {
				const watch = new MutationObserver(() => {
					watch.disconnect();
					done(performance.now());
				});
				watch.observe(number, { subtree: true, childList: true, characterData: true, attributes: true });
			});
			const started = performance.now();
			syringe.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }));
			taken.push((await changed) - started);
			await new Promise((next) => requestAnimationFrame(next));
		}
		return taken;
	});
	await page.close();
	const worst = [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!;
	return {
		what: 'key to number in the page, median and 95th percentile of 60',
		measured: `${median(times).toFixed(1)} / ${worst.toFixed(1)} ms`,
		against: `${(worst / FRAME).toFixed(2)} of a 16.7 ms frame`
	};
}
