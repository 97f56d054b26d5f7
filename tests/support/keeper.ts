import type { Page } from 'puppeteer-core';
import { visit } from './browser';

/** What a keeper does on a page of one tank: goes to a room, picks a method at the bench, looks at the newest answer. */
export function keeperOf(origin: string, tank: string) {
	const at = (page: Page, room: string) => visit(page, `${origin}/s/${tank}/${room}`);
	return {
		at,
		/** The bench with a method by its name in the list. */
		async bench(page: Page, name: string): Promise<void> {
			await at(page, 'bench/one');
			await page.evaluate((wanted) => {
				const list = document.querySelector<HTMLSelectElement>('main select')!;
				list.value = [...list.options].find((o) => o.text === wanted)!.value;
				list.dispatchEvent(new Event('change', { bubbles: true }));
			}, name);
			await page.waitForFunction(
				(wanted) =>
					document.querySelector<HTMLSelectElement>('main select')?.selectedOptions[0]?.text === wanted,
				{},
				name
			);
			await page.waitForSelector('[data-instrument], [role=slider]');
		},
		/** Value and what was seen of the newest reading. */
		async newest(page: Page, parameter: string): Promise<string> {
			await at(page, `trends?of=${parameter}`);
			return page.$eval('tbody tr', (row) =>
				[...row.querySelectorAll('td')]
					.slice(1, 3)
					.map((c) => c.textContent!.trim())
					.join(' | ')
			);
		}
	};
}

export const showing = (page: Page, text: string) =>
	page.waitForFunction(
		(wanted) =>
			document.querySelector('[data-testid=value]')?.textContent?.replace(/\s+/g, ' ').includes(wanted),
		{ timeout: 5000 },
		text
	);
export const entry = (page: Page) => page.$eval('[data-entry]', (e) => (e as HTMLInputElement).value);
export const clear = (page: Page) =>
	page.$eval('[data-entry]', (e) => {
		(e as HTMLInputElement).value = '';
		e.dispatchEvent(new Event('input', { bubbles: true }));
	});
/** Focuses the instrument, drawn or not. */
export const focus = (page: Page) => page.$eval('[data-instrument]', (e) => (e as HTMLElement).focus());
export async function save(page: Page): Promise<void> {
	await page.click('form.bench button[type=submit]');
	await page.waitForFunction(() =>
		document.querySelector('[data-testid=saved]')?.textContent?.includes('Saved')
	);
	await page.waitForFunction(() =>
		Object.keys(localStorage).every((key) => !key.startsWith('tevrik.outbox.'))
	);
}
