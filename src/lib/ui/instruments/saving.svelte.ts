import { v7 as uuid } from 'uuid';
import type { SaveReading } from '$lib/api/readings';
import { savingReading, voiding } from '$lib/client/commands';
import { keepDraft, readDraft } from '$lib/client/drafts';
import { post, takeBack } from '$lib/ui/outbox.svelte';
import type { Draft } from './draft';
import { keepPhoto, photoOf, sendPhoto, type PhotoDraft } from '$lib/client/photo-drafts';

interface SavedReading {
	id: string;
	writeId: string;
	words: string;
	undone: boolean;
}

/** What is saved of one instrument's readings: the newest can be taken back, with its picture and with what stood there. */
export function openSaving(draftName: string) {
	let saved: SavedReading | undefined = $state.raw();
	/** The picture of the reading saved last, should it be taken back. */
	let photo: PhotoDraft | undefined;
	return {
		get saved() {
			return saved;
		},
		save(body: SaveReading, words: string, draft: Draft): void {
			const id = uuid();
			const write = savingReading(id, body, words);
			post(write);
			const its = sendPhoto(draftName, id, post);
			photo = its && photoOf(its);
			saved = { id, writeId: write.id, words, undone: false };
			keepDraft(`${draftName}.last`, draft);
			keepDraft(draftName, undefined);
		},
		/** Takes it back, and gives what stood on the instrument then. */
		undo(): Draft | undefined {
			if (!saved) return undefined;
			if (!takeBack(saved.writeId))
				post(voiding('readings', saved.id, 'undone right after saving', `undoing ${saved.words}`));
			if (photo) keepPhoto(draftName, photo);
			saved = { ...saved, undone: true };
			return readDraft<Draft>(`${draftName}.last`);
		},
		/** Nothing more is said of it. */
		close(): void {
			saved = undefined;
		}
	};
}
