/** A picture: sRGB and opacity, four bytes a pixel, row by row from the top left, as a canvas has it. */
export interface Pixels {
	width: number;
	height: number;
	data: Uint8ClampedArray;
}

/** A place in a picture, in pixels from its top left corner. */
export interface Spot {
	x: number;
	y: number;
}
/** Four corners, in turn: top left, top right, bottom right, bottom left of what they frame. */
export type Corners = [Spot, Spot, Spot, Spot];

/**
 * Brightness of a pixel, 0 to 255 (ITU-R BT.601); 0 outside the picture.
 *
 * @example brightnessAt({ width: 1, height: 1, data: new Uint8ClampedArray([255, 255, 255, 255]) }, 0, 0) // → 255
 */
export function brightnessAt({ width, height, data }: Pixels, x: number, y: number): number {
	if (x < 0 || y < 0 || x >= width || y >= height) return 0;
	const at = 4 * (y * width + x);
	return 0.299 * data[at]! + 0.587 * data[at + 1]! + 0.114 * data[at + 2]!;
}

/** Brightness between pixels (bilinear); places outside are those at the rim. */
export function brightnessBetween(pixels: Pixels, x: number, y: number): number {
	const cx = Math.max(0, Math.min(pixels.width - 1, x));
	const cy = Math.max(0, Math.min(pixels.height - 1, y));
	const [left, top] = [Math.floor(cx), Math.floor(cy)];
	const [right, bottom] = [Math.min(pixels.width - 1, left + 1), Math.min(pixels.height - 1, top + 1)];
	const [fx, fy] = [cx - left, cy - top];
	const upper = (1 - fx) * brightnessAt(pixels, left, top) + fx * brightnessAt(pixels, right, top);
	const lower = (1 - fx) * brightnessAt(pixels, left, bottom) + fx * brightnessAt(pixels, right, bottom);
	return (1 - fy) * upper + fy * lower;
}
