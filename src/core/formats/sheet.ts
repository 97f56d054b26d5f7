import { DateTime } from 'luxon';
import type { RawReading } from '../methods';
import { cut } from '../text';
import {
	LONGEST_ENTRY,
	convert,
	formatUnit,
	parameterOf,
	parseEntry,
	type Entered,
	type ParameterId
} from '../quantities';
import {
	meaningByCells,
	meaningOf,
	parameterIn,
	plain,
	unitBySize,
	unitIn,
	type Meaning
} from './sheet-columns';
import { guessOrder, parseDate, parseTime, type DateOrder, type WrittenMoment } from './sheet-dates';

/** How a sheet is to be understood. */
export interface SheetLayout {
	/** The row with the headers, counted from 0; null: there is none. */
	headerRow: number | null;
	decimal: '.' | ',';
	order: DateOrder;
	/** The hour of the tank's day that stands for tests without one. */
	hour: number;
	columns: Meaning[];
	/** Units by parameter, where neither a header nor a cell says one. */
	units: Partial<Record<ParameterId, string>>;
}

/** A layout that was guessed, with what the keeper had better look at. */
export interface GuessedLayout extends SheetLayout {
	doubts: string[];
	/** The larger, the more of the sheet makes sense this way. */
	sense: number;
}

/** One answer in a sheet, ready to be kept: `raw` in the parameter's own unit. */
export interface SheetReading {
	row: number;
	column: number;
	/** UTC, ms. */
	at: number;
	/** Which water, as the sheet calls it; null: the tank's own. */
	water: string | null;
	parameter: ParameterId;
	raw: RawReading;
	/** As it stood, with the unit it was understood in. */
	written: string;
	unit: string;
	/** It lies far outside what such water has. */
	odd: boolean;
}

export interface SheetNote {
	row: number;
	at: number;
	text: string;
}

/** What could not be taken, and why; without a column it is the whole row. */
export interface RefusedCell {
	row: number;
	column: number | null;
	reason: string;
}

export interface SheetContent {
	readings: SheetReading[];
	notes: SheetNote[];
	refused: RefusedCell[];
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
		const byHeader = meaningOf(rows[headerRow]![c] ?? '');
		// A column headed "time" often holds whole dates, and one headed "day" may hold the hour.
		if (byHeader.kind === 'time' || byHeader.kind === 'date')
			return byCells.kind === 'date' || byCells.kind === 'time' ? byCells : byHeader;
		return byHeader;
	});
	settle(columns);
	const dates = columns.flatMap((m, c) => (m.kind === 'date' ? cellsOf(c) : []));
	const { order, sure } = guessOrder(dates);
	if (!sure) doubts.push(`Day and month could be the other way round; read as ${orderInWords(order)}.`);
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

