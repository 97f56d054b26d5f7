import { MINUTE } from '$core/base';
import { DateTime } from 'luxon';
import type { When } from '$core/quick';

export const NO_MOMENT = 'Choose a day and an hour that have been.';

/** A moment as a date field has it (2026-05-06T20:15), in a zone; null where it is none, or has not been yet. */
export function momentIn(text: string, timeZone: string, now: Date): string | null {
	const written = DateTime.fromISO(text, { zone: timeZone });
	// An hour that comes twice is the first, as in sheets.
	const [at] = written.isValid
		? written.getPossibleOffsets().sort((a, b) => a.toMillis() - b.toMillis())
		: [];
	return at && at.toMillis() <= now.getTime() + MINUTE ? at.toUTC().toISO() : null;
}

/** Where only the day was said: noon, or now where that is still ahead. */
const NOON = '12:00';
/** The moment that a line means; null where it is none, or has not been yet. */
export function momentOf({ day, hour }: When, timeZone: string, now: Date): string | null {
	const today = DateTime.fromJSDate(now, { zone: timeZone });
	const date = 'on' in day ? day.on : today.minus({ days: day.ago }).toISODate();
	const said = momentIn(`${date}T${(hour ?? NOON).padStart(5, '0')}`, timeZone, now);
	return said ?? (hour === undefined && date === today.toISODate() ? now.toISOString() : null);
}
