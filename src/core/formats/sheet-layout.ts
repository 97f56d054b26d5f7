import { nth } from '../base';
import { LONGEST_ENTRY, formatUnit } from '../quantities';
import { parameterOf, type ParameterId } from '../catalogue';
import { inShort, numberIn, valueCells } from './sheet-cells';
import {
	ASKED,
	isNoTest,
	meaningByCells,
	meaningOf,
	namedIn,
	unitBySize,
	unitIn,
	type Meaning,
	type SheetLayout
} from './sheet-columns';
import { datesInWords, guessOrder, parseDate } from './sheet-dates';

/** A layout that was guessed, with what the keeper had better look at. */
export interface GuessedLayout extends SheetLayout {
	doubts: string[];
	/** The larger, the more of the sheet makes sense this way. */
	sense: number;
}

/** A header stands among the first so many rows, below whatever title there is. */
const HEADER_WITHIN = 12;
/** So many rows are enough to tell what a column holds. */
const SAMPLE_ROWS = 200;
/** No sheet of readings is wider. */
const MOST_COLUMNS = 500;
/** Evenings are when people test. */
export const USUAL_HOUR = 19;

/**
 * How a sheet's cells are most likely meant.
 *
 * @example guessLayout([['date', 'KH'], ['2026-05-01', '8.1']]).columns // → [{ kind: 'date' }, { kind: 'value', parameter: 'alkalinity', unit: 'dKH' }]
 */
export function guessLayout(rows: string[][]): GuessedLayout {
	const doubts: string[] = [];
	const width = Math.min(
		MOST_COLUMNS,
		rows.reduce((most, row) => Math.max(most, row.length), 0)
	);
	const headerRow = findHeader(rows);
	const body = rows.slice(headerRow === null ? 0 : headerRow + 1).slice(0, SAMPLE_ROWS);
	const cellsOf = (c: number) => body.map((row) => row[c] ?? '');
	const columns = Array.from({ length: width }, (_, c): Meaning => {
		const byCells = meaningByCells(cellsOf(c));
		if (headerRow === null) return byCells;
		const byHeader = meaningOf(nth(rows, headerRow)[c] ?? '');
		// A column headed "time" often holds whole dates, and one headed "day" may hold the hour.
		if (byHeader.kind === 'time' || byHeader.kind === 'date')
			return byCells.kind === 'date' || byCells.kind === 'time' ? byCells : byHeader;
		return byHeader;
	});
	settle(columns, cellsOf);
	const heads = headerRow === null ? [] : nth(rows, headerRow);
	const named = (is: (head: string, meaning: Meaning) => boolean) =>
		heads.filter((head, c) => c < width && is(head, nth(columns, c))).map((head) => `“${inShort(head)}”`);
	const others = named((head, m) => m.kind === 'skip' && isNoTest(head) && namedIn(head) !== undefined);
	if (others.length)
		doubts.push(`No tests of the tank, and left out unless you say otherwise: ${others.join(', ')}.`);
	const asked = named((_, m) => m.kind === 'value' && m.unit === ASKED);
	if (asked.length)
		doubts.push(
			`Which unit is meant is not understood, so nothing is taken before you choose it: ${asked.join(', ')}.`
		);
	const dates = columns.flatMap((m, c) => (m.kind === 'date' ? cellsOf(c) : []));
	const { order, could } = guessOrder(dates);
	if (could) doubts.push(datesInWords(could, order));
	const values = columns.flatMap((m, c) => (m.kind === 'value' ? cellsOf(c) : []));
	const decimal = guessDecimal(values);
	const layout: SheetLayout = { headerRow, decimal, order, hour: USUAL_HOUR, columns, units: {} };
	for (const [parameter, found] of valuesByParameter(body, layout)) {
		if (found.named) continue;
		const guess = unitBySize(parameter, found.values);
		layout.units[parameter] = guess.unit;
		if (!guess.sure)
			doubts.push(
				`${parameterOf(parameter)!.title} does not say which unit; by its size it is taken for ${formatUnit(guess.unit)}.`
			);
	}
	return { ...layout, doubts, sense: senseOf(body, layout) };
}

