/** What was typed and not yet saved, kept on this device so that a reload loses nothing. */
export function readDraft<T>(name: string): T | undefined {
	try {
		const text = localStorage.getItem(`tevrik.draft.${name}`);
		return text ? (JSON.parse(text) as T) : undefined;
	} catch {
		return undefined;
	}
}

export function keepDraft(name: string, draft: unknown): void {
	if (draft === undefined) localStorage.removeItem(`tevrik.draft.${name}`);
	else localStorage.setItem(`tevrik.draft.${name}`, JSON.stringify(draft));
}
