import { afterEach, beforeEach, expect, it, vi } from 'vitest';

let currentTime: (server: string) => Date;
beforeEach(async () => {
	vi.useFakeTimers({ toFake: ['Date'] });
	vi.resetModules();
	({ currentTime } = await import('./clock'));
});
afterEach(() => vi.useRealTimers());
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
