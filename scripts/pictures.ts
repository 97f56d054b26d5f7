/**
 * Pictures of the main views from a running demo: `npm run pictures -- http://127.0.0.1:4173 docs/screenshots`.
 * Each is looked at before it is committed.
 */
import { DAY } from '../src/core/base';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import { startApplication } from '../tests/support/application';
import { DESK, PHONE, openBrowser, visit } from '../tests/support/browser';
import { button, doStep, frozenClock } from '../tests/support/test-session';

/** Where a demo started with `TEVRIK_NOW=file:PATH` reads its time: sessions at the bench take an hour of it. */
const clock = process.env['TEVRIK_CLOCK'];
const [origin = 'http://127.0.0.1:4173', folder = 'docs/screenshots', only] = process.argv.slice(2);

/** Types into a field, so that the view shows a value. */
const type = (field: string, text: string) => async (page: Page) => {
	await page.type(field, text);
	await page.evaluate(
		() => new Promise((painted) => requestAnimationFrame(() => requestAnimationFrame(painted)))
	);
};
const SHEET = [
	'Datum;KH;Kalzium;Nitrat;PO4 (ppb);Notiz',
	'05.01.2025;8,1;430;5;61;neue Lampe',
	'12.01.2025;7,9;<400;4-8;49;',
	'19.01.2025;viel;425;10;38;',
	'26.01.2025;8,0;1.430;10;33;'
].join('\n');
/** One line of it is mistyped, as happens. */
const LEAFLET = '1\n0\n.75\n4.1\n.5\n8.9\n.25\n12.3\n';

/** Runs a session until it looks like `there`, by a clock that the script turns. */
const running = (there: string) => async (page: Page) => {
	const began = clock && Date.parse(readFileSync(clock, 'utf8').trim());
	let passed = 0;
	const pass = async (seconds: number) => {
		passed += 1000 * seconds;
		if (clock) writeFileSync(clock, new Date(Number(began) + passed).toISOString());
		await page.evaluate((ms) => {
			(globalThis as unknown as { ahead: number }).ahead += ms;
		}, seconds * 1000);
	};
	await planned(page);
	await button(page, 'Begin');
	for (let i = 0; i < 200 && !(await page.$(there)); i++) await doStep(page, pass);
	if (clock) writeFileSync(clock, new Date(Number(began)).toISOString());
};
const planned = async (page: Page) =>
	void (await page.waitForFunction(
		() =>
			document.querySelector('[data-testid=total]') &&
			document.querySelector('.plan')?.getAttribute('aria-busy') === 'false'
	));

/** Saves a test far from where the level was, then shows the rack. */
async function oddTest(page: Page): Promise<void> {
	await type('[data-entry]', '0.63')(page);
	await page.waitForSelector('[data-testid=far]');
	await page.$eval('form.bench button[type=submit]', (b) => (b as HTMLElement).click());
	await page.waitForFunction(() =>
		Object.keys(localStorage).every((key) => !key.startsWith('tevrik.outbox.'))
	);
	await visit(page, page.url().replace(/bench.*/, 'rack'));
}

/** Two kits on the same water for some weeks, the quicker one reading high, and both with a reference. */
async function provenKits(page: Page): Promise<void> {
	// What runs this script gives functions names by a helper that a page does not have.
	await page.evaluate('globalThis.__name = (f) => f');
	await page.evaluate(async (day) => {
		const json = async (path: string) => (await fetch(`/api/v1${path}`)).json() as Promise<never>;
		const system = location.pathname.split('/')[2]!;
		const { sources } = (await json(`/systems/${system}`)) as {
			sources: { id: string; kind: string; content?: unknown }[];
		};
		const { methods } = (await json('/methods')) as {
			methods: { versionId: string; profile: { name: string } }[];
		};
		const kit = (name: string) => methods.find((m) => m.profile.name === name)!.versionId;
		const [syringe, drops] = [kit('Alkalinity, syringe, 6 mL'), kit('Alkalinity, drops')];
		const tank = sources.find((s) => s.kind === 'tank')!.id;
		const known = sources.find((s) => s.content)!.id;
		const now = Number((await fetch('/api/v1/systems')).headers.get('tevrik-now'));
		const save = (ago: number, sourceId: string, methodVersionId: string, reading: object) =>
			fetch(`/api/v1/readings/${crypto.randomUUID()}`, {
				method: 'PUT',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({
					sourceId,
					sampleId: crypto.randomUUID(),
					takenAt: new Date(now - ago * day).toISOString(),
					methodVersionId,
					reading
				})
			});
		for (const [i, ago] of [40, 31, 22, 12, 3].entries()) {
			await save(ago, known, syringe, { left: [0.52, 0.51, 0.53, 0.52, 0.52][i] });
			await save(ago, known, drops, { drops: [14, 14, 15, 14, 15][i] });
		}
		for (const [i, ago] of [38.01, 27.01, 18.01, 9.01, 4.01, 2.01].entries()) {
			await save(ago, tank, syringe, { left: [0.5, 0.49, 0.5, 0.51, 0.48, 0.5][i] });
			await save(ago, tank, drops, { drops: [15, 16, 15, 14, 16, 15][i] });
		}
	}, DAY);
	await page.reload();
	await page.waitForSelector('[data-testid=checks] canvas[data-drawn]');
	await page.waitForSelector('[data-testid=pair] canvas[data-drawn]');
}

