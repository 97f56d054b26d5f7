import { afterEach, beforeEach, expect, it, vi } from 'vitest';

let currentTime: (server: string) => Date;
let heardTime: (said: string | null, asked: number) => void;
const stored = new Map<string, string>();
const storage = {
	getItem: (name: string) => stored.get(name) ?? null,
	setItem: (name: string, text: string) => void stored.set(name, text),
	removeItem: (name: string) => void stored.delete(name),
	key: (i: number) => [...stored.keys()][i] ?? null,
	get length() {
		return stored.size;
	}
};
/** The page is loaded again: what it knew is gone, what the device keeps is there. */
async function load() {
	vi.resetModules();
	({ currentTime, heardTime } = await import('./clock'));
}
beforeEach(async () => {
	vi.useFakeTimers({ toFake: ['Date', 'performance'] });
	stored.clear();
	vi.stubGlobal('localStorage', storage);
	await load();
});
/** What the server is asked, and what it says; without a time the network is gone. */
const server = (time?: string) => {
	const fetch = vi.fn(() =>
		time
			? Promise.resolve(new Response('', { headers: { 'tevrik-now': String(Date.parse(time)) } }))
			: Promise.reject(new TypeError('no network'))
	);
	vi.stubGlobal('navigator', { onLine: true });
	vi.stubGlobal('fetch', fetch);
	return fetch;
};
afterEach(() => {
	vi.useRealTimers();
	vi.unstubAllGlobals();
});
const at = (time: string) => vi.setSystemTime(new Date(time));
const iso = (server: string) => currentTime(server).toISOString();

it('is the server’s time on a device whose clock is wrong, and goes on, asleep or not', () => {
	at('2031-01-01T00:00:00Z');
	expect(iso('2026-05-06T20:10:00Z')).toBe('2026-05-06T20:10:00.000Z');
	at('2031-01-01T01:30:00Z');
	expect(iso('2026-05-06T20:10:00Z')).toBe('2026-05-06T21:40:00.000Z');
});

it('never runs backwards when an answer was long on its way', () => {
	at('2026-05-06T20:00:00Z');
	iso('2026-05-06T20:10:00Z');
	at('2026-05-06T20:00:30Z');
	// Said twelve seconds ago.
	expect(iso('2026-05-06T20:10:18Z')).toBe('2026-05-06T20:10:30.000Z');
	// One that was faster than the first puts it right.
	expect(iso('2026-05-06T20:10:31Z')).toBe('2026-05-06T20:10:31.000Z');
});

it('follows the server when the device’s clock is set meanwhile', () => {
	at('2026-05-06T20:00:00Z');
	iso('2026-05-06T20:10:00Z');
	at('2026-05-06T21:00:10Z');
	expect(iso('2026-05-06T20:10:10Z')).toBe('2026-05-06T20:10:10.000Z');
	at('2026-05-06T19:00:20Z');
	expect(iso('2026-05-06T20:10:20Z')).toBe('2026-05-06T20:10:20.000Z');
});

it('stands as it was after a reload without a network, from a page that was kept', async () => {
	at('2026-05-06T20:00:00Z');
	const page = '2026-05-06T20:10:00Z';
	iso(page);
	// The page is kept for later a little after it was loaded; the session goes on for an hour.
	const keptPage = '2026-05-06T20:10:02Z';
	for (let minute = 1; minute <= 60; minute++) {
		vi.advanceTimersByTime(60_000);
		iso(page);
	}
	await load();
	expect(iso(keptPage)).toBe('2026-05-06T21:10:00.000Z');
	// The network is back: a page straight from the server is later than all before.
	vi.advanceTimersByTime(10_000);
	expect(iso('2026-05-06T21:10:11Z')).toBe('2026-05-06T21:10:11.000Z');
});

it('believes an answer of the server itself, whatever was known before', () => {
	at('2026-05-06T20:00:00Z');
	iso('2027-01-01T00:00:00Z');
	heardTime(String(Date.parse('2026-05-06T20:10:00Z')), Date.now());
	expect(iso('2026-05-06T20:10:00Z')).toBe('2026-05-06T20:10:00.000Z');
	heardTime(null, Date.now());
	heardTime('soon', Date.now());
	expect(iso('2026-05-06T20:10:00Z')).toBe('2026-05-06T20:10:00.000Z');
});

it('asks the server when the device’s clock leaps: it was set, and the time goes on; or it slept, and the time leaps too', async () => {
	at('2026-05-06T20:00:00Z');
	const page = '2026-05-06T20:10:00Z';
	iso(page);
	vi.advanceTimersByTime(30_000);
	const asked = server('2026-05-06T20:10:30Z');
	at('2026-05-06T23:00:30Z');
	// Neither a step nor a timer is stamped by a clock that may have been set.
	expect([iso(page), iso(page)]).toEqual(['2026-05-06T20:10:30.000Z', '2026-05-06T20:10:30.000Z']);
	expect(asked).toHaveBeenCalledTimes(1);
	await new Promise(process.nextTick);
	vi.advanceTimersByTime(10_000);
	expect(iso(page)).toBe('2026-05-06T20:10:40.000Z');
	server('2026-05-06T21:10:40Z');
	vi.setSystemTime(Date.now() + 3_600_000);
	iso(page);
	await vi.waitFor(() => expect(iso(page)).toContain('2026-05-06T21:10:4'));
	expect(asked).toHaveBeenCalledTimes(1);
});

it('believes the device where the server cannot be asked, and never goes back with its clock', async () => {
	at('2026-05-06T20:00:00Z');
	const page = '2026-05-06T20:10:00Z';
	iso(page);
	server();
	at('2026-05-06T20:30:00Z');
	iso(page);
	await vi.waitFor(() => expect(iso(page)).toContain('2026-05-06T20:40:0'));
	at('2026-05-06T19:30:00Z');
	vi.advanceTimersByTime(60_000);
	expect(Date.parse(iso(page))).toBeGreaterThanOrEqual(Date.parse('2026-05-06T20:11:00Z'));
});

it('does not go back for an answer that was on its way while the phone slept', () => {
	at('2026-05-06T20:00:00Z');
	iso('2026-05-06T20:00:00Z');
	const asked = Date.now();
	vi.setSystemTime(Date.now() + 20 * 60_000);
	heardTime(String(Date.parse('2026-05-06T20:00:01Z')), asked);
	expect(iso('2026-05-06T20:00:00Z')).toBe('2026-05-06T20:20:00.000Z');
});
