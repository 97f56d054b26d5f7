import { beforeEach, describe, expect, it, vi } from 'vitest';
import { savingReading } from './commands';
import { keepStored, keysOf, readStored } from './device-storage';
import { hangingOn, sendable, type PendingWrite } from './pending-write';
import { movePhoto, photosReferred, sendPhoto, setPhotosApart, takenPhoto } from './photo-drafts';
import { readPicture, sweepPictures } from './pictures';

const READING = '01900000-0000-7000-8000-000000000001';
const picture = 'aGVsbG8gcGljdHVyZSBvZiBhIGNhcmQ=';
const about = {
	marks: { of: 'syringe' as const, zero: { x: 0.5, y: 0.9 }, full: { x: 0.5, y: 0.1 } },
	at: '2026-05-06T20:10:00.000Z'
};
const waiting = () => keysOf('tevrik.draft.photo.');
const sent = (name: string): PendingWrite => {
	let out: PendingWrite | undefined;
	sendPhoto(name, READING, (write) => (out = write));
	return out!;
};

/** As a browser that has no database: pictures lie beside the rest. What is swept, and what waits over a reload in one that has, stands in `outbox.test.ts` of the pages. */
beforeEach(() => {
	const kept = new Map<string, string>();
	vi.stubGlobal('localStorage', {
		get length() {
			return kept.size;
		},
		key: (i: number) => [...kept.keys()][i] ?? null,
		getItem: (name: string) => kept.get(name) ?? null,
		setItem: (name: string, text: string) => void kept.set(name, text),
		removeItem: (name: string) => void kept.delete(name)
	});
});

describe('a picture that waits for its reading', () => {
	it('goes from the instrument to the reading, and out once, and lies apart all the way', async () => {
		takenPhoto('bench', { picture, ...about });
		movePhoto('bench', READING);
		movePhoto('another', READING);
		expect(waiting()).toEqual([`tevrik.draft.photo.${READING}`]);
		const write = sent(READING);
		expect(write).toMatchObject({ method: 'PUT', quiet: true, body: { readingId: READING, ...about } });
		expect(await readPicture(write.picture!)).toBe(picture);
		expect(waiting()).toEqual([]);
		expect(sendPhoto(READING, READING, () => undefined)).toBeUndefined();
	});

	it('is swept once nothing refers to it, and not before', async () => {
		takenPhoto('bench', { picture, ...about });
		const [key] = photosReferred();
		await vi.waitUntil(() => readStored(`tevrik.picture.${key}`) !== undefined);
		await sweepPictures(() => new Set(photosReferred()));
		expect(await readPicture(key!)).toBe(picture);
		await sweepPictures(() => new Set());
		expect(await readPicture(key!)).toBeUndefined();
	});

	it('that an older page kept within its draft is set apart', async () => {
		keepStored('tevrik.draft.photo.bench', { picture, ...about });
		await setPhotosApart();
		const [key] = photosReferred();
		expect(await readPicture(key!)).toBe(picture);
		expect(readStored('tevrik.draft.photo.bench')).toEqual({ key, ...about });
	});

	it('goes out behind its reading, and holds up no other', () => {
		takenPhoto('bench', { picture, ...about });
		const behind = { ...sent('bench'), seq: 2 };
		const reading: PendingWrite = { ...savingReading(READING, {} as never, 'a reading'), seq: 1 };
		const other: PendingWrite = {
			...savingReading('01900000-0000-7000-8000-000000000002', {} as never, 'another'),
			seq: 3
		};
		expect(sendable([behind, other, reading], new Set())).toBe(reading);
		expect(sendable([behind, other], new Set([READING]))).toBe(other);
		expect(sendable([behind, other], new Set())).toBe(behind);
		// Refused: the picture waits with it, and goes with it.
		const refused = { ...reading, problems: [{ path: '', message: 'no' }] };
		expect(sendable([behind, other, refused], new Set())).toBe(other);
		expect(hangingOn(refused, [behind, other, refused])).toEqual([behind]);
		expect(hangingOn(other, [behind, other, refused])).toEqual([]);
	});
});
