import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { startApplication, type Application } from './application';
import { newDevice, type DESK, type PHONE } from './browser';

/** Somebody who never saw Tevrik, in front of a server nobody has used yet; what is begun joins `applications`. */
export async function anEmptyServer(
	browser: Browser,
	applications: Application[],
	viewport: typeof DESK | typeof PHONE,
	language = 'en-GB'
) {
	const application = await startApplication({ mode: 'start' });
	applications.push(application);
	const page = await newDevice(browser, viewport);
	await page.setExtraHTTPHeaders({ 'accept-language': language });
	await page.goto(application.origin);
	await at(page, /^\/signup$/);
	return page;
}
/** Waits for a page and until it answers to hands. */
export async function at(page: Page, path: RegExp): Promise<void> {
	await page.waitForFunction((wanted) => new RegExp(wanted).test(location.pathname), {}, path.source);
	await page.waitForSelector('html[data-ready]');
}
export const says = (page: Page, selector: string, words: RegExp) =>
	page.waitForFunction(
		(where, wanted) =>
			new RegExp(wanted).test(document.querySelector(where)?.textContent?.replace(/\s+/g, ' ') ?? ''),
		{},
		selector,
		words.source
	);

/** A tap in one go: waited for between its two halves it becomes a finger that rests, on a busy machine, and that is no tap. */
async function tapped(page: Page, found: ElementHandle<Element>): Promise<void> {
	const { x, y } = await found.clickablePoint();
	const session = await page.createCDPSession();
	await Promise.all([
		session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] }),
		session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
	]);
	await session.detach();
}

/** Fingers or a mouse that find their way by what stands on the screen, and are counted. */
export function handsOn(page: Page) {
	/** `least`: what any way of saying so much would take: what is typed, a tap for each field or choice, and one for each thing kept. */
	const counted = { taps: 0, keys: 0, pages: 0, least: 0 };
	page.on('framenavigated', (frame) => {
		if (frame === page.mainFrame()) counted.pages++;
	});
	const touch = page.viewport()?.hasTouch ?? false;
	const find = async (selector: string) => {
		const found = (await page.waitForSelector(selector, { visible: true }))!;
		// What moves is not tapped: a page that still settles would put something else under the finger.
		await found.evaluate(async (e) => {
			e.scrollIntoView({ block: 'center' });
			let before = -1;
			for (let top = e.getBoundingClientRect().top; top !== before; top = e.getBoundingClientRect().top) {
				before = top;
				await new Promise(requestAnimationFrame);
			}
		});
		return found;
	};
	const tap = async (selector: string) => {
		counted.taps++;
		const found = await find(selector);
		await (touch ? tapped(page, found) : found.click());
	};
	const keys = async (text: string) => {
		counted.keys += text.length;
		counted.least += text.length;
		await page.keyboard.type(text);
	};
	return {
		counted,
		tap,
		keys,
		press: (words: string) => tap(`::-p-aria([name="${words}"][role="button"])`),
		follow: (words: string) => tap(`::-p-aria([name="${words}"][role="link"])`),
		/** Keeps what was said. */
		keep: async (selector = 'form button[type=submit]') => {
			counted.least++;
			await tap(selector);
		},
		write: async (selector: string, text: string) => {
			counted.least++;
			await tap(selector);
			await page.$eval(selector, (e) => (e as HTMLInputElement).select?.());
			if (text) await keys(text);
			else await page.keyboard.press('Backspace');
		},
		enter: async () => {
			counted.keys++;
			counted.least++;
			await page.keyboard.press('Enter');
		},
		/** To a room, by the bar. */
		room: async (name: string) => {
			const there = `nav ::-p-aria([name="${name}"][role="link"])`;
			// A phone's bar has five places: the others stand behind the last.
			if (!(await page.$(there))) await tap('nav ::-p-aria([name="More"][role="button"])');
			await tap(there);
			await at(page, new RegExp(`/${name.toLowerCase()}$`));
		},
		/** One of a list, by its words. */
		pick: async (list: string, words: string) => {
			counted.taps += 2;
			counted.least++;
			const select = await find(`::-p-aria([name="${list}"][role="combobox"])`);
			const value = await select.evaluate(
				(e, wanted) => [...(e as HTMLSelectElement).options].find((o) => o.text.startsWith(wanted))?.value,
				words
			);
			if (value === undefined) throw new Error(`no “${words}” in ${list}`);
			await select.select(value);
		},
		choose: async (selector: string, value: string) => {
			counted.taps += 2;
			counted.least++;
			await find(selector);
			await page.select(selector, value);
		}
	};
}
export type Hands = ReturnType<typeof handsOn>;
