import { beforeEach, describe, expect, it, vi } from 'vitest';
import { savingReading } from '$lib/client/commands';
import { keysOf } from '$lib/client/device-storage';
import { hangingOn, sendable, type PendingWrite } from '$lib/client/pending-write';
import { keepPhoto, movePhoto, photoWrite, type PhotoDraft } from './photo-drafts';

const READING = '01900000-0000-7000-8000-000000000001';
const photo: PhotoDraft = {
	picture: 'aGVsbG8gcGljdHVyZSBvZiBhIGNhcmQ=',
	marks: { of: 'syringe', zero: { x: 0.5, y: 0.9 }, full: { x: 0.5, y: 0.1 } },
	at: '2026-05-06T20:10:00.000Z'
};
const waiting = () => keysOf('tevrik.draft.photo.');

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
	it('goes from the instrument to the reading, and out once', () => {
		keepPhoto('bench', photo);
		movePhoto('bench', READING);
		movePhoto('another', READING);
		expect(waiting()).toEqual([`tevrik.draft.photo.${READING}`]);
		const write = photoWrite(READING, READING);
		expect(write).toMatchObject({ method: 'PUT', quiet: true, body: { readingId: READING, ...photo } });
		expect(waiting()).toEqual([]);
		expect(photoWrite(READING, READING)).toBeUndefined();
	});

	it('goes out behind its reading, and holds up no other', () => {
		keepPhoto('bench', photo);
		const behind = { ...photoWrite('bench', READING)!, seq: 2 };
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
