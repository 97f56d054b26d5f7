/** Pages kept for use without a network show one person's water: they go when that person signs out. */
export async function forgetDevice(): Promise<void> {
	if ('caches' in globalThis) await caches.delete('pages');
}