/** A sheet of water that both kits of alkalinity tested, and a sample on its way. */
async function labSheet(page: Page): Promise<void> {
	const text = await page.evaluate(async (day) => {
		const now = Number((await fetch('/api/v1/systems')).headers.get('tevrik-now'));
		const drawn = new Date(now - 9 * day).toISOString();
		return `lab,Quay Lab\nsample,Q-17\ndrawn,${drawn}\nparameter,result,unit,±\nAlkalinity,8.1,dKH,0.1\nCalcium,428,mg/L,6\nMagnesium,1302,mg/L,18\n`;
	}, DAY);
	const file = join(mkdtempSync(join(tmpdir(), 'tevrik-')), 'quay.csv');
	writeFileSync(file, text);
	await button(page, 'Draw a sample now');
	await page.waitForSelector('[data-testid=posted]');
	await ((await page.$('[data-testid=sheet]')) as ElementHandle<HTMLInputElement>).uploadFile(file);
	await page.waitForSelector('[data-testid=answer]');
}

/** A drop that has just fallen, by day; at night under the tank's blue lamp. */
async function pressed(page: Page): Promise<void> {
	await page.evaluate(() => {
		const night = document.documentElement.classList.contains('dark');
		localStorage.setItem('tevrik.practice-lamp', JSON.stringify(night ? 'blue tank lamp' : 'daylight'));
	});
	await page.reload();
	await page.waitForSelector('html[data-ready]');
	await page.waitForSelector('[data-testid=vial]');
	await page.keyboard.down('ArrowDown');
	await page.evaluate(() => new Promise((done) => setTimeout(done, 900)));
	await page.keyboard.up('ArrowDown');
}

type Look = '' | '-night' | '-phone';
/** Lets the eye read a made-up picture of the card in hand. */
async function fromPicture(page: Page): Promise<void> {
	await type('[data-entry]', '1-2')(page);
	await page.click('[data-testid=camera]');
	await page.waitForSelector('[data-testid=picture-file]');
	await button(page, 'Try a sample picture');
	await page.waitForSelector('[data-testid=seen]');
}

