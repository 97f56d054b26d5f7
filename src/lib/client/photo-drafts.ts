import { v7 as uuid } from 'uuid';
import type { PhotoMarks } from '$core/picture';
import { savingPhoto } from './commands';
import { keysOf, keepStored, readStored } from './device-storage';
import type { PendingWrite } from './pending-write';
import { keepPicture } from './pictures';

/** A picture that waits on this device for its reading to be saved. */
export interface PhotoDraft {
	/** Under which key it lies (`pictures.ts`). */
	key: string;
	marks: PhotoMarks;
	/** When it was taken. */
	at: string;
}
const PREFIX = 'tevrik.draft.photo.';
const photoOn = (name: string) => readStored<PhotoDraft>(PREFIX + name);

export const keepPhoto = (name: string, photo: PhotoDraft | undefined): void =>
	void keepStored(PREFIX + name, photo);

/** A picture that was read: JPEG, base64. */
export interface SeenPhoto {
	picture: string;
	marks: PhotoMarks;
}
/** A picture that was taken: it waits from now on. */
export function takenPhoto(name: string, { picture, ...photo }: SeenPhoto & { at: string }): void {
	const key = uuid();
	keepPhoto(name, { key, ...photo });
	void keepPicture(key, picture);
}

/** Moves a picture on to another name: from an instrument to the reading that was made on it. */
export function movePhoto(from: string, to: string): void {
	const photo = photoOn(from);
	if (!photo) return;
	keepPhoto(to, photo);
	keepPhoto(from, undefined);
}

/** Hands on the write that puts a waiting picture beside its reading, where one waits; then it waits no longer. */
export function sendPhoto(
	name: string,
	readingId: string,
	post: (write: PendingWrite) => void
): PendingWrite | undefined {
	const photo = photoOn(name);
	if (!photo?.key) return undefined;
	const { key, ...about } = photo;
	const write = savingPhoto(uuid(), { readingId, ...about }, key);
	// Something refers to the picture at every moment: what nothing refers to is swept.
	post(write);
	keepPhoto(name, undefined);
	return write;
}
/** The picture of such a write, waiting again. */
export function photoOf({ body, picture }: PendingWrite): PhotoDraft {
	const { marks, at } = body as Omit<PhotoDraft, 'key'>;
	return { key: picture!, marks, at };
}

/** Keys of the pictures that wait for a reading. */
export const photosReferred = (): string[] =>
	keysOf(PREFIX).flatMap((name) => readStored<PhotoDraft>(name)?.key ?? []);

/** Older pages kept a picture within its draft. */
export async function setPhotosApart(): Promise<void> {
	for (const name of keysOf(PREFIX)) {
		const { picture, ...photo } = readStored<Partial<PhotoDraft> & { picture?: string }>(name) ?? {};
		if (photo.key !== undefined || picture === undefined) continue;
		const key = uuid();
		await keepPicture(key, picture);
		keepStored(name, { key, ...photo });
	}
}
