import puppeteer, { type Browser, type Page } from 'puppeteer-core';

/** Debian's Chromium without its housekeeping, with a fresh profile that goes when it ends. */
export async function openBrowser(more: string[] = []): Promise<Browser> {
	return puppeteer.launch({
		executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
		args: [
			'--headless',
			'--no-sandbox',
			'--disable-gpu',
			'--disable-quic',
			'--no-first-run',
			'--disable-background-networking',
			'--disable-component-update',
			'--disable-sync',
			'--force-color-profile=srgb',
			// Numbers and dates follow the browser's language: the same one everywhere.
			'--accept-lang=en-GB,en',
			...more
		]
	});
}

export const DESK = { width: 1280, height: 800 };
export const PHONE = { width: 390, height: 844, isMobile: true, hasTouch: true, deviceScaleFactor: 2 };

/** Opens an address and waits until the page answers to hands, not only to eyes; a stranger is let into the demo first. */
export async function visit(page: Page, url: string): Promise<void> {
	await page.goto(url, { waitUntil: 'domcontentloaded' });
	if (new URL(page.url()).pathname === '/signin') {
		const { origin } = new URL(url);
		for (const cookie of (await demoCookie(origin)).split('; ')) {
			const [name, value] = cookie.split(/=(.*)/s) as [string, string];
			await page
				.browserContext()
				.setCookie({ name, value, domain: new URL(url).hostname, path: '/', httpOnly: true });
		}
		await page.goto(url);
	}
	await page.waitForSelector('html[data-ready]');
}

/** The cookie of the demo's keeper, for requests without a browser. */
export async function demoCookie(origin: string): Promise<string> {
	const response = await fetch(`${origin}/signin?/demo`, {
		method: 'POST',
		body: new URLSearchParams(),
		headers: { origin, accept: 'text/html' },
		redirect: 'manual'
	});
	return response.headers
		.getSetCookie()
		.map((c) => c.split(';')[0]!)
		.join('; ');
}

/** Loads the page again, as a keeper would, and waits until it answers. */
export async function reload(page: Page): Promise<void> {
	await page.reload();
	await page.waitForSelector('html[data-ready]');
}

/** A write that met a busy server goes again after up to a minute, ms. */
export const PATIENCE = 100_000;

/**
 * A fresh keeper's device: no cookies, nothing stored. What goes wrong on its pages is collected in `wrongs`. Only one that will be
 * without a network takes over all files of the application for that (`keeps`): it costs each device seconds.
 */
export async function newDevice(
	browser: Browser,
	viewport: typeof DESK | typeof PHONE,
	{ keeps = false }: { keeps?: boolean } = {}
): Promise<Page & { wrongs: string[] }> {
	const context = await browser.createBrowserContext();
	const page = Object.assign(await context.newPage(), { wrongs: [] as string[] });
	if (!keeps)
		await page.evaluateOnNewDocument(() => {
			if ('serviceWorker' in navigator) navigator.serviceWorker.register = () => new Promise(() => undefined);
		});
	page.on('pageerror', (error) => page.wrongs.push(String(error)));
	page.on('console', (m) => m.type() === 'error' && page.wrongs.push(m.text()));
	await page.setViewport(viewport);
	page.setDefaultTimeout(PATIENCE);
	return page;
}

const DEMO_TANKS = ['Long Gallery', 'Windowsill'];

/** The demo's tanks by id, in their order, whatever other tanks tests have made. */
export async function tanksOf(browser: Browser, origin: string): Promise<string[]> {
	const page = await browser.newPage();
	await visit(page, origin);
	const tanks = await page.$eval('header select', (e) =>
		[...(e as HTMLSelectElement).options].map((o) => ({ id: o.value, name: o.text }))
	);
	await page.close();
	return DEMO_TANKS.map((name) => tanks.find((t) => t.name === name)!.id);
}

/** Goes by Tab until the focus is on something with these words. */
export async function tabTo(page: Page, words: RegExp): Promise<void> {
	for (let i = 0; i < 80; i++) {
		await page.keyboard.press('Tab');
		const at = await page.evaluate(() => {
			const e = document.activeElement;
			return `${e?.getAttribute('aria-label') ?? ''} ${e?.textContent?.trim() ?? ''}`;
		});
		if (words.test(at)) return;
	}
	throw new Error(`nothing called ${words} is reached by keys`);
}
