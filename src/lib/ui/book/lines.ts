import { DateTime } from 'luxon';
import type { BookLine } from '$lib/api/book';
import { formatOf, isoDay } from '$lib/ui/when';

const TITLE = { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' } as const;
const HOUR = { hour: '2-digit', minute: '2-digit' } as const;

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
		const at = new Date(line.takenAt);
		const date = isoDay(at, timeZone);
		const last = days.at(-1);
		if (last?.date === date) last.lines.push(line);
		else days.push({ date, title: formatOf(timeZone, TITLE).format(at), lines: [line] });
	}
	return days;
}

/** The hour of a moment by the tank's clock. */
export const hourOf = (at: string, timeZone: string): string => formatOf(timeZone, HOUR).format(new Date(at));

/** A day as its first moment, or the one after it, in UTC: what a filter by days asks for. */
export const dayStart = (date: string, timeZone: string, later = 0): string =>
	DateTime.fromISO(date, { zone: timeZone }).plus({ days: later }).toUTC().toISO()!;
