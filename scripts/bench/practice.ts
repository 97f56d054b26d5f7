import type { Browser } from 'puppeteer-core';
import { DESK, visit } from '../../tests/support/browser';
import type { Row } from './row';

/** A phone so many times slower than this machine draws as fast as its screen: Hz. */
const SLOWER = 4;
const SCREEN_HZ = 60;
const SECONDS = 5;

/** A vial pressed and swirled on a page whose processor is slowed down: frames that came, and what script each took of its time. */
export async function practice(browser: Browser, origin: string): Promise<Row[]> {
	const page = await browser.newPage();
	await page.setViewport(DESK);
	try {
		await page.evaluateOnNewDocument(() => {
			const frames: { at: number; took: number }[] = [];
			Object.assign(globalThis, { frames });
			const ask = requestAnimationFrame.bind(globalThis);
			globalThis.requestAnimationFrame = (draw) =>
				ask((at) => {
					const began = performance.now();
					draw(at);
					frames.push({ at, took: performance.now() - began });
				});
		});
		await visit(page, origin);
		await visit(page, page.url().replace(/rack$/, 'practice?lesson=last-drop'));
		await page.waitForSelector('[data-testid=vial]');
		await page.emulateCPUThrottling(SLOWER);
		await page.keyboard.down('s');
		await page.keyboard.down('ArrowDown');
		// The first second also draws the page.
		await page.evaluate(() => new Promise((done) => setTimeout(done, 1000)));
		await page.evaluate(() => {
			(globalThis as unknown as { frames: unknown[] }).frames.length = 0;
		});
		await page.evaluate((ms) => new Promise((done) => setTimeout(done, ms)), 1000 * SECONDS);
		const frames = await page.evaluate(
			() => (globalThis as unknown as { frames: { at: number; took: number }[] }).frames
		);
		await page.keyboard.up('ArrowDown');
		await page.keyboard.up('s');
		const span = ((frames.at(-1)?.at ?? 0) - (frames[0]?.at ?? 0)) / 1000;
		const took = frames.map((f) => f.took).sort((a, b) => a - b);
		const usual = took[Math.floor(0.95 * took.length)] ?? 0;
		return [
			{
				what: `a vial pressed and swirled, processor ${SLOWER} times slower`,
				measured: `${((frames.length - 1) / span).toFixed(0)} frames a second`,
				against: `script takes ${((usual * SCREEN_HZ) / 1000).toFixed(2)} of a frame's time at ${SCREEN_HZ} Hz (95 % of frames)`
			}
		];
	} finally {
		await page.close();
	}
}
