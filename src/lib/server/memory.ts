import { LRUCache } from 'lru-cache';

/** So much is remembered, characters of JSON: what a keeper of two hundred tanks looks at in an evening. */
const MOST = 64_000_000;

const results = new LRUCache<string, { result: unknown }>({
	maxSize: MOST,
	sizeCalculation: ({ result }, key) => key.length + (JSON.stringify(result)?.length ?? 0) + 1
});
const making = new Map<string, Promise<unknown>>();

/**
 * A result by all that it follows from, so that none is ever stale: made once, also where several ask at the same time. A failure
 * is not kept: whoever asks next has it tried again. Nobody may change what they are given.
 */
export function remembered<T>(key: string, make: () => Promise<T>): Promise<T> {
	const known = results.get(key);
	if (known) return Promise.resolve(known.result as T);
	const under = making.get(key) as Promise<T> | undefined;
	if (under) return under;
	const found = make();
	making.set(key, found);
	found.then((result) => results.set(key, { result })).catch(() => undefined);
	void found.catch(() => undefined).finally(() => making.delete(key));
	return found;
}
