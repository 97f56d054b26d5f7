import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page } from 'puppeteer-core';
import sharp from 'sharp';
import { photographCard, photographSyringe } from '../../src/core/photograph';
import type { Pixels } from '../../src/core/picture';
import { DESK, visit } from '../../tests/support/browser';
import { leafletPicture } from '../../tests/support/leaflet-picture';
import type { Row } from './row';

/** A phone four times slower than this machine, s: what it may take for a picture, and for a leaflet. */
const SLOWER = 4;
const PICTURE_WITHIN = 2;
const LEAFLET_WITHIN = 15;

/** As a phone gives it: 12 megapixels. */
const twelve = ({ width, height, data }: Pixels): Promise<Buffer> =>
	sharp(Buffer.from(data.buffer), { raw: { width, height, channels: 4 } })
		.resize(width > height ? { width: 4000 } : { height: 4000 })
		.jpeg({ quality: 90 })
		.toBuffer();

async function timed(page: Page, path: string, answer: string, begin?: () => Promise<void>): Promise<number> {
	const field = (await page.waitForSelector('[data-testid=picture-file]')) as ElementHandle<HTMLInputElement>;
	const started = performance.now();
	await field.uploadFile(path);
	await begin?.();
	await page.waitForSelector(answer);
	return (performance.now() - started) / 1000;
}

/**
 * From a 12-megapixel JPEG to its answer. Pictures are read in a worker, which no browser slows down for a measurement: what it takes here is
 * multiplied instead, decoding and drawing included.
 */
export async function eye(browser: Browser, origin: string): Promise<Row[]> {
	const folder = mkdtempSync(join(tmpdir(), 'tevrik-bench-eye-'));
	const file = (name: string, bytes: Buffer) => {
		writeFileSync(join(folder, name), bytes);
		return join(folder, name);
	};
	const page = await browser.newPage();
	await page.setViewport(DESK);
	await visit(page, origin);
	const tank = page.url().replace(/rack$/, '');
	const row = (what: string, seconds: number, within: number): Row => ({
		what,
		measured: `${(1000 * seconds).toFixed(0)} ms here`,
		against: `${((SLOWER * seconds) / within).toFixed(2)} of ${within} s at ${SLOWER} times slower`
	});
	try {
		const card = photographCard({
			card: { values: [0, 0.5, 1, 2, 5, 10, 20], dye: 'pink', top: 1.2, flattens: 2, ink: 0.2 },
			value: 7,
			light: 'daylight',
			camera: { whiteBalance: 0.8, exposure: 0.7, contrast: 0.2, noise: 2 },
			gradient: 0.1,
			slant: 0.1,
			blur: 1,
			width: 1280,
			height: 960,
			seed: 4
		});
		const syringe = photographSyringe({
			fillMl: 1,
			graduationMl: 0.01,
			left: 0.4,
			air: 0.04,
			upsideDown: true,
			turned: -Math.PI / 2,
			slant: 0,
			seal: 0.04,
			ground: 0.66,
			tint: 0.2,
			gradient: 0.1,
			blur: 1,
			noise: 2,
			length: 900,
			width: 960,
			height: 1280,
			seed: 4
		});
		const rows: Row[] = [];
		for (const [of, picture, what] of [
			['nitrate', card.pixels, 'a card found and its vial read'],
			['alkalinity', syringe.pixels, 'a plunger read']
		] as const) {
			await visit(page, `${tank}bench/one?of=${of}`);
			await page.click('[data-testid=camera]');
			rows.push(
				row(
					`12-megapixel JPEG to answer: ${what}`,
					await timed(page, file(`${of}.jpg`, await twelve(picture)), '[data-testid=seen]'),
					PICTURE_WITHIN
				)
			);
		}
		const lines = Array.from({ length: 40 }, (_, i): [string, string] => [
			(1 - 0.02 * i).toFixed(2),
			(0.34 * i).toFixed(1)
		]);
		await visit(page, `${tank}shelf/new`);
		await page.click('[data-testid=leaflet-camera]');
		const leaflet = await timed(
			page,
			file('leaflet.jpg', await leafletPicture(browser, { lines, blocks: 2, font: 'Arimo', size: 30 })),
			'[data-testid=lines-read]',
			async () => {
				await page.waitForSelector('[data-testid=read-lines]');
				await page.click('[data-testid=read-lines]');
			}
		);
		return [
			...rows,
			row('leaflet of 40 lines to its table, recognition loaded with it', leaflet, LEAFLET_WITHIN)
		];
	} finally {
		await page.close();
		rmSync(folder, { recursive: true, force: true });
	}
}
