import axe from 'axe-core';
import type { Page } from 'puppeteer-core';

/**
 * What axe finds wrong on a page as it stands, or in a part of it: by every rule, and once more by those of colour in the other
 * theme, since nothing but colours differs between the two.
 */
export async function violationsIn(page: Page, part?: string): Promise<string[]> {
	await page.evaluate(axe.source);
	return page.evaluate((selector) => {
		const found = look();
		// On a busy machine the browser may collect a promise that nothing on the page holds.
		Object.assign(globalThis, { found });
		return found;

		async function look(): Promise<string[]> {
			const { run } = (globalThis as unknown as { axe: typeof axe }).axe;
			const where = selector ?? document;
			const first = await run(where, { resultTypes: ['violations'] });
			document.documentElement.classList.toggle('dark');
			const other = await run(where, {
				resultTypes: ['violations'],
				runOnly: ['color-contrast', 'link-in-text-block']
			});
			document.documentElement.classList.toggle('dark');
			const told = (theme: string, results: typeof first) =>
				results.violations.map(
					(v) =>
						`${location.pathname}, ${theme}: ${v.id}: ${v.nodes
							.map((n) => n.html)
							.join(' | ')
							.slice(0, 300)}`
				);
			return [...told('as it stands', first), ...told('the other theme', other)];
		}
	}, part);
}
