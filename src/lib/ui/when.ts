/** Dates and times as the tank's zone has them, in words. */
const DAY = 86_400_000;

/** Making a formatter costs far more than using one: one is kept for each zone. */
const dayFormats = new Map<string, Intl.DateTimeFormat>();
function dayFormat(timeZone: string): Intl.DateTimeFormat {
	const known = dayFormats.get(timeZone) ?? new Intl.DateTimeFormat('en-CA', { timeZone });
	dayFormats.set(timeZone, known);
	return known;
}

/** Day number in the zone, so that "yesterday" turns at the tank's midnight. */
function dayNumber(at: Date, timeZone: string): number {
	const parts = dayFormat(timeZone).format(at);
	return Math.round(Date.parse(`${parts}T00:00:00Z`) / DAY);
}

/** "today", "yesterday", "5 days ago". */
export function daysAgo(at: string, now: string, timeZone: string): string {
	const days = dayNumber(new Date(now), timeZone) - dayNumber(new Date(at), timeZone);
	if (days <= 0) return 'today';
	return days === 1 ? 'yesterday' : `${days} days ago`;
}

/** "Mon 4 May 2026, 20:15". */
export const dateAndTime = (at: string, timeZone: string): string =>
	new Intl.DateTimeFormat('en-GB', {
		weekday: 'short',
		day: 'numeric',
		month: 'short',
		year: 'numeric',
		hour: '2-digit',
		minute: '2-digit',
		timeZone
	}).format(new Date(at));

/** "today", "tomorrow", "on Friday", "on 14 May": a day to come, seen from now. */
export function dayInWords(at: string, now: string, timeZone: string): string {
	const days = dayNumber(new Date(at), timeZone) - dayNumber(new Date(now), timeZone);
	if (days <= 0) return 'today';
	if (days === 1) return 'tomorrow';
	const format: Intl.DateTimeFormatOptions =
		days < 7 ? { weekday: 'long' } : { day: 'numeric', month: 'short' };
	return `on ${new Intl.DateTimeFormat('en-GB', { ...format, timeZone }).format(new Date(at))}`;
}
