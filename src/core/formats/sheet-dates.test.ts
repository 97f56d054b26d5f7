import { DateTime, IANAZone } from 'luxon';
import { describe, expect, it } from 'vitest';
import {
	datesInWords,
	daysItCouldBe,
	guessOrder,
	parseDate,
	parseTime,
	type DateOrder,
	type WrittenMoment
} from './sheet-dates';
import { instants } from './sheet';

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

describe('an instant of a moment by the clock on the wall', () => {
	it.each(['Europe/Dublin', 'Australia/Lord_Howe', 'America/St_Johns', 'Pacific/Apia', 'Pacific/Kiritimati'])(
		'in %s, each half hour about every change of its clock',
		(timeZone) => {
			const instant = instants(timeZone, 19);
			const zone = IANAZone.create(timeZone);
			let changes = 0;
			for (let day = Date.UTC(2009, 0, 1); day < Date.UTC(2013, 0, 1); day += 86_400_000) {
				if (zone.offset(day - 86_400_000) === zone.offset(day + 2 * 86_400_000)) continue;
				changes++;
				for (let half = 0; half < 48; half++) {
					const at = new Date(day + half * 1_800_000);
					const wall = {
						year: at.getUTCFullYear(),
						month: at.getUTCMonth() + 1,
						day: at.getUTCDate(),
						hour: at.getUTCHours(),
						minute: at.getUTCMinutes()
					};
					const possible = DateTime.fromObject(wall, { zone: timeZone }).getPossibleOffsets();
					const { hour, minute, ...date } = wall;
					expect(instant({ ...date, time: { hour, minute, second: 7 } })).toBe(
						Math.min(...possible.map((p) => p.toMillis())) + 7000
					);
				}
			}
			expect(changes > 0).toBe(timeZone !== 'Pacific/Kiritimati');
			expect(instant({ year: 2012, month: 7, day: 3 })).toBe(
				DateTime.fromISO('2012-07-03T19:00', { zone: timeZone }).toMillis()
			);
		}
	);
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
	it.each<[string, string[], DateOrder, string?]>([
		['a day above twelve', ['3/4/2026', '17/4/2026'], 'dmy'],
		['the same the other way', ['4/3/2026', '4/17/2026'], 'mdy'],
		['points', ['1.2.2026', '2.2.2026'], 'dmy'],
		['a year in front', ['26-02-01', '32-02-01'], 'ymd'],
		['no dates of that kind', ['2026-05-04', 'note'], 'ymd'],
		['the same day either way', ['5/5/2026'], 'dmy'],
		['one slip among many', [...Array<string>(30).fill('17/4/2026'), '4/18/2026'], 'dmy'],
		// The 2nd to the 5th of January, or the first of four months: a march as even as it is says nothing.
		['firsts of months', ['1/2/2026', '1/3/2026', '1/4/2026', '1/5/2026'], 'mdy', '1/2/2026'],
		['one date alone', ['3/4/2026'], 'dmy', '3/4/2026'],
		// Weeks of one May, and not days of Mays seven years apart.
		['two digits of a year in front', ['26-05-04', '26-05-11', '26-05-18', '26-05-25'], 'ymd'],
		['two digits of a year behind', ['04/05/26', '11/05/26', '18/05/26', '25/05/26'], 'dmy'],
		['too few of them', ['26-05-04', '26-05-11'], 'ymd', '26-05-04'],
		['three that could each be the year', ['04-05-06'], 'dmy', '04-05-06']
	])('%s', (_, cells, order, could) =>
		expect(guessOrder(cells)).toEqual(could === undefined ? { order } : { order, could })
	);
	it('says what else a date could be', () => {
		expect(datesInWords('1/2/2026', 'mdy')).toMatch(/“1\/2\/2026” is read as 2026-01-02, .* 2026-02-01/);
		expect(daysItCouldBe('04-05-06', 'dmy')).toEqual(['2006-05-04', '2006-04-05', '2004-05-06']);
		expect(inShort(parseDate('4.5.98', 'dmy'))).toBe('1998-5-4');
	});
});
