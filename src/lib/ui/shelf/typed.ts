import { parseEntry } from '$core/quantities';

/** A number as typed, or NaN, which no method may have. */
export const number = (text: string): number => {
	const entry = parseEntry(text);
	return entry.ok && entry.value.number.kind === 'exact' ? entry.value.number.value : NaN;
};
/** Numbers one after another, with decimal points or commas: "0 0,5 1" or "0; 0,5; 1". */
export const patchValues = (text: string): number[] =>
	text
		.split(/[\s;]+/)
		.filter(Boolean)
		.map((word) => number(word.replace(/[.,]$/, '')));

/** What the column that is not read first is called. */
export const SECOND = 'high range';
