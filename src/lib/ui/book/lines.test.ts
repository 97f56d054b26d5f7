import { describe, expect, it } from 'vitest';
import type { BookLine } from '$lib/api/book';
import { byDay, dayStart, hourOf } from './lines';

const line = (takenAt: string): BookLine => ({ takenAt, id: takenAt }) as BookLine;

describe('a book by the tank’s own days', () => {
	it('turns the page at the tank’s midnight, also on the nights the clocks change', () => {
		const days = byDay(
			[
				'2026-10-25T23:30:00Z',
				'2026-10-25T22:30:00Z',
				// The hour that comes twice, by either clock.
				'2026-10-25T01:30:00Z',
				'2026-10-25T00:30:00Z',
				'2026-10-24T22:30:00Z',
				'2026-10-24T21:30:00Z'
			].map(line),
			'Europe/Berlin'
		);
		expect(days.map((d) => [d.date, d.lines.length])).toEqual([
			['2026-10-26', 1],
			['2026-10-25', 4],
			['2026-10-24', 1]
		]);
		expect(days[1]!.title).toMatch(/^Sunday,? 25 October 2026$/);
	});
	it.each([
		['2026-10-25T00:30:00Z', '02:30'],
		['2026-10-25T01:30:00Z', '02:30'],
		['2026-03-29T01:30:00Z', '03:30'],
		['2026-01-01T23:00:00Z', '00:00']
	])('%s is %s o’clock', (at, hour) => expect(hourOf(at, 'Europe/Berlin')).toBe(hour));
	it('a day begins at its first moment, and the one after the clocks change an hour later', () => {
		expect(dayStart('2026-10-25', 'Europe/Berlin')).toBe('2026-10-24T22:00:00.000Z');
		expect(dayStart('2026-10-25', 'Europe/Berlin', 1)).toBe('2026-10-25T23:00:00.000Z');
		expect(dayStart('2026-05-04', 'Pacific/Auckland')).toBe('2026-05-03T12:00:00.000Z');
	});
});
