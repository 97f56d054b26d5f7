import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import {
	brokenEntries,
	dropBroken,
	keepStored,
	keysOf,
	onStorageTrouble,
	readStored,
	storageTrouble
} from './device-storage';

let room = Infinity;
const stored = new Map<string, string>();
beforeEach(() => {
	room = Infinity;
	stored.clear();
	vi.stubGlobal('localStorage', {
		getItem: (name: string) => stored.get(name) ?? null,
		setItem: (name: string, text: string) => {
			if (text.length > room) throw new DOMException('full', 'QuotaExceededError');
			stored.set(name, text);
		},
		removeItem: (name: string) => void stored.delete(name),
		key: (i: number) => [...stored.keys()][i] ?? null,
		get length() {
			return stored.size;
		}
	});
});
afterEach(() => vi.unstubAllGlobals());

it('full storage keeps things in the page, says so, and stores them when there is room', () => {
	let told = 0;
	const off = onStorageTrouble(() => told++);
	room = 5;
	expect(keepStored('tevrik.a', { long: 'long enough' })).toBe(false);
	expect(storageTrouble().unstored).toBe(1);
	expect(readStored('tevrik.a')).toEqual({ long: 'long enough' });
	expect(keysOf('tevrik.')).toEqual(['tevrik.a']);
	room = Infinity;
	expect(keepStored('tevrik.a', { long: 'long enough' })).toBe(true);
	expect(stored.get('tevrik.a')).toBe('{"long":"long enough"}');
	expect(storageTrouble().unstored).toBe(0);
	expect(told).toBe(2);
	off();
});

it('a broken entry is set aside, can be taken out, and breaks nothing', () => {
	stored.set('tevrik.outbox.1', '{"path":');
	stored.set('tevrik.outbox.2', '{"path":"/x"}');
	expect(keysOf('tevrik.outbox.').map((k) => readStored(k))).toEqual([undefined, { path: '/x' }]);
	expect(keysOf('tevrik.outbox.')).toEqual(['tevrik.outbox.2']);
	expect(brokenEntries()).toEqual({ 'tevrik.outbox.1': '{"path":' });
	dropBroken();
	expect(storageTrouble()).toEqual({ unstored: 0, broken: 0 });
});

it('a browser without storage works as long as its page', () => {
	vi.stubGlobal('localStorage', undefined);
	expect(keepStored('tevrik.b', 1)).toBe(false);
	expect(readStored('tevrik.b')).toBe(1);
	keepStored('tevrik.b', undefined);
	expect(readStored('tevrik.b')).toBeUndefined();
});
