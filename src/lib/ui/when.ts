import { DAY } from '$core/base';
import { language } from './habits';

/** Dates and times as the tank's zone has them, in words; standing alone as the person's language writes them. */

/** Making a formatter costs a hundred times as much as using one: one is kept for each zone and way of writing. */
const formats = new Map<string, Intl.DateTimeFormat>();
export function formatOf(
	timeZone: string,
	options: Intl.DateTimeFormatOptions,
	locale = language()
): Intl.DateTimeFormat {
	const key = JSON.stringify([timeZone, locale, options]);
	const known = formats.get(key) ?? new Intl.DateTimeFormat(locale, { ...options, timeZone });
	formats.set(key, known);
	return known;
}

/** The language of our sentences: a weekday within one is in it. */
const SENTENCES = 'en-GB';

/** A day with its weekday: one formatter for both, since a browser's first one of a zone takes tens of milliseconds to make. */
const DAY_PARTS: Intl.DateTimeFormatOptions = {
	weekday: 'long',
	year: 'numeric',
	month: '2-digit',
	day: '2-digit'
};
function dayOf(at: Date, timeZone: string): { iso: string; weekday: string } {
	const parts = new Map(
		formatOf(timeZone, DAY_PARTS, SENTENCES)
			.formatToParts(at)
			.map((p) => [p.type, p.value])
	);
	const [year, month, day] = (['year', 'month', 'day'] as const).map((part) => parts.get(part));
	return { iso: `${year}-${month}-${day}`, weekday: parts.get('weekday') ?? '' };
}

/** In which order this person writes a date in numbers. */
export function dateOrder(): 'ymd' | 'dmy' | 'mdy' {
	const [first] = formatOf('UTC', { year: 'numeric', month: 'numeric', day: 'numeric' })
		.formatToParts(0)
		.filter((p) => p.type !== 'literal');
	return first?.type === 'year' ? 'ymd' : first?.type === 'month' ? 'mdy' : 'dmy';
}

/** The day in the zone: 2026-05-04. */
export const isoDay = (at: Date, timeZone: string): string => dayOf(at, timeZone).iso;

/** Day number in the zone, so that "yesterday" turns at the tank's midnight. */
const dayNumber = (at: Date, timeZone: string): number =>
	Math.round(Date.parse(`${isoDay(at, timeZone)}T00:00:00Z`) / DAY);

/** From this hour on the morning is over: what is planned for it goes in tonight. */
const EVENING = 14;
export const isEvening = (at: Date | string, timeZone: string): boolean =>
	Number(formatOf(timeZone, { hour: '2-digit', hourCycle: 'h23' }, SENTENCES).format(new Date(at))) >=
	EVENING;

/** "today", "yesterday", "5 days ago". */
export function daysAgo(at: string, now: string, timeZone: string): string {
	const days = dayNumber(new Date(now), timeZone) - dayNumber(new Date(at), timeZone);
	if (days <= 0) return 'today';
	return days === 1 ? 'yesterday' : `${days} days ago`;
}

/** "Mon 4 May 2026, 20:15". */
export const dateAndTime = (at: string, timeZone: string): string =>
	formatOf(timeZone, MOMENT).format(new Date(at));
const MOMENT: Intl.DateTimeFormatOptions = {
	weekday: 'short',
	day: 'numeric',
	month: 'short',
	year: 'numeric',
	hour: '2-digit',
	minute: '2-digit'
};

/** "today", "tomorrow", "on Friday", "on 14 May": a day to come, seen from now. */
export function dayInWords(at: string, now: string, timeZone: string): string {
	const days = dayNumber(new Date(at), timeZone) - dayNumber(new Date(now), timeZone);
	if (days <= 0) return 'today';
	if (days === 1) return 'tomorrow';
	const there = new Date(at);
	return `on ${days < 7 ? dayOf(there, timeZone).weekday : formatOf(timeZone, DAY_AND_MONTH, SENTENCES).format(there)}`;
}

/** "6 May 2026". */
export const dateOnly = (at: string, timeZone: string): string =>
	formatOf(timeZone, DATE).format(new Date(at));
const DATE: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'long', year: 'numeric' };
/** "6 May": where the year is plain. */
export const dayShort = (at: string, timeZone: string): string =>
	formatOf(timeZone, DAY_AND_MONTH).format(new Date(at));
/** "May 2026". */
export const monthOf = (at: Date, timeZone: string): string => formatOf(timeZone, MONTH).format(at);
const MONTH: Intl.DateTimeFormatOptions = { month: 'short', year: 'numeric' };
const DAY_AND_MONTH: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'short' };
