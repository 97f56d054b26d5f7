import Papa from 'papaparse';
import { guessLayout, type GuessedLayout } from '../../core/formats';

/** What parts the cells of sheets people keep. */
const SEPARATORS = [',', ';', '\t', '|'] as const;
export type Separator = (typeof SEPARATORS)[number];
/** So much of a file is enough to tell its dialect, characters. */
const SAMPLE = 60_000;

/** A sheet's text as rows of cells. */
export const rowsOf = (text: string, separator: Separator): string[][] =>
	Papa.parse<string[]>(withoutMark(text), { delimiter: separator, skipEmptyLines: 'greedy' }).data;

/** Some programs begin a file with a mark of its encoding, or with a line that names the separator. */
const withoutMark = (text: string): string => text.replace(/^\uFEFF/, '').replace(/^sep=.\r?\n/i, '');

/** The separator and layout that make the most sense of a sheet. */
export function understand(text: string): { separator: Separator; layout: GuessedLayout } {
	const named = /^\uFEFF?sep=(.)\r?\n/i.exec(text)?.[1] as Separator | undefined;
	const sample = text.length > SAMPLE ? text.slice(0, text.lastIndexOf('\n', SAMPLE) + 1) : text;
	const guesses = (named && SEPARATORS.includes(named) ? [named] : SEPARATORS).map((separator) => ({
		separator,
		layout: guessLayout(rowsOf(sample, separator))
	}));
	return guesses.reduce((best, guess) => (guess.layout.sense > best.layout.sense ? guess : best));
}

/** A file's bytes as text: UTF-8, UTF-16 by its mark, or else the old Western encoding of spreadsheets. */
export function textOf(bytes: Uint8Array): string {
	if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
	if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
	try {
		return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
	} catch {
		return new TextDecoder('windows-1252').decode(bytes);
	}
}
