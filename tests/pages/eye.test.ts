import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
	photographCard,
	photographSyringe,
	type CardScene,
	type SyringeScene
} from '../../src/core/photograph';
import { violationsIn } from '../support/axe';
import { DESK, PHONE, newDevice, openBrowser, reload, tanksOf } from '../support/browser';
import { origin } from '../support/house';
import { entry, keeperOf, save, showing } from '../support/keeper';
import { leafletPicture, type PrintedChart } from '../support/leaflet-picture';
import { tries } from '../support/length';
import { jpegOf } from '../support/pictures';

const folder = mkdtempSync(join(tmpdir(), 'tevrik-eye-'));
let browser: Browser;
let keeper: ReturnType<typeof keeperOf>;

/** The card of the shipped nitrate kit, its vial between 5 and 10. */
const NITRATE = [0, 0.5, 1, 2, 5, 10, 20];
const CARD: CardScene = {
	card: { values: NITRATE, dye: 'pink', top: 1.2, flattens: 2, ink: 0.2 },
	value: 7.5,
	light: 'warm strip',
	camera: { whiteBalance: 0.8, exposure: 0.7, contrast: 0.2, noise: 2 },
	gradient: 0.1,
	slant: 0.08,
	blur: 1,
	width: 1280,
	height: 960,
	seed: 5
};
const SYRINGE: SyringeScene = {
	fillMl: 1,
	graduationMl: 0.01,
	left: 0.437,
	air: 0.04,
	upsideDown: true,
	turned: -Math.PI / 2,
	slant: 0.01,
	seal: 0.04,
	ground: 0.66,
	tint: 0.2,
	gradient: 0.1,
	blur: 1,
	noise: 2,
	length: 1400,
	width: 1200,
	height: 2000,
	seed: 3
};
const file = (name: string, bytes: Buffer): string => {
	const path = join(folder, name);
	writeFileSync(path, bytes);
	return path;
};

beforeAll(async () => {
	const frame = await jpegOf(photographCard(CARD).pixels, 92);
	const camera = file('camera.mjpeg', Buffer.concat([frame, frame]));
	browser = await openBrowser([
		'--use-fake-device-for-media-stream',
		'--use-fake-ui-for-media-stream',
		`--use-file-for-fake-video-capture=${camera}`
	]);
	const [, second] = await tanksOf(browser, origin);
	keeper = keeperOf(origin, second!);
});
afterAll(async () => {
	await browser?.close();
	rmSync(folder, { recursive: true, force: true });
});

/** Presses a button as soon as it can be: what is at work holds others for a moment. */
const press = (page: Page, text: string) =>
	page.waitForFunction(
		(wanted) => {
			const button = [...document.querySelectorAll('button')].find(
				(b) => b.textContent!.trim().startsWith(wanted) && !b.disabled
			);
			button?.click();
			return button !== undefined;
		},
		{},
		text
	);
const textOf = (page: Page, testId: string) =>
	page.$eval(`[data-testid=${testId}]`, (e) => e.textContent!.replace(/\s+/g, ' ').trim());
async function openEye(page: Page, kit: string): Promise<void> {
	await keeper.bench(page, kit);
	await page.click('[data-testid=camera]');
	await page.waitForSelector('[data-testid=picture-file]');
}
const choose = async (page: Page, path: string) =>
	((await page.$('[data-testid=picture-file]')) as ElementHandle<HTMLInputElement>).uploadFile(path);
/** Moves a handle to a share of the picture, by mouse. */
async function drag(page: Page, handle: string, x: number, y: number): Promise<void> {
	const [from, frame] = await Promise.all([
		page.$(`[data-handle="${handle}"] .ring`),
		page.$('[data-testid=eye] svg')
	]);
	await frame!.scrollIntoView();
	const [at, box] = [(await from!.boundingBox())!, (await frame!.boundingBox())!];
	await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + x * box.width, box.y + y * box.height, { steps: 4 });
	await page.mouse.up();
}

const CARD_KIT = 'Nitrate, card, low and high range';

