import { expect, it } from 'vitest';
import { dateAndTime, daysAgo } from './when';

const DUBLIN = 'Europe/Dublin';

it('a day turns at the tank’s midnight, not at the server’s', () => {
	// Half past midnight of 6 May in Dublin is half past eleven of 5 May in UTC.
	expect(daysAgo('2026-05-05T22:30:00Z', '2026-05-05T23:30:00Z', DUBLIN)).toBe('yesterday');
	expect(daysAgo('2026-05-05T22:30:00Z', '2026-05-05T23:30:00Z', 'UTC')).toBe('today');
	expect(daysAgo('2026-05-01T12:00:00Z', '2026-05-06T12:00:00Z', DUBLIN)).toBe('5 days ago');
});

it('the night the clocks change keeps its days and hours', () => {
	// Clocks go back in Dublin at 01:00 UTC on 25 October 2026: 23:30 the evening before, and 01:30 twice.
	expect(daysAgo('2026-10-24T22:30:00Z', '2026-10-25T23:45:00Z', DUBLIN)).toBe('yesterday');
	expect(dateAndTime('2026-10-24T22:30:00Z', DUBLIN)).toContain('23:30');
	expect(dateAndTime('2026-10-25T00:30:00Z', DUBLIN)).toContain('01:30');
	expect(dateAndTime('2026-10-25T01:30:00Z', DUBLIN)).toContain('01:30');
	expect(daysAgo('2026-03-29T00:30:00Z', '2026-03-30T00:30:00Z', DUBLIN)).toBe('yesterday');
});
