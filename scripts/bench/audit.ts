import lighthouse from 'lighthouse';
import type { Browser, Page } from 'puppeteer-core';
import { PHONE, newDevice, tanksOf, visit } from '../../tests/support/browser';
import { violationsIn } from '../../tests/support/axe';
import { ROOMS, addressIn } from '../../tests/support/rooms';
import type { Row } from './row';

/** As keepers hold it: widths in px, and letters so many times as large. */
const SIZES = [
	[320, 1],
	[360, 1],
	[390, 1],
	[1280, 1],
	[390, 2],
	[1280, 2]
] as const;
const CATEGORIES = ['accessibility', 'best-practices', 'seo', 'performance'] as const;
const WHOLE = 100;
/** What a phone is to reach where the machine is quiet. */
const QUICK = 90;

/** What a page auditor that nobody here wrote says of every room on a phone, and axe of every room at every size in both themes. */
export async function audit(browser: Browser, origin: string): Promise<Row[]> {
	const [tank = ''] = await tanksOf(browser, origin);
	const scores = new Map<string, { room: string; score: number; why: string[] }[]>(
		CATEGORIES.map((c) => [c, []])
	);
	const found: string[] = [];
	for (const room of ROOMS) {
		const address = addressIn(origin, tank, room);
		const page = await newDevice(browser, PHONE);
		// Pages that are open to strangers are looked at as a keeper sees them too.
		await visit(page, addressIn(origin, tank, 'rack'));
		await visit(page, address);
		for (const [category, said] of await audited(page, address))
			scores.get(category)?.push({ room, ...said });
		await page.browserContext().close();
		found.push(...(await atEverySize(browser, address)));
	}
	return [
		...[...scores].map(([category, all]): Row => {
			const worst = all.reduce((a, b) => (b.score < a.score ? b : a));
			const goal = category === 'performance' ? QUICK : WHOLE;
			const short = all.filter((s) => s.score < goal);
			return {
				what: `page auditor, ${category}, ${all.length} rooms on a phone`,
				measured: `${worst.score} at least (${worst.room})`,
				against: short.length
					? `${short.length} below ${goal}: ${short.map((s) => `${s.room} ${s.score}${category === 'performance' ? '' : ` (${s.why.join(', ')})`}`).join('; ')}`
					: `the goal of ${goal}`
			};
		}),
		{
			what: `axe, ${ROOMS.length} rooms at ${SIZES.length} sizes in both themes`,
			measured: `${found.length} faults`,
			against: found.length ? found.join('; ') : 'the goal of none'
		}
	];
}

/** By category the score of 100, and which of its audits fell. */
async function audited(page: Page, address: string) {
	const said = await lighthouse(
		address,
		{ logLevel: 'error', output: 'json', onlyCategories: [...CATEGORIES], disableStorageReset: true },
		undefined,
		page
	);
	const { categories, audits } = said!.lhr;
	return Object.entries(categories).map(([name, { score, auditRefs }]) => {
		const why = auditRefs.flatMap(({ id, weight }) => ((audits[id]?.score ?? 1) < 1 && weight ? [id] : []));
		return [name, { score: Math.round(100 * (score ?? 0)), why }] as const;
	});
}

/** Both themes at each size: what axe finds there. */
async function atEverySize(browser: Browser, address: string): Promise<string[]> {
	const page = await newDevice(browser, PHONE);
	await visit(page, address);
	const found = new Set<string>();
	for (const [width, letters] of SIZES) {
		await page.setViewport({ ...PHONE, width });
		await page.evaluate((size) => (document.documentElement.style.fontSize = `${100 * size}%`), letters);
		for (const fault of await violationsIn(page))
			found.add(`${width} px, letters ${letters} times: ${fault}`);
	}
	await page.browserContext().close();
	return [...found];
}
