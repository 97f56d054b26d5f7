import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { uniform } from '../statistics';
import {
	findStrip,
	inkWords,
	inverse,
	perspectiveOf,
	placeIn,
	shrunk,
	straightened,
	type Corners,
	type Pixels
} from '.';

const near = (a: { x: number; y: number }, b: { x: number; y: number }, within = 1e-6) =>
	expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(within);
/** Four corners a hand may have dragged: a square, each corner off by up to a fifth. */
const dragged = fc
	.array(fc.double({ min: -0.2, max: 0.2, noNaN: true }), { minLength: 8, maxLength: 8 })
	.map((o): Corners => [
		{ x: 100 * o[0]!, y: 100 * o[1]! },
		{ x: 100 + 100 * o[2]!, y: 100 * o[3]! },
		{ x: 100 + 100 * o[4]!, y: 100 + 100 * o[5]! },
		{ x: 100 * o[6]!, y: 100 + 100 * o[7]! }
	]);
const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('a perspective', () => {
	it('takes the corners of the square to the four that were dragged, and back', () => {
		fc.assert(
			fc.property(dragged, share, share, (corners, x, y) => {
				const view = perspectiveOf(corners)!;
				const square = [
					{ x: 0, y: 0 },
					{ x: 1, y: 0 },
					{ x: 1, y: 1 },
					{ x: 0, y: 1 }
				];
				square.forEach((at, i) => near(placeIn(view, at), corners[i as 0]));
				near(placeIn(inverse(view), placeIn(view, { x, y })), { x, y });
			})
		);
	});

	it('keeps straight lines straight', () => {
		fc.assert(
			fc.property(dragged, share, share, share, (corners, a, b, t) => {
				const view = perspectiveOf(corners)!;
				const [from, to] = [
					{ x: a, y: 0 },
					{ x: b, y: 1 }
				];
				const [p, q, r] = [from, to, { x: a + t * (b - a), y: t }].map((s) => placeIn(view, s)) as Corners;
				const area = (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
				expect(Math.abs(area)).toBeLessThan(1e-6);
			})
		);
	});

	it('is none where the corners lie in one line', () => {
		const line = [0, 1, 2, 3].map((x) => ({ x, y: 2 * x })) as Corners;
		expect(perspectiveOf(line)).toBeUndefined();
		expect(
			straightened({ width: 4, height: 8, data: new Uint8ClampedArray(128) }, line, 2, 2)
		).toBeUndefined();
	});
});

/** A chessboard of so many fields a side, eight pixels each. */
function board(fields: number): Pixels {
	const side = 8 * fields;
	const data = new Uint8ClampedArray(4 * side * side).fill(255);
	for (let y = 0; y < side; y++)
		for (let x = 0; x < side; x++)
			if (((x >> 3) + (y >> 3)) % 2) data.fill(20, 4 * (y * side + x), 4 * (y * side + x) + 3);
	return { width: side, height: side, data };
}
const at = ({ width, data }: Pixels, x: number, y: number) => data[4 * (y * width + x)]!;

describe('a picture', () => {
	it('straightened by its own corners is itself, and by a turn is turned', () => {
		const picture = board(4);
		const [w, h] = [picture.width, picture.height];
		const corners: Corners = [
			{ x: 0, y: 0 },
			{ x: w, y: 0 },
			{ x: w, y: h },
			{ x: 0, y: h }
		];
		expect(straightened(picture, corners, w, h)!.data).toEqual(picture.data);
		const quarter = straightened(picture, [corners[1], corners[2], corners[3], corners[0]], w, h)!;
		expect(at(quarter, 4, 4)).toBe(at(picture, w - 5, 4));
	});

	it('made smaller has the mean of what each pixel stands for', () => {
		const small = shrunk(board(4), 16);
		expect([small.width, small.height]).toEqual([2, 2]);
		for (const [x, y] of [
			[0, 0],
			[1, 1]
		] as const)
			expect(Math.abs(at(small, x, y) - (255 + 20) / 2)).toBeLessThan(1);
	});
});

describe('grain and gravel', () => {
	it('are no card and no print, and nobody waits for them', () => {
		const random = uniform(5);
		const [width, height] = [1200, 900];
		const data = new Uint8ClampedArray(4 * width * height);
		for (let i = 0; i < data.length; i++) data[i] = i % 4 === 3 ? 255 : 255 * random();
		const grain = { width, height, data };
		expect(findStrip(grain, 6)).toBeUndefined();
		expect(inkWords(grain)).toEqual([]);
		// Even stones, one beside the other.
		for (let y = 0; y < height; y++)
			for (let x = 0; x < width; x++)
				data.fill((37 * (x >> 5) + 91 * (y >> 5)) % 250, 4 * (y * width + x), 4 * (y * width + x) + 3);
		// Along every pair of a thousand stones it would look for minutes, and the test would be over.
		expect([findStrip(grain, 8)?.length ?? 4, Array.isArray(inkWords(grain))]).toEqual([4, true]);
	});
});
