/**
 * Pictures of the main views from a running demo: `npm run pictures -- http://127.0.0.1:4173 docs/screenshots`.
 * Each is looked at before it is committed.
 */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { DESK, PHONE, openBrowser, visit } from '../tests/support/browser';

const [origin = 'http://127.0.0.1:4173', folder = 'docs/screenshots', only] = process.argv.slice(2);

/** Sets the plunger, so that the bench shows a value. */
const readSyringe = async (page: Page) => {
	await page.type('[data-entry]', '.49');
	await page.waitForFunction(() => document.querySelector('[data-testid=value]')?.textContent?.includes('±'));
};

const VIEWS: { name: string; path: string; after?: (page: Page) => Promise<void> }[] = [
	{ name: 'rack', path: 'rack' },
	{ name: 'bench', path: 'bench?of=alkalinity', after: readSyringe },
	{
		name: 'trends',
		path: 'trends?of=alkalinity',
		after: async (page) => void (await page.waitForSelector('[data-ready=true] canvas'))
	}
];

mkdirSync(folder, { recursive: true });
const browser = await openBrowser();
try {
	for (const { name, path, after } of VIEWS.filter((v) => !only || only.split(',').includes(v.name)))
		for (const [kind, viewport, theme] of [
			['', DESK, 'paper'],
			['-night', DESK, 'night'],
			['-phone', PHONE, 'paper']
		] as const) {
			const context = await browser.createBrowserContext();
			const page = await context.newPage();
			await page.setViewport(viewport);
			await page.setCookie({ name: 'theme', value: theme, url: origin });
			await visit(page, origin);
			const system = page.url().split('/s/')[1]?.split('/')[0];
			await visit(page, `${origin}/s/${system}/${path}`);
			await after?.(page);
			await page.screenshot({ path: join(folder, `${name}${kind}.png`) });
			await context.close();
		}
} finally {
	await browser.close();
}
