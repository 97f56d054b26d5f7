/**
 * What this device keeps, by name. Nothing here throws: what does not fit stays in this page's memory, and what cannot be read
 * is set aside under another name, where it can still be taken out.
 */
const BROKEN = 'tevrik.broken.';

/** What does not fit on the device. It lasts as long as the page. */
const unstored = new Map<string, string>();
const listeners = new Set<() => void>();

/** Where this device keeps things; nothing where it has no such place. */
const place = (): Storage | undefined => {
	try {
		return globalThis.localStorage;
	} catch {
		return undefined;
	}
};

/** How much is wrong with what this device keeps. */
export const storageTrouble = (): { unstored: number; broken: number } => ({
	unstored: unstored.size,
	broken: keysOf(BROKEN).length
});
/** Calls back when that changes. */
export function onStorageTrouble(listener: () => void): () => void {
	listeners.add(listener);
	return () => listeners.delete(listener);
}
const changed = () => listeners.forEach((listener) => listener());

/** Names that begin so, stored or only in memory. */
export function keysOf(prefix: string): string[] {
	const stored = place();
	const names = stored ? Array.from({ length: stored.length }, (_, i) => stored.key(i)!) : [];
	return [...new Set([...names, ...unstored.keys()])].filter((name) => name.startsWith(prefix));
}

/** What is kept under a name; nothing where there is nothing, or nothing that can be read. */
export function readStored<T>(name: string): T | undefined {
	const text = unstored.get(name) ?? place()?.getItem(name) ?? undefined;
	if (text === undefined) return undefined;
	try {
		return (JSON.parse(text) as T | null) ?? undefined;
	} catch {
		setAside(name, text);
		return undefined;
	}
}

function setAside(name: string, text: string): void {
	try {
		place()?.setItem(BROKEN + name, text);
		place()?.removeItem(name);
	} catch {
		// No room for a second copy: it stays where it is.
	}
	changed();
}

/** Keeps something, or with undefined forgets it. False where it fits only into memory. */
export function keepStored(name: string, what: unknown): boolean {
	const before = unstored.size;
	unstored.delete(name);
	let fits = true;
	if (what === undefined) place()?.removeItem(name);
	else {
		const text = JSON.stringify(what);
		try {
			const stored = place();
			if (!stored) throw new Error('there is no storage');
			stored.setItem(name, text);
		} catch {
			fits = false;
			unstored.set(name, text);
		}
	}
	if (unstored.size !== before) changed();
	return fits;
}

/** What was set aside, as it stands, for whoever takes it out. */
export const brokenEntries = (): Record<string, string> =>
	Object.fromEntries(keysOf(BROKEN).map((name) => [name.slice(BROKEN.length), place()?.getItem(name) ?? '']));
export function dropBroken(): void {
	for (const name of keysOf(BROKEN)) place()?.removeItem(name);
	changed();
}
