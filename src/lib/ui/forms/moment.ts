import { DateTime } from 'luxon';
import type { When } from '$core/quick';

export const NO_MOMENT = 'Choose a day and an hour that have been.';

/** A moment as a date field has it (2026-05-06T20:15), in a zone; null where it is none, or has not been yet. */
export function momentIn(text: string, timeZone: string, now: Date): string | null {
	const at = DateTime.fromISO(text, { zone: timeZone });
	return at.isValid && at.toMillis() <= now.getTime() + 60_000 ? at.toUTC().toISO() : null;
}

/** Noon, where only the day was said. */
const NOON = '12:00';
/** The moment that a line means; null where it is none, or has not been yet. */
export function momentOf({ day, hour = NOON }: When, timeZone: string, now: Date): string | null {
	const date =
		'on' in day ? day.on : DateTime.fromJSDate(now, { zone: timeZone }).minus({ days: day.ago }).toISODate();
	return momentIn(`${date}T${hour.padStart(5, '0')}`, timeZone, now);
}
