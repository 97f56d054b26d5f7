import { nth } from '../base';
import { median } from '../statistics';
import type { Box } from './leaflet';
import { brightnessAt, brightnessBetween, type Pixels } from './pixels';

/** A word of print: its place, its letters, and the point or comma in it. */
export interface InkWord {
	box: Box;
	letters: Box[];
	/** How many letters stand behind a point. */
	decimals?: number;
	points: Box[];
}

/** Ink is darker than its surroundings by so much of their brightness, and by so many of 255 at least. */
const DARKER = 0.14;
const DARKER_STEPS = 12;
/** Surroundings: so much of the picture's shorter side. */
const SURROUNDINGS = 1 / 24;
/** Letters are of one height within these limits, a point is so much smaller, words stand so far apart: all in heights of a letter. */
const LETTER = [0.68, 1.45] as const;
const WIDEST = 2.6;
const POINT = 0.36;
const POINT_LEAST = 0.07;
const APART = 0.5;
const APART_AT_POINT = 1.1;
/** Width of a digit. */
const DIGIT = 0.68;
/** A page of print has no more; grain and gravel have. */
const MOST_BLOTS = 8000;
/** Least height of a letter that can be read, pixels. */
const LEAST = 8;

/**
 * Words of dark print in a picture seen straight on. Lines of a table and blots are left out; points, which recognition loses first, are
 * found by their size and place.
 *
 * @example inkWords({ width: 2, height: 2, data: new Uint8ClampedArray(16).fill(255) }) // → []
 */
export function inkWords(pixels: Pixels): InkWord[] {
	const blots = blotsOf(inkIn(pixels), pixels.width, pixels.height);
	const upright = blots.filter(
		(b) => tall(b) >= LEAST && wide(b) < 1.3 * tall(b) && tall(b) < pixels.height / 8 && tall(b) < 6 * wide(b)
	);
	if (upright.length < 4 || blots.length > MOST_BLOTS) return [];
	const height = median(upright.map(tall));
	const letters = blots.filter(
		(b) => tall(b) > LETTER[0] * height && tall(b) < LETTER[1] * height && wide(b) < WIDEST * height
	);
	const points = blots.filter(
		(b) =>
			tall(b) < POINT * 1.5 * height &&
			wide(b) < POINT * height &&
			Math.max(tall(b), wide(b)) > POINT_LEAST * height
	);
	const words: InkWord[] = [];
	for (const letter of letters.sort((a, b) => a[0] - b[0])) {
		const word = words.find((w) => {
			const last = nth(w.letters, w.letters.length - 1);
			const level = Math.min(last[3], letter[3]) - Math.max(last[1], letter[1]);
			const gap = letter[0] - last[2];
			const pointed = points.some(
				(p) => p[0] >= last[2] - 1 && p[2] <= letter[0] + 1 && onLine(p, last, height)
			);
			return (
				gap < (pointed ? APART_AT_POINT : APART) * height &&
				gap > -0.3 * height &&
				level > 0.6 * Math.min(tall(last), tall(letter))
			);
		});
		if (word) {
			word.letters.push(letter);
			word.box = around(word.box, letter);
		} else words.push({ box: [...letter], letters: [letter], points: [] });
	}
	for (const point of points) {
		const middle = (point[0] + point[2]) / 2;
		const word = words.find(({ box }) => middle > box[0] && middle < box[2] && onLine(point, box, height));
		if (!word) continue;
		// Blurred letters run together: a wide one is several.
		const count = (of: Box[]) =>
			of.reduce((sum, l) => sum + Math.max(1, Math.round(wide(l) / (DIGIT * height))), 0);
		const behind = count(word.letters.filter((l) => (l[0] + l[2]) / 2 > middle));
		if (behind === 0) continue;
		word.decimals = behind;
		word.points.push(point);
	}
	return words.sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
}

/** Whether a point sits on the line a letter or word stands on. */
const onLine = (point: Box, of: Box, height: number): boolean =>
	point[3] > of[3] - 0.3 * height && point[3] < of[3] + 0.35 * height && point[1] > of[1] + 0.5 * height;

const wide = (b: Box) => b[2] - b[0];
const tall = (b: Box) => b[3] - b[1];
const around = (a: Box, b: Box): Box => [
	Math.min(a[0], b[0]),
	Math.min(a[1], b[1]),
	Math.max(a[2], b[2]),
	Math.max(a[3], b[3])
];

