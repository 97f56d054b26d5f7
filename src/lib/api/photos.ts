import Type from 'typebox';
import { PhotoMarks } from '../../core/picture';
import { exact, id, moment, orNull } from './parts';

/** What is kept of a picture: so many pixels along its longer side, and so many bytes at most. */
export const PHOTO_SIDE = 1280;
export const PHOTO_BYTES = 240 * 1024;
/** A picture of more pixels is not opened: a device that has scaled it as it should sends less than half of that. */
export const MOST_PIXELS = 4_000_000;
/** A tank keeps so many; beyond them the oldest go. */
export const PHOTOS_OF_A_TANK = 2000;

/** A picture on its way to the reading it was taken for: a JPEG, WebP or PNG as base64. */
export const SavePhoto = Type.Object(
	{
		readingId: id,
		at: moment,
		picture: Type.String({ minLength: 20, maxLength: 900_000, pattern: '^[A-Za-z0-9+/]+={0,2}$' }),
		marks: Type.Optional(PhotoMarks)
	},
	exact
);
export type SavePhoto = Type.Static<typeof SavePhoto>;

/** A picture beside its reading, without the picture itself, which stands at `/photos/{id}`. */
export const Photo = Type.Object(
	{
		id,
		readingId: id,
		at: moment,
		width: Type.Integer(),
		height: Type.Integer(),
		marks: orNull(PhotoMarks)
	},
	exact
);
export type Photo = Type.Static<typeof Photo>;
