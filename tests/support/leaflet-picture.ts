import { readFileSync } from 'node:fs';
import type { Browser } from 'puppeteer-core';

/** Faces that leaflets are set in, brought along: what a machine calls sans-serif differs from the next machine's. */
const FACES = {
	arimo: 'Arimo',
	tinos: 'Tinos',
	'dejavu-sans': 'DejaVuSans',
	'dejavu-serif': 'DejaVuSerif',
	'noto-sans': 'NotoSans',
	'roboto-condensed': 'RobotoCondensed',
	'fira-sans-condensed': 'FiraSansCondensed'
} as const;
const faces = Object.entries(FACES)
	.map(([file, family]) => {
		const path = `node_modules/@fontsource/${file}/files/${file}-latin-400-normal.woff2`;
		return `@font-face{font-family:${family};src:url(data:font/woff2;base64,${readFileSync(path).toString('base64')})}`;
	})
	.join('');

/** A chart as a maker might print it, and what it says. */
export interface PrintedChart {
	lines: [reading: string, value: string][];
	/** How many blocks stand side by side. */
	blocks: number;
	font: (typeof FACES)[keyof typeof FACES];
	/** Letters' height, pixels; a photograph of a leaflet has about 30. */
	size: number;
	/** How a hand holds it: a CSS transform in perspective. */
	held?: string;
	/** Blur of the camera, pixels. */
	blur?: number;
	ruled?: boolean;
}

/** A photograph of it: paper on a table, seen at a slant, a shadow over one side, as JPEG. */
export async function leafletPicture(browser: Browser, chart: PrintedChart): Promise<Buffer> {
	const page = await browser.newPage();
	const { lines, blocks, font, size, held = 'none', blur = 0.6, ruled = true } = chart;
	const rows = Math.ceil(lines.length / blocks);
	const cell = `padding:${size * 0.28}px ${size * 0.9}px;text-align:right;${ruled ? 'border:1px solid #9a938a' : ''}`;
	const body = Array.from(
		{ length: rows },
		(_, r) =>
			`<tr>${Array.from({ length: blocks }, (_, b) => lines[b * rows + r])
				.map((line) => (line ? line.map((text) => `<td style="${cell}">${text}</td>`).join('') : ''))
				.join('')}</tr>`
	).join('');
	await page.setViewport({ width: 1600, height: Math.max(1200, Math.round(rows * size * 2.1 + 300)) });
	await page.setContent(
		`<!doctype html><style>${faces}</style><body style="margin:0;background:#6b5a48;perspective:2400px">
		<div style="margin:60px auto;width:fit-content;padding:50px 60px;background:linear-gradient(100deg,#fbf8f0,#d9d2c2);transform:${held};filter:blur(${blur}px)">
		<table style="border-collapse:collapse;font:${size}px ${font};color:#2b2724">${body}</table></div>`
	);
	await page.evaluate(() => document.fonts.ready.then(() => undefined));
	const picture = Buffer.from(await page.screenshot({ type: 'jpeg', quality: 82 }));
	await page.close();
	return picture;
}
