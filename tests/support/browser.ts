import puppeteer, { type Browser, type Page } from 'puppeteer-core';

/** Debian's Chromium without its housekeeping, with a fresh profile that goes when it ends. */
export async function openBrowser(): Promise<Browser> {
	return puppeteer.launch({
		executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
		args: [
			'--headless',
			'--no-sandbox',
			'--disable-gpu',
			'--disable-quic',
			'--no-first-run',
			'--disable-background-networking',
			'--disable-component-update',
			'--disable-sync',
			'--force-color-profile=srgb'
		]
	});
}

export const DESK = { width: 1280, height: 800 };
export const PHONE = { width: 390, height: 844, isMobile: true, hasTouch: true, deviceScaleFactor: 2 };

/** Opens an address and waits until the page answers to hands, not only to eyes. */
export async function visit(page: Page, url: string): Promise<void> {
	await page.goto(url);
	await page.waitForSelector('html[data-ready]');
}

/** Loads the page again, as a keeper would, and waits until it answers. */
export async function reload(page: Page): Promise<void> {
	await page.reload();
	await page.waitForSelector('html[data-ready]');
}