const VIEWS: {
	name: string;
	path: string;
	looks: Look[];
	/** Of the demo’s second tank. */
	second?: true;
	after?: (page: Page) => Promise<void>;
}[] = [
	{ name: 'rack', path: 'rack', looks: ['', '-phone'] },
	{
		name: 'bench',
		path: 'bench/one?of=alkalinity',
		looks: [''],
		after: type('[data-entry]', '.49')
	},
	{ name: 'eye', path: 'bench/one?of=nitrate', looks: [''], after: fromPicture },
	{
		name: 'trends',
		path: 'trends?of=alkalinity',
		looks: [''],
		after: async (page) => void (await page.waitForSelector('[data-ready=true] canvas'))
	},
	{ name: 'session', path: 'bench', looks: [''], after: planned },
	{ name: 'running', path: 'bench', looks: ['-night'], after: running('.clock ~ .clock') },
	{ name: 'results', path: 'bench', looks: [''], after: running('[data-testid=results]') },
	{
		name: 'readings',
		path: 'readings',
		looks: [''],
		after: async (page) => {
			await page.click('[data-line=reading]:nth-child(2) button.what');
			await page.waitForFunction(() => /written down by/.test(document.querySelector('main')!.textContent!));
		}
	},
	{
		name: 'import',
		path: 'import',
		looks: [''],
		after: async (page) => {
			const file = join(mkdtempSync(join(tmpdir(), 'tevrik-')), 'before-tevrik.csv');
			writeFileSync(file, SHEET);
			const input = (await page.$('input[type=file]')) as ElementHandle<HTMLInputElement>;
			await input.uploadFile(file);
			await page.waitForSelector('[data-testid=understood] li');
		}
	},
	{
		name: 'adjust',
		path: 'adjust',
		looks: [''],
		second: true,
		after: async (page) =>
			void (await page.waitForFunction(
				() =>
					document.querySelector('[data-testid=levels] canvas[data-drawn]') &&
					[...document.querySelectorAll('[data-wish]')].every((e) => /pours?/.test(e.textContent ?? ''))
			))
	},
	{ name: 'shelf', path: 'shelf', looks: [''] },
	{ name: 'practice', path: 'practice?lesson=last-drop', looks: ['', '-night'], after: pressed },
	// These stay in the book, so they come last: an alkalinity that nobody expected, two kits checked, and a lab's sheet.
	{ name: 'odd', path: 'bench/one?of=alkalinity', looks: ['-night'], after: oddTest },
	{ name: 'kit-checks', path: 'shelf/proof?of=alkalinity', looks: [''], after: provenKits },
	{ name: 'lab', path: 'shelf/lab', looks: ['-phone'], after: labSheet }
];

/** The screens of a first session, in front of a server that nobody has used yet. */
async function firstSession(browser: Browser): Promise<void> {
	const fresh = await startApplication({ mode: 'start' });
	const page = await (await browser.createBrowserContext()).newPage();
	await page.setViewport(DESK);
	const filled = async (path: RegExp, fields: Record<string, string> = {}) => {
		await page.waitForFunction((wanted) => new RegExp(wanted).test(location.pathname), {}, path.source);
		await page.waitForSelector('html[data-ready]');
		for (const [field, text] of Object.entries(fields)) await page.type(field, text);
	};
	const go = () => page.$eval('main form button[type=submit]', (b) => (b as HTMLElement).click());
	const shoot = async (name: string, path: RegExp, fields: Record<string, string> = {}) => {
		await filled(path, fields);
		await page.screenshot({ path: join(folder, `${name}.png`) });
		await go();
	};
	try {
		await page.goto(fresh.origin);
		await shoot('first-account', /signup/, {
			'input[name=name]': 'Wenna',
			'input[name=email]': 'wenna@boathouse.example',
			'input[name=password]': 'eleven herons'
		});
		await filled(/begin$/, { 'input[name=name]': 'Slipway', 'input[name=netVolumeL]': '140' });
		await go();
		await filled(/units/);
		await go();
		await shoot('first-kit', /shelf.new/, { '[data-leaflet] input': LEAFLET });
	} finally {
		await fresh.stop();
	}
}

mkdirSync(folder, { recursive: true });
const browser = await openBrowser();
try {
	if (!only || only.split(',').includes('first')) await firstSession(browser);
	for (const { name, path, looks, second, after } of VIEWS.filter(
		(v) => !only || only.split(',').includes(v.name)
	))
		for (const look of looks) {
			const context = await browser.createBrowserContext();
			const page = await context.newPage();
			await page.setViewport(look === '-phone' ? PHONE : DESK);
			await page.setCookie({ name: 'theme', value: look === '-night' ? 'night' : 'paper', url: origin });
			if (path === 'bench') await page.evaluateOnNewDocument(frozenClock);
			await visit(page, origin);
			const tanks = await page.$$eval('header select option', (all) =>
				all.map((o) => (o as HTMLOptionElement).value)
			);
			const system = tanks[second ? 1 : 0];
			await visit(page, `${origin}/s/${system}/${path}`);
			await after?.(page);
			await page.evaluate(() => scrollTo(0, 0));
			await page.screenshot({ path: join(folder, `${name}${look}.png`) });
			await context.close();
		}
} finally {
	await browser.close();
}
