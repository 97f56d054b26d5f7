import { LRUCache } from 'lru-cache';
import { now } from './clock';
import { GivenUp, NoTurn } from './work/turns';

/** So much is remembered, characters of JSON: what a keeper of two hundred tanks looks at in an hour. */
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
	// Whoever asked for it first may have left: then it is for us to ask.
	if (under)
		return under.catch((failure: unknown) => {
			if (failure instanceof GivenUp) return remembered(key, make);
			throw failure;
		});
	const found = make();
	making.set(key, found);
	found.then((result) => results.set(key, { result })).catch(() => undefined);
	void found.catch(() => undefined).finally(() => making.delete(key));
	return found;
}

/** A result, and since when it is known: nothing where it is of now, null where it was never made. */
export interface Known<T> {
	result: T;
	asOf?: string | null;
}

/** Keeps a result under a name, for a moment when it cannot be made. Whoever asks for it has been asked whether they may see it. */
export function noteLast(name: string, result: unknown): void {
	const key = `last ${name}`;
	// The same again costs nothing: to weigh it would cost more than a page.
	if ((results.peek(key)?.result as Known<unknown> | undefined)?.result !== result)
		results.set(key, { result: { result, asOf: now().toISOString() } });
}

/** What was kept under a name last, in this process; `none` where nothing was. */
export const lastKnown = <T>(name: string, none: T): Known<T> =>
	(results.get(`last ${name}`)?.result as Known<T> | undefined) ?? { result: none, asOf: null };

/** What `make` gives; where it does not get its turn, what `otherwise` gives. */
export async function unlessBusy<T>(make: () => Promise<T>, otherwise: () => T | Promise<T>): Promise<T> {
	try {
		return await make();
	} catch (failure) {
		if (failure instanceof NoTurn) return otherwise();
		throw failure;
	}
}