/** Which pixels are ink: darker than the mean about them (by an integral image, Crow 1984). */
function inkIn(pixels: Pixels): Uint8Array {
	const { width, height } = pixels;
	const half = Math.max(8, Math.round((Math.min(width, height) * SURROUNDINGS) / 2));
	const sums = new Float64Array((width + 1) * (height + 1));
	for (let y = 0; y < height; y++) {
		let row = 0;
		for (let x = 0; x < width; x++) {
			row += brightnessAt(pixels, x, y);
			sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + row;
		}
	}
	const ink = new Uint8Array(width * height);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [l, r] = [Math.max(0, x - half), Math.min(width, x + half + 1)];
			const [t, b] = [Math.max(0, y - half), Math.min(height, y + half + 1)];
			const w = width + 1;
			const mean =
				(sums[b * w + r]! - sums[b * w + l]! - sums[t * w + r]! + sums[t * w + l]!) / ((r - l) * (b - t));
			if (brightnessAt(pixels, x, y) < mean - Math.max(DARKER_STEPS, DARKER * mean)) ink[y * width + x] = 1;
		}
	return ink;
}

/** Boxes of ink that hangs together, corners included. */
function blotsOf(ink: Uint8Array, width: number, height: number): Box[] {
	const boxes: Box[] = [];
	const stack: number[] = [];
	for (let start = 0; start < ink.length; start++) {
		if (ink[start] !== 1) continue;
		const box: Box = [width, height, 0, 0];
		ink[start] = 2;
		stack.push(start);
		while (stack.length) {
			const at = stack.pop()!;
			const [x, y] = [at % width, (at / width) | 0];
			box[0] = Math.min(box[0], x);
			box[1] = Math.min(box[1], y);
			box[2] = Math.max(box[2], x + 1);
			box[3] = Math.max(box[3], y + 1);
			for (let dy = -1; dy <= 1; dy++)
				for (let dx = -1; dx <= 1; dx++) {
					const [nx, ny] = [x + dx, y + dy];
					if (nx < 0 || ny < 0 || nx >= width || ny >= height || ink[ny * width + nx] !== 1) continue;
					ink[ny * width + nx] = 2;
					stack.push(ny * width + nx);
				}
		}
		boxes.push(box);
	}
	return boxes;
}

/** Height of a letter, and of a row, on the sheet that is given to recognition, pixels; and its columns. */
const SET_HEIGHT = 32;
const ROW = 64;
const COLUMN = 320;
const COLUMNS = 4;

/** Words set anew, each in a place of its own, without points and without what is about them, as recognition likes it; and where each stands. */
export function typeset(pixels: Pixels, words: InkWord[]): { sheet: Pixels; places: Box[] } {
	const rows = Math.ceil(words.length / COLUMNS);
	const [width, height] = [COLUMN * COLUMNS, ROW * (rows + 1)];
	const data = new Uint8ClampedArray(4 * width * height).fill(255);
	const places = words.map((word, i): Box => {
		const scale = SET_HEIGHT / median(word.letters.map(tall));
		const [left, top] = [40 + COLUMN * (i % COLUMNS), ROW * Math.floor(i / COLUMNS) + 24];
		const [w, h] = [
			Math.min(COLUMN - 60, Math.round(wide(word.box) * scale)),
			Math.round(tall(word.box) * scale)
		];
		const paper = paperAbout(pixels, word.box);
		for (let y = -3; y < h + 3; y++)
			for (let x = -3; x < w + 3; x++) {
				const [px, py] = [word.box[0] + (x + 0.5) / scale - 0.5, word.box[1] + (y + 0.5) / scale - 0.5];
				if (word.points.some((p) => px > p[0] - 1.5 && px < p[2] + 0.5 && py > p[1] - 1.5)) continue;
				if (!word.letters.some((l) => px > l[0] - 2 && px < l[2] + 1 && py > l[1] - 2 && py < l[3] + 1))
					continue;
				const v = Math.max(0, Math.min(255, (255 * brightnessBetween(pixels, px, py)) / paper));
				const to = 4 * ((top + y) * width + left + x);
				data[to] = data[to + 1] = data[to + 2] = v;
			}
		return [left, top, left + w, top + h];
	});
	return { sheet: { width, height, data }, places };
}

/** Brightness of the paper about a word: nine tenths of what is there are no brighter. */
function paperAbout(pixels: Pixels, box: Box): number {
	const seen: number[] = [];
	for (let y = box[1] - 2; y < box[3] + 2; y += 2)
		for (let x = box[0] - 2; x < box[2] + 2; x += 2) seen.push(brightnessAt(pixels, x, y));
	return Math.max(
		30,
		nth(
			seen.sort((a, b) => a - b),
			Math.floor(0.85 * seen.length)
		)
	);
}
