import { v7 as uuid } from 'uuid';
import type { WaterEvent } from '$core/trend';
import { savingEvent, voiding } from '$lib/client/commands';
import { post } from './outbox.svelte';

/** Writes down what was done to a tank at one moment; what comes back takes all of it back. */
export function writeDown(systemId: string, at: Date, events: WaterEvent[], words: string): () => void {
	const ids = events.map((event) => {
		const id = uuid();
		post(savingEvent(id, { systemId, at: at.toISOString(), event }, words));
		return id;
	});
	return () => {
		for (const id of ids) post(voiding('events', id, 'undone right after saving', `undoing the ${words}`));
	};
}
