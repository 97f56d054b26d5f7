/** More than any instrument shows: what a value of another unit came to is not written out. */
const DIGITS = 6;
export const short = (seen: number): string => String(Number(seen.toPrecision(DIGITS)));
export const shortOrBetween = (seen: number | [number, number]): string =>
	typeof seen === 'number' ? short(seen) : seen.map(short).join('-');