describe('the eye', () => {
	it('reads a card through the camera as it runs and as a still; the reading has its own error and its picture', async () => {
		const page = await newDevice(browser, DESK);
		await keeper.bench(page, CARD_KIT);
		const shades = await page.$$eval('.card .number.read', (all) => all.map((e) => Number(e.textContent)));
		expect(shades).toHaveLength(NITRATE.length);
		// The eye's own word first: between the fifth and the sixth patch.
		await page.type('[data-entry]', `${shades[4]}-${shades[5]}`);
		await page.click('[data-testid=camera]');
		await page.waitForSelector('[data-testid=picture-file]');
		await press(page, 'Open the camera');
		await page.waitForFunction(() =>
			/between|matches/.test(document.querySelector('[data-testid=live]')?.textContent ?? '')
		);
		await page.click('[data-testid=take]');
		await page.waitForSelector('[data-testid=seen]');
		expect(await page.$eval('[data-testid=eye]', (e) => e.textContent)).toContain(
			'The card was found by itself'
		);
		expect(await textOf(page, 'seen')).toMatch(
			new RegExp(`^Between ${shades[4]} and ${shades[5]}, (4\\d|5\\d|6\\d) %`)
		);
		expect(await textOf(page, 'by-eye')).toBe(
			`Your eye: between ${shades[4]} and ${shades[5]}, 50 % of the way.`
		);
		expect(await violationsIn(page)).toEqual([]);
		await page.click('[data-testid=use]');
		await page.waitForSelector('form.bench');
		expect(await entry(page)).toMatch(new RegExp(`^${shades[4]}-${shades[5]} @ 0\\.\\d\\d$`));
		// A reload loses neither the reading nor its picture.
		await reload(page);
		await page.waitForFunction(() =>
			document.querySelector<HTMLInputElement>('[data-entry]')?.value.includes('@')
		);
		await page.click('details:last-of-type summary');
		expect(await page.$eval('form.bench', (e) => e.textContent)).toContain('the photograph');
		await save(page);

		await keeper.at(page, 'readings');
		await page.click('main li button[aria-expanded]');
		const picture = await page.waitForSelector('[data-testid=photo] img');
		await page.waitForFunction((img) => (img as HTMLImageElement).naturalWidth > 500, {}, picture!);
		expect(await page.$eval('ol', (e) => e.textContent)).toContain('photographed');

		// Read again from its picture, by the marks that were kept.
		await press(page, 'Read it again');
		await page.waitForSelector('[data-testid=seen]');
		await page.click('[data-testid=use]');
		await page.waitForFunction(() =>
			/read again from its picture/.test(document.querySelector('main')!.textContent!)
		);

		// Deleted, and put back while the page has it.
		if (!(await page.$('[data-testid=photo] img'))) await page.click('main li button[aria-expanded]');
		await page.waitForSelector('[data-testid=photo] img');
		await press(page, 'Delete the picture');
		await page.waitForFunction(() =>
			/Picture deleted/.test(document.querySelector('[data-testid=photo]')?.textContent ?? '')
		);
		await press(page, 'Undo');
		await page.waitForFunction(() =>
			Object.keys(localStorage).every((key) => !key.startsWith('tevrik.outbox.'))
		);
		await reload(page);
		await page.click('main li button[aria-expanded]');
		await page.waitForSelector('[data-testid=photo] img');
		expect(page.wrongs).toEqual([]);
	});

	it('reads a plunger from a file on a phone at night: ends dragged or by keys, the liquid told apart', async () => {
		const page = await newDevice(browser, PHONE);
		await openEye(page, 'Alkalinity, syringe, 6 mL');
		await page.evaluate(() => document.documentElement.classList.add('dark'));
		await choose(page, file('syringe.jpg', await jpegOf(photographSyringe(SYRINGE).pixels, 85)));
		await page.waitForSelector('[data-handle=zero]');
		const share = (1 - SYRINGE.length / SYRINGE.height) / 2;
		await drag(page, 'zero', 0.5, 1 - share);
		await drag(page, 'full', 0.5, share);
		await page.waitForFunction(() =>
			/0\.43\d mL/.test(document.querySelector('[data-testid=seen]')?.textContent?.replace(/\s+/g, ' ') ?? '')
		);
		const seen = Number(/0\.\d+/.exec(await textOf(page, 'seen'))![0]);
		expect(Math.abs(seen - SYRINGE.left)).toBeLessThan(0.005);
		expect(await page.$eval('[data-testid=eye]', (e) => e.textContent)).toContain('on the liquid');
		// An arrow key moves an end; the lines still say which is which.
		await page.$eval('[data-handle=full]', (e) => (e as SVGElement).focus());
		await page.keyboard.press('ArrowDown');
		expect(await violationsIn(page)).toEqual([]);
		await page.click('[data-testid=use]');
		await page.waitForFunction(() =>
			/^0\.43\d+$/.test(document.querySelector<HTMLInputElement>('[data-entry]')?.value ?? '')
		);
		// The keeper has the last word; both are kept.
		await page.$eval('[data-entry]', (e) => {
			(e as HTMLInputElement).value = '0.44';
			e.dispatchEvent(new Event('input', { bubbles: true }));
		});
		const [sent] = await Promise.all([
			page.waitForRequest((r) => r.method() === 'PUT' && /\/readings\//.test(r.url())),
			save(page)
		]);
		const { reading } = JSON.parse(sent.postData()!) as {
			reading: { left: number; camera: { left: number } };
		};
		expect(reading.left).toBe(0.44);
		expect(Math.abs(reading.camera.left - SYRINGE.left)).toBeLessThan(0.005);
		expect(page.wrongs).toEqual([]);
	});

	it('reads the forty lines of a leaflet held at a slant, in whichever face it is set: at most one wrong before the chart, none unseen after', async () => {
		const lines = Array.from({ length: 40 }, (_, i): [string, string] => [
			(1 - 0.02 * i).toFixed(2),
			(0.34 * i).toFixed(1)
		]);
		const slant = { blocks: 2, size: 28, held: 'rotateX(10deg) rotateZ(-1.5deg)' };
		const printed: Omit<PrintedChart, 'lines'>[] = [
			{ ...slant, font: 'DejaVuSans' },
			{ blocks: 1, font: 'Tinos', size: 26, ruled: false },
			{ ...slant, font: 'FiraSansCondensed', held: 'rotateY(10deg) rotateZ(2.5deg)' },
			...(tries(0, 1)
				? (['Arimo', 'DejaVuSerif', 'NotoSans', 'RobotoCondensed'] as const).flatMap((font) => [
						{ ...slant, font },
						{ ...slant, font, held: 'none' }
					])
				: [])
		];
		for (const [i, look] of printed.entries()) {
			const page = await newDevice(browser, i ? PHONE : DESK);
			await keeper.at(page, 'shelf/new');
			await page.$eval('[data-testid=leaflet-camera]', (e) => (e as HTMLElement).click());
			await page.waitForSelector('[data-testid=picture-file]');
			await choose(page, file(`leaflet${i}.jpg`, await leafletPicture(browser, { lines, ...look })));
			await page.waitForSelector('[data-testid=read-lines]');
			await page.$eval('[data-testid=read-lines]', (e) => (e as HTMLElement).click());
			await page.waitForSelector('[data-testid=lines-read]');
			const cells = await page.$$eval('[data-leaflet] tbody input', (all) =>
				all.map((e) => (e as HTMLInputElement).value)
			);
			const read = new Map(
				Array.from({ length: cells.length / 2 }, (_, k) => [cells[2 * k]!, cells[2 * k + 1]!])
			);
			read.delete('');
			const wrong = [...read].filter(
				([reading, value]) => !lines.some(([r, v]) => r === reading && v === value)
			);
			expect(read.size, cells.join(' ')).toBeGreaterThanOrEqual(39);
			expect(wrong.length, JSON.stringify(wrong)).toBeLessThanOrEqual(1);
			const named = await page.$$eval('[data-suspect]', (all) => all.length);
			expect(named).toBe(wrong.length);
			if (!i) expect(await violationsIn(page)).toEqual([]);
			expect(page.wrongs).toEqual([]);
			await page.close();
		}
	});

	it('answers a bad picture, a bomb and a missing camera with a sentence, and loses nothing', async () => {
		const page = await newDevice(browser, DESK);
		await keeper.bench(page, CARD_KIT);
		await page.type('[data-entry]', '2');
		await page.click('[data-testid=camera]');
		await page.waitForSelector('[data-testid=picture-file]');
		const flat = (width: number, height: number) =>
			sharp({ create: { width, height, channels: 3, background: '#ccc' } })
				.png()
				.toBuffer();
		// A header that says a hundred million pixels, with nothing behind it.
		const bomb = await flat(100, 100);
		bomb.writeUInt32BE(40_000, 16);
		bomb.writeUInt32BE(40_000, 20);
		const refused: [string, Buffer, RegExp][] = [
			['one.png', await flat(1, 1), /only 1 by 1 pixels/],
			['huge.png', await flat(10_000, 10_000), /100 million pixels/],
			['bomb.png', bomb, /1600 million pixels/],
			['text.jpg', Buffer.from('this is a shopping list, and no picture'), /no picture that can be read/],
			['cut.jpg', (await jpegOf(photographCard(CARD).pixels)).subarray(0, 200), /no picture that can be read/]
		];
		for (const [name, bytes, sentence] of refused) {
			await choose(page, file(name, bytes));
			await page.waitForFunction(
				(source) =>
					new RegExp(source).test(
						document.querySelector('[data-testid=eye] [role=alert]')?.textContent ?? ''
					),
				{},
				sentence.source
			);
		}
		for (const [name, sentence] of [
			['NotAllowedError', /not allowed/],
			['NotFoundError', /No camera was found/]
		] as const) {
			await page.evaluate((failure) => {
				navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('', failure));
			}, name);
			await press(page, 'Open the camera');
			await page.waitForFunction(
				(source) =>
					[...document.querySelectorAll('[role=alert]')].some((e) => new RegExp(source).test(e.textContent!)),
				{},
				sentence.source
			);
		}
		await press(page, 'Close');
		await page.waitForSelector('form.bench');
		expect(await entry(page)).toBe('2');
		await showing(page, '2');
	});
});
