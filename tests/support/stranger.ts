import type { Browser, Page } from 'puppeteer-core';
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
