import { nth } from '../base';
import type { Corners, Pixels, Spot } from './pixels';

/** A plane seen at a slant: nine numbers that take a place on it to a place in the picture. */
export type Perspective = readonly number[];

/**
 * The perspective that shows the unit square's corners, (0,0), (1,0), (1,1) and (0,1), at these four (Heckbert 1989).
 * Corners in one line give nothing.
 *
 * @example placeIn(perspectiveOf([{ x: 0, y: 0 }, { x: 8, y: 0 }, { x: 8, y: 4 }, { x: 0, y: 4 }]), { x: 0.5, y: 0.5 }) // → { x: 4, y: 2 }
 */
export function perspectiveOf([p0, p1, p2, p3]: Corners): Perspective | undefined {
	const [dx1, dx2, dx3] = [p1.x - p2.x, p3.x - p2.x, p0.x - p1.x + p2.x - p3.x];
	const [dy1, dy2, dy3] = [p1.y - p2.y, p3.y - p2.y, p0.y - p1.y + p2.y - p3.y];
	const det = dx1 * dy2 - dx2 * dy1;
	if (Math.abs(det) < 1e-9) return undefined;
	const g = (dx3 * dy2 - dx2 * dy3) / det;
	const h = (dx1 * dy3 - dx3 * dy1) / det;
	return [
		p1.x - p0.x + g * p1.x,
		p3.x - p0.x + h * p3.x,
		p0.x,
		p1.y - p0.y + g * p1.y,
		p3.y - p0.y + h * p3.y,
		p0.y,
		g,
		h,
		1
	];
}

/**
 * Where a place of the plane stands in the picture.
 *
 * @example placeIn([2, 0, 1, 0, 2, 1, 0, 0, 1], { x: 3, y: 4 }) // → { x: 7, y: 9 }
 */
export function placeIn(m: Perspective, { x, y }: Spot): Spot {
	const w = nth(m, 6) * x + nth(m, 7) * y + nth(m, 8);
	return {
		x: (nth(m, 0) * x + nth(m, 1) * y + nth(m, 2)) / w,
		y: (nth(m, 3) * x + nth(m, 4) * y + nth(m, 5)) / w
	};
}

/**
 * The perspective the other way: from the picture to the plane (adjugate; a common factor changes nothing).
 *
 * @example placeIn(inverse([2, 0, 1, 0, 2, 1, 0, 0, 1]), { x: 7, y: 9 }) // → { x: 3, y: 4 }
 */
export function inverse(m: Perspective): Perspective {
	const [a, b, c, d, e, f, g, h, i] = m as unknown as [
		number,
		number,
		number,
		number,
		number,
		number,
		number,
		number,
		number
	];
	return [
		e * i - f * h,
		c * h - b * i,
		b * f - c * e,
		f * g - d * i,
		a * i - c * g,
		c * d - a * f,
		d * h - e * g,
		b * g - a * h,
		a * e - b * d
	];
}

/**
 * What four corners frame, seen straight on, as a picture of `width` by `height` pixels. Corners in one line give nothing.
 *
 * @example straightened({ width: 2, height: 1, data: new Uint8ClampedArray(8).fill(9) }, [{ x: 0, y: 0 }, { x: 1, y: 0 }, { x: 1, y: 1 }, { x: 0, y: 1 }], 1, 1).data[0] // → 9
 */
export function straightened(
	pixels: Pixels,
	corners: Corners,
	width: number,
	height: number
): Pixels | undefined {
	const view = perspectiveOf(corners);
	if (!view) return undefined;
	const data = new Uint8ClampedArray(4 * width * height);
	const { width: w, height: h, data: from } = pixels;
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const spot = placeIn(view, { x: (x + 0.5) / width, y: (y + 0.5) / height });
			const px = Math.max(0, Math.min(w - 1.001, spot.x - 0.5));
			const py = Math.max(0, Math.min(h - 1.001, spot.y - 0.5));
			const [left, top] = [Math.floor(px), Math.floor(py)];
			const [fx, fy] = [px - left, py - top];
			const at = 4 * (top * w + left);
			const right = left + 1 < w ? 4 : 0;
			const below = top + 1 < h ? 4 * w : 0;
			const to = 4 * (y * width + x);
			for (let c = 0; c < 3; c++)
				data[to + c] =
					(1 - fy) * ((1 - fx) * from[at + c]! + fx * from[at + right + c]!) +
					fy * ((1 - fx) * from[at + below + c]! + fx * from[at + below + right + c]!);
			data[to + 3] = 255;
		}
	return { width, height, data };
}
