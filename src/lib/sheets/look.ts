import {
	readSheet,
	sheetOf,
	type GuessedLayout,
	type SheetLayout,
	type SheetReading
} from '../../core/formats';
import { rowsOf, tooLarge, understand, type Separator } from './parse';

/** A sheet to be looked at; without a layout it is guessed. */
export interface Look {
	text: string;
	separator?: Separator;
	layout?: SheetLayout;
	timeZone: string;
	/** ms. */
	now: number;
}

/** What a sheet is before it is taken in. */
export interface Looked {
	separator: Separator;
	layout: GuessedLayout | SheetLayout;
	doubts: string[];
	/** The header's row, if there is one, and the first rows of cells. */
	header: string[] | null;
	rows: string[][];
	/** The first readings as understood. */
	readings: SheetReading[];
	count: number;
	notes: number;
	odd: SheetReading[];
	refused: { row: number; cells: string; reason: string }[];
	refusedCount: number;
	/** All that cannot be taken, with its reasons, as a sheet. */
	refusedSheet: string;
	from: number | null;
	to: number | null;
}

/** Rows and readings that are shown. */
const FIRST_ROWS = 8;
const FIRST_READINGS = 12;
const FIRST_REFUSED = 50;

/** A sheet as it is understood, or why it is not read. */
export function looked({ text, separator, layout, timeZone, now }: Look): Looked | { problem: string } {
	const guess =
		separator && layout ? { separator, layout: { ...layout, doubts: [], sense: 0 } } : understand(text);
	const large = tooLarge(text, guess.separator);
	if (large) return { problem: large };
	const rows = rowsOf(text, guess.separator);
	const { readings, notes, refused } = readSheet(rows, guess.layout, { timeZone, now });
	const { headerRow } = guess.layout;
	const cellsOf = (row: number) => rows[row] ?? [];
	let from: number | null = null;
	let to: number | null = null;
	for (const { at } of readings) {
		if (from === null || at < from) from = at;
		if (to === null || at > to) to = at;
	}
	const reasons = new Map<number, string[]>();
	for (const r of refused) {
		const said = r.column === null ? r.reason : `${cellsOf(r.row)[r.column]}: ${r.reason}`;
		reasons.set(r.row, [...(reasons.get(r.row) ?? []), said]);
	}
	const head = headerRow === null ? [] : [[...cellsOf(headerRow), 'why it was not imported']];
	return {
		...guess,
		doubts: guess.layout.doubts,
		header: headerRow === null ? null : cellsOf(headerRow),
		rows: rows.slice(headerRow === null ? 0 : headerRow + 1).slice(0, FIRST_ROWS),
		readings: readings.slice(0, FIRST_READINGS),
		count: readings.length,
		notes: notes.length,
		odd: readings.filter((r) => r.odd).slice(0, FIRST_REFUSED),
		refused: [...reasons]
			.slice(0, FIRST_REFUSED)
			.map(([row, why]) => ({ row, cells: cellsOf(row).join(' · '), reason: why.join('; ') })),
		refusedCount: reasons.size,
		refusedSheet: sheetOf([...head, ...[...reasons].map(([row, why]) => [...cellsOf(row), why.join('; ')])]),
		from,
		to
	};
}
