import { describe, expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { inkWords, typeset, type Pixels } from '.';

/** Digits of seven strokes, three wide and five high, as a calculator has them; a point is a square on the line. */
const STROKES: Record<string, string> = {
	'0': '111101101101111',
	'1': '010110010010111',
	'2': '111001111100111',
	'3': '111001111001111',
	'4': '101101111001001',
	'5': '111100111001111',
	'6': '111100111101111',
	'7': '111001010010010',
	'8': '111101111101111',
	'9': '111101111001111'
};
const DOT = 5;

/** Numbers at places, drawn on paper with a shadow and noise. */
function sheet(numbers: { text: string; x: number; y: number }[], ruled = false): Pixels {
	const [width, height] = [620, 420];
	const data = new Uint8ClampedArray(4 * width * height).fill(255);
	const chance = normal(uniform(11));
	const paper = (x: number) => 235 - 0.12 * x;
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++)
			data.fill(paper(x) + 2 * chance(), 4 * (y * width + x), 4 * (y * width + x) + 3);
	const ink = (left: number, top: number, w: number, h: number) => {
		for (let y = top; y < top + h; y++)
			for (let x = left; x < left + w; x++)
				data.fill(0.3 * paper(x), 4 * (y * width + x), 4 * (y * width + x) + 3);
	};
	for (const { text, x, y } of numbers) {
		let left = x;
		for (const c of text) {
			if (c === '.' || c === ',') {
				ink(left + 2, y + 5 * DOT - 5, 5, c === ',' ? 8 : 5);
				left += 12;
				continue;
			}
			[...STROKES[c]!].forEach((on, i) => {
				if (on === '1') ink(left + DOT * (i % 3), y + DOT * Math.floor(i / 3), DOT, DOT);
			});
			left += 3 * DOT + 4;
		}
	}
	if (ruled) for (const y of [30, 90, 150]) ink(10, y, width - 20, 2);
	return { width, height, data };
}

describe('words of print', () => {
	const NUMBERS = [
		{ text: '0.48', x: 60, y: 50 },
		{ text: '8.1', x: 300, y: 50 },
		{ text: '0,50', x: 60, y: 110 },
		{ text: '12.75', x: 300, y: 110 },
		{ text: '132', x: 480, y: 110 }
	];

	it.each([false, true])(
		'are found with their letters and points, in shadow and noise; lines of a table are none (%s)',
		(ruled) => {
			const words = inkWords(sheet(NUMBERS, ruled));
			expect(words.map((w) => [w.letters.length, w.decimals])).toEqual([
				[3, 2],
				[2, 1],
				[3, 2],
				[4, 2],
				[3, undefined]
			]);
			words.forEach((w, i) => {
				const { x, y } = NUMBERS[i]!;
				expect([Math.abs(w.box[0] - x) < 3, Math.abs(w.box[1] - y) < 3]).toEqual([true, true]);
			});
		}
	);

	it('far apart are two, and a blot on the line between them is no point of either', () => {
		const words = inkWords(
			sheet([
				...NUMBERS,
				{ text: '7', x: 60, y: 200 },
				{ text: '.', x: 150, y: 200 },
				{ text: '9', x: 240, y: 200 }
			])
		);
		expect(words.filter((w) => w.box[1] > 190).map((w) => [w.letters.length, w.decimals])).toEqual([
			[1, undefined],
			[1, undefined]
		]);
	});

	it('are set anew each in a place of its own, without points, dark on white', () => {
		const picture = sheet(NUMBERS);
		const words = inkWords(picture);
		const { sheet: set, places } = typeset(picture, words);
		const darkIn = ([l, t, r, b]: (typeof places)[number]) => {
			let dark = 0;
			for (let y = t; y < b; y++)
				for (let x = l; x < r; x++) if (set.data[4 * (y * set.width + x)]! < 128) dark++;
			return dark / ((r - l) * (b - t));
		};
		for (const place of places) expect(darkIn(place)).toBeGreaterThan(0.2);
		for (const [i, a] of places.entries())
			for (const b of places.slice(i + 1)) expect(a[2] < b[0] || a[3] < b[1] || b[2] < a[0]).toBe(true);
		// Where the point stood there is paper.
		const [first] = words;
		const scale = (places[0]![2] - places[0]![0]) / (first!.box[2] - first!.box[0]);
		const point = first!.points[0]!;
		const x = Math.round(places[0]![0] + ((point[0] + point[2]) / 2 - first!.box[0]) * scale);
		const y = Math.round(places[0]![1] + ((point[1] + point[3]) / 2 - first!.box[1]) * scale);
		expect(set.data[4 * (y * set.width + x)]).toBeGreaterThan(200);
	});

	it('are none on empty paper', () => {
		expect(inkWords(sheet([]))).toEqual([]);
	});
});
