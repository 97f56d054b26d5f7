import { keepStored, readStored } from '$lib/client/device-storage';

const PERSON = 'tevrik.person';

/** Notes whose device this is; what was kept for somebody else goes. */
export function handedTo(person: string): void {
	const before = readStored<string>(PERSON);
	if (before !== undefined && before !== person) void forgetDevice();
	keepStored(PERSON, person);
}

/** Pages kept for use without a network show one person's water: they go when that person signs out. */
export async function forgetDevice(): Promise<void> {
	if ('caches' in globalThis) await caches.delete('pages');
}
