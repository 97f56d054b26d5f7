import Papa from 'papaparse';
import { guessLayout, type GuessedLayout } from '../../core/formats';

/** What parts the cells of sheets people keep. */
const SEPARATORS = [',', ';', '\t', '|'] as const;
export type Separator = (typeof SEPARATORS)[number];
/** So much of a file is enough to tell its dialect, characters. */
const SAMPLE = 60_000;

/** Lines of one sheet: twenty years of a reading an hour. More is no book of readings, and would hold up everybody's. */
export const MOST_LINES = 200_000;
/** Columns: more than anybody has parameters, units and notes. */
export const MOST_COLUMNS = 500;
/** So much of a sheet is made into cells at a time, characters. */
const AT_ONCE = 1_000_000;

/** How many lines a text has; a line end within a cell counts as one. */
export function linesOf(text: string): number {
	let lines = text.endsWith('\n') ? 0 : 1;
	for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) lines++;
	return lines;
}

/** Why a sheet is not read, before any cell of it is made; nothing where it is. */
export function tooLarge(text: string, separator: Separator): string | undefined {
	const lines = linesOf(text);
	const grouped = new Intl.NumberFormat('en-GB');
	if (lines > MOST_LINES)
		return `This sheet has ${grouped.format(lines)} lines; ${grouped.format(MOST_LINES)} are taken at once. Split it, by years for example, and import the parts one after another.`;
	const columns = text.slice(0, AT_ONCE).split('\n', 1)[0]!.split(separator).length;
	if (columns > MOST_COLUMNS)
		return `This sheet has ${grouped.format(columns)} columns; ${MOST_COLUMNS} are read. Delete those that hold no readings.`;
	return undefined;
}

/** A sheet's text as rows of cells, some at a time: a long one is never all cells at once. Cells behind the {@link MOST_COLUMNS}th are left out. */
export function* rowsInTurn(text: string, separator: Separator): Generator<string[][]> {
	let rest = withoutMark(text);
	while (rest) {
		const ahead = rest.slice(0, AT_ONCE);
		// As many as lie in that piece; its last one may be cut, and is read with the next.
		const preview = Math.max(1, ahead.split('\n').length - 1);
		const { data, meta } = Papa.parse<string[]>(rest, {
			delimiter: separator,
			skipEmptyLines: 'greedy',
			preview,
			// The fast way splits all that is left each time.
			fastMode: false
		});
		yield data.map((row) => (row.length > MOST_COLUMNS ? row.slice(0, MOST_COLUMNS) : row));
		if (!meta.truncated) return;
		rest = rest.slice(meta.cursor);
	}
}

/** A sheet's text as rows of cells. */
export const rowsOf = (text: string, separator: Separator): string[][] =>
	[...rowsInTurn(text, separator)].flat();

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
