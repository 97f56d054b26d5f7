import { keepStored, readStored } from '$lib/client/device-storage';

/** What was typed and not yet saved, kept on this device so that a reload loses nothing. */
export const readDraft = <T>(name: string): T | undefined => readStored<T>(`tevrik.draft.${name}`);

export const keepDraft = (name: string, draft: unknown): void =>
	void keepStored(`tevrik.draft.${name}`, draft);
