import { expect, it } from 'vitest';
import { dateAndTime, dayInWords, daysAgo, isoDay } from './when';

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

it('says a day to come as people do', () => {
	const from = '2026-05-06T20:00:00Z';
	const to = (at: string) => dayInWords(at, from, DUBLIN);
	expect(to('2026-05-06T22:00:00Z')).toBe('today');
	// Half past midnight in Dublin.
	expect(to('2026-05-06T23:30:00Z')).toBe('tomorrow');
	expect(to('2026-05-08T12:00:00Z')).toBe('on Friday');
	expect(to('2026-05-12T12:00:00Z')).toBe('on Tuesday');
	expect(to('2026-05-13T12:00:00Z')).toBe('on 13 May');
	expect(isoDay(new Date('2026-12-31T23:59:59Z'), DUBLIN)).toBe('2026-12-31');
	expect(isoDay(new Date('2026-05-31T23:30:00Z'), DUBLIN)).toBe('2026-06-01');
});
