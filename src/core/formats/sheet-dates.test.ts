import { describe, expect, it } from 'vitest';
import { guessOrder, parseDate, parseTime, type DateOrder, type WrittenMoment } from './sheet-dates';

const inShort = (m: WrittenMoment | undefined) =>
	m &&
	[
		`${m.year}-${m.month}-${m.day}`,
		m.time && `${m.time.hour}:${m.time.minute}:${m.time.second}`,
		m.offset !== undefined && `${m.offset} min`
	]
		.filter(Boolean)
		.join(' ');

describe('a moment in a cell', () => {
	it.each<[string, DateOrder, string]>([
		['2026-05-04', 'dmy', '2026-5-4'],
		['20260504', 'mdy', '2026-5-4'],
		['2026/5/4 19:05', 'dmy', '2026-5-4 19:5:0'],
		['2026-05-04T19:05:30Z', 'ymd', '2026-5-4 19:5:30 0 min'],
		['2026-05-04T19:05:30.250+05:30', 'ymd', '2026-5-4 19:5:30 330 min'],
		['2026-05-04 19:05 -0330', 'ymd', '2026-5-4 19:5:0 -210 min'],
		['4.5.26', 'dmy', '2026-5-4'],
		['4. 5. 2026, 19h05', 'dmy', '2026-5-4 19:5:0'],
		['5/4/2026 7:05 PM', 'mdy', '2026-5-4 19:5:0'],
		['5/4/2026 12:05 a.m.', 'mdy', '2026-5-4 0:5:0'],
		['26-05-04', 'ymd', '2026-5-4'],
		['Mon 4/5/2026', 'dmy', '2026-5-4'],
		['4 May 2026', 'mdy', '2026-5-4'],
		['May 4th, 2026', 'dmy', '2026-5-4'],
		['4. März 2026', 'dmy', '2026-3-4'],
		['1-août-26', 'dmy', '2026-8-1'],
		['3 juin 2026', 'dmy', '2026-6-3'],
		['3 juil. 2026', 'dmy', '2026-7-3'],
		// As spreadsheets keep days, and a time that is off by a hair.
		['46146', 'dmy', '2026-5-4'],
		['46146.79513888889', 'dmy', '2026-5-4 19:5:0'],
		['46146,5', 'dmy', '2026-5-4 12:0:0'],
		['29.2.2028', 'dmy', '2028-2-29']
	])('%s as %s is %s', (cell, order, wanted) => expect(inShort(parseDate(cell, order))).toBe(wanted));

	it.each<[string, DateOrder]>([
		['29.2.2026', 'dmy'],
		['31/4/2026', 'dmy'],
		['13/13/2026', 'mdy'],
		['4 Maybe 26 25:00', 'dmy'],
		['2026-05-04 24:00', 'ymd'],
		['5/4/2026 13:05 pm', 'mdy'],
		['yesterday', 'dmy'],
		['8.1', 'dmy'],
		['', 'dmy'],
		[`4 May 2026${' '.repeat(20_000)}x`, 'dmy']
	])('%.30s as %s is none', (cell, order) => expect(parseDate(cell, order)).toBeUndefined());
});

describe('an hour in a cell of its own', () => {
	it.each([
		['19:05', 19, 5],
		['7.05 pm', 19, 5],
		['12 am', 0, 0],
		['0.5', 12, 0],
		['0,7951388889', 19, 5]
	])('%s', (cell, hour, minute) => expect(parseTime(cell)).toMatchObject({ hour, minute }));
	it.each(['19', '25:00', '19:60', '0 am', '13 pm', 'noon', '8.1'])('%s is none', (cell) =>
		expect(parseTime(cell)).toBeUndefined()
	);
});

describe('which comes first, day or month', () => {
	it.each<[string, string[], DateOrder, boolean]>([
		['a day above twelve', ['3/4/2026', '17/4/2026'], 'dmy', true],
		['the same the other way', ['4/3/2026', '4/17/2026'], 'mdy', true],
		['points', ['1.2.2026', '2.2.2026'], 'dmy', true],
		['a year in front', ['26-02-01', '32-02-01'], 'ymd', true],
		// Weekly: the 5th, 12th would not be known, but the 1st to the 12th of a month march by days one way and by months the other.
		['a steady march', ['1/2/2026', '1/3/2026', '1/4/2026', '1/5/2026'], 'mdy', true],
		['no dates of that kind', ['2026-05-04', 'note'], 'ymd', true],
		['both would do', ['5/5/2026'], 'dmy', false]
	])('%s', (_, cells, order, sure) => expect(guessOrder(cells)).toEqual({ order, sure }));
});
