import type { Page } from 'puppeteer-core';

/** Run before a page loads: its clock stands, and goes on by `ahead`, ms. */
export const frozenClock = () => {
	const turned = globalThis as unknown as { ahead: number };
	turned.ahead = 0;
	performance.now = () => turned.ahead;
	const loaded = Date.now();
	Date.now = () => loaded + turned.ahead;
};

/** Presses a button by keyboard, found by how its words begin. */
export const button = async (page: Page, words: string) => {
	await page.evaluate((start) => {
		const found = [...document.querySelectorAll('button')].find((b) =>
			b.textContent!.trim().startsWith(start)
		);
		if (!found) throw new Error(`no button “${start}”`);
		found.focus();
	}, words);
	await page.keyboard.press('Enter');
};
/** The step on the screen, once the rest has been planned. */
export const turn = async (page: Page): Promise<string> => {
	const found = await page.waitForFunction(
		() =>
			document.querySelector('[data-turn]')?.getAttribute('data-turn') ||
			(document.querySelector('[data-testid=results]') && 'over')
	);
	return (await found.jsonValue()) as string;
};
export const changed = (page: Page, from: string) =>
	page.waitForFunction(
		(before) => {
			const now = document.querySelector('[data-turn]')?.getAttribute('data-turn');
			return (now && now !== before) || document.querySelector('[data-testid=results]');
		},
		{},
		from
	);
export const text = (page: Page, selector: string) =>
	page.$eval(selector, (e) => e.textContent!.replace(/\s+/g, ' ').trim());

/** What the instrument of each parameter shows this session. */
export const SEEN: Record<string, string> = {
	Alkalinity: '0.52',
	Calcium: '0.14',
	Magnesium: '0.29',
	Nitrate: '5-10',
	Phosphate: '22',
	Potassium: '41',
	Salinity: '1.026'
};

/** Does what the screen says, once: waits, shakes, works for a while, or reads. */
export async function doStep(page: Page, pass: (seconds: number) => Promise<void>): Promise<void> {
	const before = await turn(page);
	if (before === 'over') return;
	// Looked at once: a plan that comes meanwhile may take the wait away.
	const left = await page.evaluate(() => document.querySelector('[data-testid=until]')?.textContent);
	if (left) {
		const [minutes = 0, seconds = 0] = left.split(':').map(Number);
		await pass(minutes * 60 + seconds + 1);
		// What the server answered while the hour jumped may have put the clock elsewhere: then it waits once more.
		await page
			.waitForFunction(() => !document.querySelector('[data-testid=until]'), { timeout: 3000 })
			.catch(() => undefined);
		return;
	}
	if (await page.$('section.reading')) {
		const title = await text(page, 'section.reading strong');
		const field = '[data-entry], input[data-instrument]';
		await page.waitForSelector(field);
		await page.$eval(field, (e) => (e as HTMLElement).focus());
		await page.keyboard.type(SEEN[title]!);
		await pass(15);
		await page.waitForFunction(
			() => !document.querySelector<HTMLButtonElement>('form.bench [type=submit]')!.disabled
		);
		await page.keyboard.press('Enter');
	} else {
		const shake = /Start (\d+) s/.exec(await text(page, '.press'));
		await pass(shake ? 3 : 12);
		await page.keyboard.press('Space');
		await changed(page, before);
		if (!shake) return;
		const shaking = await turn(page);
		await pass(Number(shake[1]) + 0.5);
		await changed(page, shaking);
		return;
	}
	await changed(page, before);
}
