import { DateTime } from 'luxon';
import type { Qualifier } from '../methods';

/** One reading as a row of the sheet that goes out; numbers in the parameter's own unit. */
export interface OutRow {
	/** UTC, ISO 8601. */
	takenAt: string;
	water: string;
	parameter: string;
	qualifier: Qualifier;
	value: number | null;
	interval: [number | null, number | null];
	standardUncertainty: number | null;
	unit: string;
	methodName: string;
	seen: string;
	by: string;
}

/** Columns in order, with what they mean: documented where the sheet is offered. */
export const OUT_COLUMNS: [string, string][] = [
	['time', 'when the water was drawn, by the tank’s clock with its offset (ISO 8601)'],
	['water', 'which water: the tank itself, a mixing bin, a tap'],
	['parameter', 'what was measured'],
	['reading', 'the answer: a number, <0.2 or >100 for a bound, 4-8 for an interval'],
	['unit', 'of all numbers in the row'],
	['low', 'lower end of the 95 % interval, or of the interval read'],
	['high', 'upper end'],
	['standard uncertainty', 'of the reading (GUM)'],
	['method', 'kit or instrument, or where the value came from'],
	['seen', 'what stood on the instrument'],
	['by', 'who tested']
];

/** Digits past which nothing here is known. */
const DIGITS = 6;
const digits = (value: number): number => Number(value.toPrecision(DIGITS));

/** How a person writes a sheet: their decimal sign, and what cannot be one between cells. */
export interface Written {
	decimal: '.' | ',';
}
const POINT: Written = { decimal: '.' };

/**
 * A cell that no spreadsheet runs: text that begins like a formula gets an apostrophe before it, as spreadsheets themselves
 * write text (OWASP, CSV injection; signs of full width count, since East Asian spreadsheets take them for the narrow ones).
 * Numbers stay numbers.
 *
 * @example harmless('=1+1') // → '\'=1+1'
 */
export const harmless = (cell: string): string =>
	/^[=+\-@＝＋－＠\t\r\n]/.test(cell) && !/^[+-]?[\d.,]+$/.test(cell) ? `'${cell}` : cell;

const line = (cells: string[], { decimal } = POINT): string => {
	const separator = decimal === ',' ? ';' : ',';
	const quoted = (cell: string) =>
		/["\r\n]/.test(cell) || cell.includes(separator) ? `"${cell.replaceAll('"', '""')}"` : cell;
	return cells.map((cell) => quoted(harmless(cell))).join(separator);
};

/** @example sheetHead().split(',').length // → 11 */
export const sheetHead = (written = POINT): string =>
	line(
		OUT_COLUMNS.map(([name]) => name),
		written
	);

/** A reading as cells of the sheet: numbers as numbers, the moment as it is. */
export function sheetCells(row: OutRow): (string | number | Date | null)[] {
	const [low, high] = row.interval;
	const of = (value: number | null) => (value === null ? null : digits(value));
	const reading =
		row.qualifier === '<'
			? `<${of(high)}`
			: row.qualifier === '>'
				? `>${of(low)}`
				: row.qualifier === 'between'
					? `${of(low)}-${of(high)}`
					: of(row.value);
	return [
		new Date(row.takenAt),
		row.water,
		row.parameter,
		reading,
		row.unit,
		of(low),
		of(high),
		of(row.standardUncertainty),
		row.methodName,
		row.seen,
		row.by
	];
}

/** The same as a line of text. */
export function sheetLine(row: OutRow, timeZone: string, written = POINT): string {
	const inText = (cell: string | number | Date | null, column: number): string => {
		if (cell instanceof Date)
			return DateTime.fromJSDate(cell, { zone: timeZone }).toISO({ suppressMilliseconds: true })!;
		const isNumber = typeof cell === 'number' || column === READING;
		return isNumber ? String(cell ?? '').replaceAll('.', written.decimal) : (cell ?? '');
	};
	return line(sheetCells(row).map(inText), written);
}
/** Bounds and intervals stand in this column as text. */
const READING = OUT_COLUMNS.findIndex(([name]) => name === 'reading');

/**
 * The same for rows of any cells: what an import could not take, given back.
 *
 * @example sheetOf([['a', 'b,c'], ['=d', '8.1']]) // → 'a,"b,c"\r\n\'=d,8.1'
 */
export const sheetOf = (rows: string[][], written = POINT): string =>
	rows.map((row) => line(row, written)).join('\r\n');
