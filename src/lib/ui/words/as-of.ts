import { dateAndTime } from '../when';

/** What a room says where its levels are not of now: since when they are known, or null where they never were; nothing where they are. */
export const asOfInWords = (asOf: string | null | undefined, timeZone: string): string | undefined => {
	if (asOf === undefined) return undefined;
	return asOf === null
		? 'Levels are still being computed. Reload this page in a moment.'
		: `Levels are from ${dateAndTime(asOf, timeZone)}. Newer entries are still being computed: reload this page in a moment.`;
};
