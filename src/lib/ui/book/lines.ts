import { DateTime } from 'luxon';
import type { BookLine } from '$lib/api/book';

export interface Day {
	/** ISO date in the tank's zone. */
	date: string;
	title: string;
	lines: BookLine[];
}

/** The lines of a book by the tank's own days, in the order in which they come. */
export function byDay(lines: BookLine[], timeZone: string): Day[] {
	const days: Day[] = [];
	for (const line of lines) {
		const at = DateTime.fromISO(line.takenAt, { zone: timeZone });
		const date = at.toISODate()!;
		const last = days.at(-1);
		if (last?.date === date) last.lines.push(line);
		else days.push({ date, title: at.setLocale('en-GB').toFormat('cccc d LLLL yyyy'), lines: [line] });
	}
	return days;
}

/** The hour of a moment by the tank's clock. */
export const hourOf = (at: string, timeZone: string): string =>
	DateTime.fromISO(at, { zone: timeZone }).toFormat('HH:mm');

/** A day as its first moment, or the one after it, in UTC: what a filter by days asks for. */
export const dayStart = (date: string, timeZone: string, later = 0): string =>
	DateTime.fromISO(date, { zone: timeZone }).plus({ days: later }).toUTC().toISO()!;
