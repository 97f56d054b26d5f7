import type { Page } from 'puppeteer-core';
import { PHONE } from './browser';

/** What a page auditor looks for, by code of its own: every function gives what is wrong, in words, and nothing where all is well. */

/** A thumb’s width, px (WCAG 2.2, 2.5.5), less what a browser rounds. */
const THUMB = 43.5;
/** Everything that is pressed, chosen or typed into, and is smaller than a thumb: its words and its size. Ways within a sentence may be. */
export const tooSmall = (page: Page) =>
	page.evaluate((least) => {
		const all = document.querySelectorAll<HTMLElement>(
			'button, select, input:not([type=hidden]), textarea, summary, a[href]'
		);
		return [...all].flatMap((e) => {
			if (!e.checkVisibility() || e.closest('.sr-only')) return [];
			const own = (e.getAttribute('aria-label') ?? e.textContent ?? '').trim();
			const inSentence =
				e.matches('a') &&
				getComputedStyle(e).display === 'inline' &&
				e.parentElement!.textContent!.trim().length > own.length;
			if (inSentence) return [];
			// A mark is hit by its words too.
			const hit = e.matches('[type=checkbox], [type=radio]') ? (e.closest('label') ?? e) : e;
			const { width, height } = hit.getBoundingClientRect();
			return width < least || height < least
				? [`${own.slice(0, 40)}: ${Math.round(width)} x ${Math.round(height)}`]
				: [];
		});
	}, THUMB);

/** Where a room is wider than its screen: on small ones (WCAG 1.4.10), and with letters twice as large (1.4.4). */
export async function sideways(page: Page): Promise<string[]> {
	const found: string[] = [];
	for (const [width, letters] of [
		[390, 1],
		[360, 1],
		[320, 1],
		[390, 2],
		[1280, 2]
	] as const) {
		await page.setViewport({ ...PHONE, width });
		await page.evaluate((size) => (document.documentElement.style.fontSize = `${100 * size}%`), letters);
		// A chart follows a frame later.
		const fits = page.waitForFunction(
			(most) => document.documentElement.scrollWidth <= most,
			{ timeout: 3000 },
			width
		);
		if (!(await fits.catch(() => undefined))) found.push(`${width} px, letters ${letters} times`);
	}
	return found;
}

/** Has everything counted that moves by itself on the pages that come, also right after a tap. */
export const countShifts = (page: Page) =>
	page.evaluateOnNewDocument(() => {
		const shifts: [number, string][] = [];
		Object.assign(globalThis, { shifts });
		new PerformanceObserver((seen) => {
			for (const e of seen.getEntries() as (PerformanceEntry & {
				value: number;
				sources: { node: Node | null }[];
			})[])
				shifts.push([e.value, e.sources.map((s) => s.node?.textContent?.trim().slice(0, 40)).join(' | ')]);
		}).observe({ type: 'layout-shift', buffered: true });
	});
/** A room may move by so much and no more (Cumulative Layout Shift; 0.1 is the limit that is called good). */
const STILL = 0.02;
/** What moved, where it was more than that; looked at when the fonts are there and two frames were drawn. */
export const shifted = (page: Page) =>
	page.evaluate(async (most) => {
		await document.fonts.ready;
		for (let i = 0; i < 2; i++) await new Promise((drawn) => requestAnimationFrame(drawn));
		const { shifts } = globalThis as unknown as { shifts: [number, string][] };
		const sum = shifts.reduce((s, [by]) => s + by, 0);
		return sum > most ? shifts.map(([by, what]) => `${by.toFixed(3)}: ${what}`) : [];
	}, STILL);

/** Fields whose border is less than 3 to 1 against what lies behind (WCAG 1.4.11), in either theme; a set mark is its own colour. */
export const paleBorders = (page: Page) =>
	page.evaluate(() => {
		const canvas = document.createElement('canvas');
		canvas.width = canvas.height = 1;
		const brush = canvas.getContext('2d', { willReadFrequently: true })!;
		const rgba = (colour: string) => {
			brush.clearRect(0, 0, 1, 1);
			brush.fillStyle = colour;
			brush.fillRect(0, 0, 1, 1);
			return [...brush.getImageData(0, 0, 1, 1).data] as [number, number, number, number];
		};
		const light = (colour: string) => {
			const [r, g, b] = rgba(colour).map((c) =>
				c / 255 <= 0.04045 ? c / 255 / 12.92 : ((c / 255 + 0.055) / 1.055) ** 2.4
			) as [number, number, number, number];
			return 0.2126 * r + 0.7152 * g + 0.0722 * b;
		};
		const ratio = (a: string, b: string) =>
			(Math.max(light(a), light(b)) + 0.05) / (Math.min(light(a), light(b)) + 0.05);
		const behind = (e: Element | null): string => {
			for (; e; e = e.parentElement) {
				const { backgroundColor } = getComputedStyle(e);
				if (rgba(backgroundColor)[3] === 255) return backgroundColor;
			}
			return 'white';
		};
		const found: string[] = [];
		for (const theme of ['as it stands', 'the other theme']) {
			for (const e of document.querySelectorAll<HTMLElement>(
				'input:not([type=hidden], [type=file], [type=range]), select, textarea'
			)) {
				if (!e.checkVisibility()) continue;
				const { borderTopColor, borderTopWidth, backgroundColor } = getComputedStyle(e);
				const set = e.matches(':checked') && e.matches('[type=checkbox], [type=radio]');
				const edge = ratio(set ? backgroundColor : borderTopColor, behind(e.parentElement));
				if (edge < 3 || (!set && parseFloat(borderTopWidth) < 1))
					found.push(
						`${theme}: ${e.tagName} ${e.getAttribute('aria-label') ?? e.id}: ${edge.toFixed(2)} to 1`
					);
			}
			document.documentElement.classList.toggle('dark');
		}
		return found;
	});

/** What takes the focus and does not show it by a line of at least two pixels around it. */
export const withoutRing = (page: Page) =>
	page.evaluate(() => {
		const found: string[] = [];
		for (const e of document.querySelectorAll<HTMLElement>(
			'a[href], button, input:not([type=hidden]), select, textarea, summary, [tabindex="0"]'
		)) {
			if (!e.checkVisibility()) continue;
			e.focus({ preventScroll: true, focusVisible: true } as FocusOptions);
			// A field that is nothing but its label shows it there.
			const shown = e.closest('.sr-only') ? (e.closest('label') ?? e) : e;
			const { outlineStyle, outlineWidth } = getComputedStyle(shown);
			if (document.activeElement === e && (outlineStyle === 'none' || parseFloat(outlineWidth) < 2))
				found.push(e.outerHTML.slice(0, 120));
		}
		return found;
	});

/** Tables without a name, and headers that do not say of what they are. */
export const namelessTables = (page: Page) =>
	page.$$eval('table', (all) =>
		all.flatMap((table) => [
			...((table.querySelector('caption') ?? table.getAttribute('aria-label'))
				? []
				: ['a table without a name']),
			...[...table.querySelectorAll('th:not([scope])')].map((th) => `no scope: ${th.textContent?.trim()}`)
		])
	);
