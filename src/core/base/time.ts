/** Lengths of time, ms. */
export const SECOND = 1000;
export const MINUTE = 60 * SECOND;
export const HOUR = 60 * MINUTE;
/** Of 24 hours: a day of the clock is an hour more or less twice a year. */
export const DAY = 24 * HOUR;
