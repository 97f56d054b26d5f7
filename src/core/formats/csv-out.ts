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
const number = (value: number | null): string =>
	value === null ? '' : String(Number(value.toPrecision(DIGITS)));

/**
 * A cell that no spreadsheet runs: text that begins like a formula gets an apostrophe before it, as spreadsheets themselves
 * write text (OWASP, CSV injection; signs of full width count, since East Asian spreadsheets take them for the narrow ones).
 * Numbers stay numbers.
 *
 * @example harmless('=1+1') // → '\'=1+1'
 */
export const harmless = (cell: string): string =>
	/^[=+\-@＝＋－＠\t\r\n]/.test(cell) && !/^[+-]?[\d.,]+$/.test(cell) ? `'${cell}` : cell;

const quoted = (cell: string): string => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
const line = (cells: string[]): string => cells.map((cell) => quoted(harmless(cell))).join(',');

/** @example sheetHead().split(',').length // → 11 */
export const sheetHead = (): string => line(OUT_COLUMNS.map(([name]) => name));

/** A reading as a line of the sheet. */
export function sheetLine(row: OutRow, timeZone: string): string {
	const [low, high] = row.interval;
	const reading =
		row.qualifier === '<'
			? `<${number(high)}`
			: row.qualifier === '>'
				? `>${number(low)}`
				: row.qualifier === 'between'
					? `${number(low)}-${number(high)}`
					: number(row.value);
	return line([
		DateTime.fromISO(row.takenAt, { zone: timeZone }).toISO({ suppressMilliseconds: true })!,
		row.water,
		row.parameter,
		reading,
		row.unit,
		number(low),
		number(high),
		number(row.standardUncertainty),
		row.methodName,
		row.seen,
		row.by
	]);
}

/**
 * The same for rows of any cells: what an import could not take, given back.
 *
 * @example sheetOf([['a', 'b,c'], ['=d', '8.1']]) // → 'a,"b,c"\r\n\'=d,8.1'
 */
export const sheetOf = (rows: string[][]): string => rows.map(line).join('\r\n');