const orderInWords = (order: DateOrder): string =>
	({ dmy: 'day first', mdy: 'month first', ymd: 'year first' })[order];

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
function settle(columns: Meaning[]): void {
	for (const kind of ['date', 'time', 'parameter', 'unit', 'water', 'bound'] as const) {
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

/** Filled cells that hold values, with what they are of. */
function* valueCells(
	row: string[],
	{ columns }: SheetLayout
): Generator<{ column: number; cell: string; parameter: ParameterId; unit: string | null }> {
	const of = columns.findIndex((m) => m.kind === 'parameter');
	for (const [column, meaning] of columns.entries()) {
		if (meaning.kind !== 'value') continue;
		const cell = row[column] ?? '';
		if (isNothing(cell)) continue;
		if (meaning.parameter) yield { column, cell, parameter: meaning.parameter, unit: meaning.unit };
		else {
			const named = parameterIn(row[of] ?? '');
			if (named) yield { column, cell, parameter: named.parameter, unit: meaning.unit ?? named.unit };
		}
	}
}

/** Marks that people put where they did not test. */
const isNothing = (cell: string): boolean => /^(?:[-–—./]+|n\/?a|none|\?)?$/i.test(cell.trim());

/** A cell as a sentence repeats it: cut, however much stands in it. */
const inShort = (cell: string): string => {
	const text = cell.trim();
	return text.length > 40 ? `${cut(text, 40)}…` : text;
};

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

/**
 * All that a sheet holds, by a layout. `now` in ms; nothing may lie ahead of it. Whatever cannot be taken is named with its
 * reason, cell by cell; the rest stands.
 *
 * @example readSheet([['date', 'KH'], ['2026-05-01', '8.1']], guessLayout([['date', 'KH'], ['2026-05-01', '8.1']]), { timeZone: 'Europe/Dublin', now: Date.parse('2026-05-06') }).readings[0].raw // → { shown: 8.1 }
 */
export function readSheet(
	rows: string[][],
	layout: SheetLayout,
	{ timeZone, now }: { timeZone: string; now: number }
): SheetContent {
	const content: SheetContent = { readings: [], notes: [], refused: [] };
	const at = (kind: Meaning['kind']) => layout.columns.findIndex((m) => m.kind === kind);
	const places = {
		date: at('date'),
		time: at('time'),
		water: at('water'),
		note: at('note'),
		of: at('parameter')
	};
	const unitColumn = at('unit');
	const boundColumn = at('bound');
	const instant = instants(timeZone, layout.hour);
	for (let row = layout.headerRow === null ? 0 : layout.headerRow + 1; row < rows.length; row++) {
		const cells = rows[row]!;
		const cellAt = (column: number) => (column < 0 ? '' : (cells[column] ?? ''));
		if (cells.every(isNothing)) continue;
		const refuse = (reason: string, column: number | null = null) =>
			content.refused.push({ row, column, reason });
		const moment = momentIn(cellAt(places.date), cellAt(places.time), layout.order);
		if (typeof moment === 'string') {
			refuse(moment);
			continue;
		}
		const when = instant(moment);
		if (when > now) {
			refuse(`its day lies ahead; is the order of day and month right?`);
			continue;
		}
		const water = cut(cellAt(places.water).trim(), 120) || null;
		const note = cellAt(places.note).trim();
		if (note) content.notes.push({ row, at: when, text: cut(note, 500) });
		const named = places.of < 0 ? undefined : parameterIn(cellAt(places.of));
		if (places.of >= 0 && !named && !isNothing(cellAt(places.of)))
			refuse(`“${inShort(cellAt(places.of))}” is no parameter known here`);
		let found = false;
		for (const { column, cell, parameter, unit } of valueCells(cells, layout)) {
			found = true;
			const unitCell = cellAt(unitColumn);
			const said = unitCell.trim() === '' ? null : unitIn(parameter, unitCell);
			if (unitCell.trim() !== '' && said === null) {
				refuse(`“${inShort(unitCell)}” is no unit of ${parameter}, or could be two`, column);
				continue;
			}
			const taken = valueIn(
				cellAt(boundColumn).trim().slice(0, 10) + cell,
				parameter,
				unit ?? said ?? layout.units[parameter] ?? parameterOf(parameter)!.unit,
				layout.decimal
			);
			if (typeof taken === 'string') refuse(taken, column);
			else
				content.readings.push({ row, column, at: when, water, parameter, written: inShort(cell), ...taken });
		}
		if (!found && !note && !(places.of >= 0 && !named)) refuse('holds no value');
	}
	return content;
}

function momentIn(date: string, time: string, order: DateOrder): WrittenMoment | string {
	if (isNothing(date)) return 'has no date';
	const day = parseDate(date, order);
	if (!day)
		return `“${inShort(date)}” is no date${order === 'ymd' ? '' : `, read with the ${orderInWords(order)}`}`;
	if (day.year < 1970) return `the year ${day.year} is before anyone tested`;
	if (isNothing(time) || day.time) return day;
	const hour = parseTime(time);
	return hour ? { ...day, time: hour } : `“${inShort(time)}” is no time of day`;
}

/** Written moments as instants, ms; an hour that comes twice is the first. A sheet asks for the same evening again and again: each is worked out once. */
function instants(timeZone: string, usualHour: number): (moment: WrittenMoment) => number {
	const known = new Map<string, number>();
	return ({ year, month, day, time, offset }) => {
		const { hour, minute, second } = time ?? { hour: usualHour, minute: 0, second: 0 };
		if (offset !== undefined) return Date.UTC(year, month - 1, day, hour, minute, second) - offset * 60_000;
		const key = `${year}-${month}-${day}-${hour}-${minute}`;
		const start =
			known.get(key) ??
			Math.min(
				...DateTime.fromObject({ year, month, day, hour, minute }, { zone: timeZone })
					.getPossibleOffsets()
					.map((there) => there.toMillis())
			);
		known.set(key, start);
		return start + 1000 * second;
	};
}

/** A cell's number in a unit as a raw reading in the parameter's own, or why not. */
function valueIn(
	cell: string,
	parameter: ParameterId,
	unit: string,
	decimal: '.' | ','
): Pick<SheetReading, 'raw' | 'unit' | 'odd'> | string {
	const number = numberIn(cell, decimal, parameter, unit);
	if (typeof number === 'string') return number;
	const { unit: own, plausible } = parameterOf(parameter)!;
	const inOwn = (value: number): number | string => {
		const there = convert({ quantity: parameter, value, from: unit, to: own });
		// A conversion leaves digits that nobody wrote.
		return there.ok
			? Number(there.value.value.toPrecision(9))
			: `${value} ${unit} ${there.problems[0]!.message}`;
	};
	const ends = (number.kind === 'between' ? [number.low, number.high] : [number.value]).map(inOwn);
	const refused = ends.find((end) => typeof end === 'string');
	if (typeof refused === 'string') return refused;
	const [a, b] = (ends as number[]).sort((x, y) => x - y) as [number, number?];
	const raw: RawReading =
		number.kind === 'below'
			? { below: a }
			: number.kind === 'above'
				? { above: a }
				: { shown: b === undefined ? a : [a, b] };
	// Twice the width of what honest readings have on either side.
	const width = plausible[1] - plausible[0];
	const odd = a > plausible[1] + width || (b ?? a) < plausible[0] - width;
	return { raw, unit, odd };
}

/** What a cell's number is, whatever marks stand around it, or why it is none. */
function numberIn(
	cell: string,
	decimal: '.' | ',',
	parameter: ParameterId,
	unit: string | null
): Entered | string {
	const whole = cell.trim();
	if (whole.length > LONGEST_ENTRY) return `“${inShort(whole)}” is too long for a number`;
	const text = whole
		.replace(/^(?:~|≈|ca\.?|approx\.?)\s*/i, '')
		.replace(/\s*(?:±|\+\/-)\s*[\d.,]+/, '')
		.replace(/(\d)[\s'’](?=\d{3}\b)/g, '$1');
	if (/^(?:n\.?d\.?|nil|not detected|undetectable|trace)$/i.test(text))
		return `“${whole}”: below what? Write for example <0.2`;
	const entry = parseEntry(withoutThousands(text, decimal, parameter));
	if (!entry.ok) return entry.problems[0]!.message;
	const { number, before, after } = entry.value;
	if (before) return `“${whole}” has words before its number`;
	if (after && unit !== null && unitIn(parameter, after) !== unit && plain(after) !== plain(unit))
		return `“${after}” is not ${unit}; choose the column's unit, or give it a column of its own`;
	return number;
}

/** "1,280" is a thousand and more where the decimal mark is a point, or where 1.28 of it makes no sense. */
function withoutThousands(text: string, decimal: '.' | ',', parameter: ParameterId): string {
	return text.replace(/\d{1,3}(?:[.,]\d{3})+(?:[.,]\d+)?(?!\d)/g, (number) => {
		const groups = number.split(/[.,]/);
		const marks = number.replace(/\d/g, '');
		if (groups.length > 2) {
			// Two unlike marks: the last is the decimal one. Two alike: both part thousands.
			return marks[0] === marks.at(-1) ? groups.join('') : `${groups.slice(0, -1).join('')}.${groups.at(-1)}`;
		}
		const [low, high] = parameterOf(parameter)!.plausible;
		const whole = Number(groups.join(''));
		const fraction = Number(groups.join('.'));
		if (whole >= low / 2 && whole <= high * 2) return String(whole);
		if (fraction >= low / 2 && fraction <= high * 2) return String(fraction);
		return marks === decimal ? String(fraction) : String(whole);
	});
}
