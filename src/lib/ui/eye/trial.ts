import type { Method } from '$core/instruments';
import { nth } from '$core/base';
import type { Pixels } from '$core/picture';
import { photographCard, photographSyringe, type Dye } from '$core/photograph';

const JPEG = { type: 'image/jpeg', quality: 0.92 };
const DYE: Record<string, Dye> = { phosphate: 'blue', ammonia: 'green', nitrite: 'pink', nitrate: 'pink' };

/** A made-up picture of this very instrument, to try the eye without a camera: another one each time. */
export async function trialPicture(method: Method): Promise<Blob> {
	const seed = Math.floor(Math.random() * 1e6);
	return fileOf(
		method.reads === 'syringe'
			? syringe(method.syringe, seed)
			: card(method.reads === 'shades' ? method.shades : [0, 1], method.parameter, seed)
	);
}

function card(values: number[], parameter: string, seed: number): Pixels {
	const place = 0.4 + Math.random() * (values.length - 1.6);
	const i = Math.floor(place);
	const value = nth(values, i) + (place - i) * (nth(values, i + 1) - nth(values, i));
	const dye = DYE[parameter] ?? 'orange';
	return photographCard({
		card: { values, dye, top: 1.2, flattens: 2, ink: 0.2 },
		value,
		light: 'warm strip',
		camera: { whiteBalance: 0.7, exposure: 0.7, contrast: 0.2, noise: 2 },
		gradient: 0.15,
		slant: 0.12,
		blur: 1,
		width: 1200,
		height: 900,
		seed
	}).pixels;
}

function syringe({ fillMl, graduationMl }: { fillMl: number; graduationMl: number }, seed: number): Pixels {
	return photographSyringe({
		fillMl,
		graduationMl,
		left: fillMl * (0.15 + 0.7 * Math.random()),
		air: 0.04 * fillMl,
		upsideDown: true,
		turned: -Math.PI / 2 + 0.05,
		slant: 0.02,
		seal: 0.04,
		ground: 0.66,
		tint: 0.2,
		gradient: 0.15,
		blur: 1,
		noise: 2,
		length: 1000,
		width: 900,
		height: 1300,
		seed
	}).pixels;
}

function fileOf({ width, height, data }: Pixels): Promise<Blob> {
	const canvas = new OffscreenCanvas(width, height);
	canvas
		.getContext('2d')!
		.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0);
	return canvas.convertToBlob(JPEG);
}