/** The row in which most cells are headers, if at least two are, or one beside a date. */
function findHeader(rows: string[][]): number | null {
	let best: { row: number; named: number } | undefined;
	for (const [i, row] of rows.slice(0, HEADER_WITHIN).entries()) {
		if (row.some((cell) => parseDate(cell, 'dmy') ?? parseDate(cell, 'mdy'))) break;
		const named = row.filter((cell) => meaningOf(cell).kind !== 'skip').length;
		if (named >= 2 && named > (best?.named ?? 0)) best = { row: i, named };
	}
	return best?.row ?? null;
}

/** One column a role: of two dates the first; a value without a parameter needs a column that names one. */
function settle(columns: Meaning[], cellsOf: (column: number) => string[]): void {
	const namesParameters = (column: number) => meaningByCells(cellsOf(column)).kind === 'parameter';
	if (!columns.some((m) => m.kind === 'parameter'))
		for (const [c, m] of columns.entries())
			if (m.kind === 'sort' && namesParameters(c)) columns[c] = { kind: 'parameter' };
	for (const kind of ['date', 'time', 'parameter', 'sort', 'unit', 'water', 'bound'] as const) {
		const first = columns.findIndex((m) => m.kind === kind);
		for (const [c, m] of columns.entries()) if (m.kind === kind && c !== first) columns[c] = { kind: 'skip' };
	}
	const long = columns.some((m) => m.kind === 'parameter');
	let seen = false;
	for (const [c, m] of columns.entries())
		if (m.kind === 'value' && m.parameter === null) {
			if (!long || seen) columns[c] = { kind: 'skip' };
			seen = true;
		}
}

/** Which mark most numbers have before a last group that is not of three digits. */
function guessDecimal(cells: string[]): '.' | ',' {
	let comma = 0;
	let point = 0;
	for (const cell of cells) {
		if (cell.length > LONGEST_ENTRY) continue;
		if (/\d,\d{1,2}(?!\d)|\d,\d{4,}/.test(cell)) comma++;
		if (/\d\.\d{1,2}(?!\d)|\d\.\d{4,}/.test(cell)) point++;
	}
	return comma > point ? ',' : '.';
}

/** Numbers of each parameter and whether their unit is said. */
function valuesByParameter(
	body: string[][],
	layout: SheetLayout
): Map<ParameterId, { named: boolean; values: number[] }> {
	const found = new Map<ParameterId, { named: boolean; values: number[] }>();
	const unitColumn = layout.columns.findIndex((m) => m.kind === 'unit');
	for (const row of body)
		for (const { parameter, unit, cell } of valueCells(row, layout)) {
			const known = found.get(parameter) ?? { named: true, values: [] };
			found.set(parameter, known);
			const said = unit ?? (unitColumn < 0 ? null : unitIn(parameter, row[unitColumn] ?? ''));
			const number = numberIn(cell, layout.decimal, parameter, null);
			if (said !== null) continue;
			known.named = false;
			if (typeof number !== 'string' && number.kind === 'exact') known.values.push(number.value);
		}
	return found;
}

/** How much of a sheet a layout makes sense of: cells that hold a value on a row with a date. */
function senseOf(body: string[][], layout: SheetLayout): number {
	const date = layout.columns.findIndex((m) => m.kind === 'date');
	if (date < 0) return 0;
	let sense = 0;
	for (const row of body) {
		if (!parseDate(row[date] ?? '', layout.order)) continue;
		for (const { cell, parameter } of valueCells(row, layout))
			if (typeof numberIn(cell, layout.decimal, parameter, null) !== 'string') sense++;
	}
	return sense;
}
