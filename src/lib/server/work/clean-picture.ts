import sharp from 'sharp';
import { bad, good, type Outcome } from '../../../core/base';
import { MOST_PIXELS, PHOTO_BYTES, PHOTO_SIDE } from '../../api/photos';

/** Pictures are these three and nothing else: every other loader (SVG, PDF, TIFF, …) is shut. */
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({
	operation: ['VipsForeignLoadJpeg', 'VipsForeignLoadPng', 'VipsForeignLoadWebp']
});
// One picture has one thread: the others are somebody else's.
sharp.concurrency(1);
sharp.cache(false);

/** Qualities that are tried, one after the other, until a picture fits. */
const QUALITIES = [82, 70, 55, 40];

/** A picture as it is kept. */
export interface CleanPicture {
	jpeg: Uint8Array;
	width: number;
	height: number;
}

/** A picture as it is kept: upright, scaled, JPEG, without a word about where and by what it was taken. */
export async function cleaned(sent: Uint8Array): Promise<Outcome<CleanPicture>> {
	try {
		const { data, info } = await sharp(sent, { limitInputPixels: MOST_PIXELS, failOn: 'error' })
			.rotate()
			.resize({ width: PHOTO_SIDE, height: PHOTO_SIDE, fit: 'inside', withoutEnlargement: true })
			.flatten({ background: '#ffffff' })
			.removeAlpha()
			.toColourspace('srgb')
			.raw()
			.toBuffer({ resolveWithObject: true });
		for (const quality of QUALITIES) {
			const { width, height, channels } = info;
			const jpeg = await sharp(data, { raw: { width, height, channels } })
				.jpeg({ quality, mozjpeg: true })
				.toBuffer();
			if (jpeg.length <= PHOTO_BYTES) return good({ jpeg, width, height });
		}
		return bad('/picture', 'is too rich in detail to be kept small');
	} catch {
		return bad(
			'/picture',
			`is no picture that can be read: JPEG, PNG or WebP, of at most ${MOST_PIXELS / 1e6} million pixels`
		);
	}
}
