import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CardMarks, Corners } from '$core/picture';
import { asShares, cardHandles, cardOutlines, firstEnds, firstMarks, inPixels, moved } from './marking';

const SIZE = { width: 1600, height: 1200 };
const strip: Corners = [
	{ x: 100, y: 80 },
	{ x: 300, y: 90 },
	{ x: 310, y: 900 },
	{ x: 105, y: 910 }
];

describe('marks in a picture', () => {
	it('begin where the card was found, else where they were last for this kit, else somewhere sensible', () => {
		const fresh = firstMarks(SIZE, 'card', undefined, undefined);
		expect(firstMarks(SIZE, 'card', undefined, strip).corners).toEqual(strip);
		const remembered = asShares(moved({ ...fresh, corners: strip }, 'vial.move', { x: 800, y: 600 }), SIZE);
		const again = firstMarks({ width: 800, height: 600 }, 'card', remembered, undefined);
		expect(again.corners[2]).toEqual({ x: 155, y: 450 });
		expect(fresh.zero).toBeUndefined();
		expect(firstMarks(SIZE, 'wheel', undefined, strip).zero).toBeDefined();
		for (const { at } of cardHandles(firstMarks(SIZE, 'wheel', undefined, undefined))) {
			expect(at.x).toBeGreaterThan(0);
			expect(at.x).toBeLessThan(SIZE.width);
		}
	});

	it('are kept as shares and come back the same, in a picture of any size', () => {
		fc.assert(
			fc.property(fc.integer({ min: 64, max: 5000 }), fc.integer({ min: 64, max: 5000 }), (width, height) => {
				const marks = firstMarks({ width, height }, 'wheel', undefined, undefined);
				const back = inPixels(asShares(marks, { width, height }), { width, height }) as CardMarks;
				for (const part of ['corners', 'vial', 'white', 'zero'] as const)
					back[part]!.forEach((spot, i) =>
						expect(Math.hypot(spot.x - marks[part]![i as 0].x, spot.y - marks[part]![i as 0].y)).toBeLessThan(
							0.1
						)
					);
			})
		);
	});

	it('move one at a time: a corner alone, an area by its middle as it is, its size from its other corner', () => {
		const marks = firstMarks(SIZE, 'card', undefined, strip);
		expect(moved(marks, 'corner.1', { x: 333, y: 44 }).corners).toEqual([
			strip[0],
			{ x: 333, y: 44 },
			strip[2],
			strip[3]
		]);
		const shifted = moved(marks, 'vial.move', { x: 500, y: 500 });
		const span = (c: Corners) => [c[2].x - c[0].x, c[2].y - c[0].y];
		expect(span(shifted.vial)).toEqual(span(marks.vial));
		expect((shifted.vial[0].x + shifted.vial[2].x) / 2).toBeCloseTo(500, 9);
		expect(shifted.white).toBe(marks.white);
		const sized = moved(marks, 'white.size', { x: 0, y: 0 });
		expect(sized.white![0]).toEqual(marks.white![0]);
		expect(Math.min(...span(sized.white!))).toBeGreaterThan(0);
	});

	it('show where each patch is looked at: in a row down, or around a wheel', () => {
		const values = [0, 1, 2, 4];
		const row = cardOutlines(firstMarks(SIZE, 'card', undefined, strip), values, 'card').patches;
		expect(row.map((p) => p.value)).toEqual(values);
		expect(row.every((p, i) => i === 0 || p.at.y > row[i - 1]!.at.y + 150)).toBe(true);
		const wheel = cardOutlines(firstMarks(SIZE, 'wheel', undefined, undefined), values, 'wheel');
		expect(wheel.patches[0]!.at.y).toBeLessThan(wheel.patches[2]!.at.y);
		expect(wheel.patches[1]!.at.x).toBeGreaterThan(wheel.patches[3]!.at.x);
		expect(wheel.outlines.map((o) => o.id)).toEqual(['card', 'vial', 'white', 'zero']);
	});

	it('of a syringe lie along the picture', () => {
		expect(firstEnds({ width: 900, height: 1300 }, undefined).zero.y).toBeGreaterThan(
			firstEnds({ width: 900, height: 1300 }, undefined).full.y
		);
		const ends = firstEnds({ width: 1300, height: 900 }, undefined);
		expect(ends.zero.y).toBe(ends.full.y);
		expect(
			inPixels(asShares(ends, { width: 1300, height: 900 }), { width: 1300, height: 900 })
		).toMatchObject({ full: { x: ends.full.x } });
	});
});
