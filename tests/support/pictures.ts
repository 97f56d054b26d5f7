import sharp from 'sharp';
import type { Corners, Pixels } from '../../src/core/picture';

/** A picture as a phone keeps it. */
export const jpegOf = ({ width, height, data }: Pixels, quality = 85): Promise<Buffer> =>
	sharp(Buffer.from(data.buffer), { raw: { width, height, channels: 4 } })
		.jpeg({ quality })
		.toBuffer();

/** The pixels of a file. */
async function pixelsOf(file: Buffer): Promise<Pixels> {
	const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
}

/** Pixels as they come back from a JPEG. */
export const throughJpeg = async (pixels: Pixels, quality = 85): Promise<Pixels> =>
	pixelsOf(await jpegOf(pixels, quality));

export const boxed = ([left, top, right, bottom]: [number, number, number, number]): Corners => [
	{ x: left, y: top },
	{ x: right, y: top },
	{ x: right, y: bottom },
	{ x: left, y: bottom }
];
