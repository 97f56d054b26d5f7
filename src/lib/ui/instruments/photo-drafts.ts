import { v7 as uuid } from 'uuid';
import type { PhotoMarks } from '$core/picture';
import { savingPhoto } from '$lib/client/commands';
import { keepDraft, readDraft } from '$lib/client/drafts';
import type { PendingWrite } from '$lib/client/pending-write';

/** A picture that waits on this device for its reading to be saved. */
export interface PhotoDraft {
	/** JPEG, base64. */
	picture: string;
	marks: PhotoMarks;
	/** When it was taken. */
	at: string;
}

export const keepPhoto = (name: string, photo: PhotoDraft | undefined): void =>
	keepDraft(`photo.${name}`, photo);

/** Moves a picture on to another name: from an instrument to the reading that was made on it. */
export function movePhoto(from: string, to: string): void {
	const photo = readDraft<PhotoDraft>(`photo.${from}`);
	if (!photo) return;
	keepPhoto(from, undefined);
	keepPhoto(to, photo);
}

/** The write that puts a waiting picture beside its reading; nothing where none waits. It waits no longer then. */
export function photoWrite(name: string, readingId: string): PendingWrite | undefined {
	const photo = readDraft<PhotoDraft>(`photo.${name}`);
	if (photo) keepPhoto(name, undefined);
	if (!photo?.picture) return undefined;
	return savingPhoto(uuid(), { readingId, ...photo });
}
