import { HOUR, MINUTE, cut, nth } from '../base';
import { DateTime, IANAZone } from 'luxon';
import { convert, type Entered } from '../quantities';
import { parameterOf, type ParameterId } from '../catalogue';
import { inShort, isNothing, numberIn, valueCells, type ValueCell } from './sheet-cells';
import { ASKED, isNoTest, parameterIn, unitIn, type Meaning, type SheetLayout } from './sheet-columns';
import { orderInWords, parseDate, parseTime, type DateOrder, type WrittenMoment } from './sheet-dates';

/** One answer in a sheet, ready to be kept: `raw` in the parameter's own unit. */
export interface SheetReading {
	row: number;
	column: number;
	/** UTC, ms. */
	at: number;
	/** The same by the layout's usual hour, though that may still be to come today: what the row is known by when the sheet is taken in again. */
	meant: number;
	/** Which water, as the sheet calls it; null: the tank's own. */
	water: string | null;
	parameter: ParameterId;
	raw: { shown: number | [number, number] } | { below: number } | { above: number };
	/** As it stood, with the unit it was understood in. */
	written: string;
	unit: string;
	/** It lies far outside what such water has. */
	odd: boolean;
}

export interface SheetNote {
	row: number;
	at: number;
	/** As of a reading. */
	meant: number;
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
		of: at('parameter'),
		sort: at('sort')
	};
	const unitColumn = at('unit');
	const boundColumn = at('bound');
	const instant = instants(timeZone, layout.hour);
	for (const [column, meaning] of layout.columns.entries())
		if (meaning.kind === 'value' && meaning.unit === ASKED && layout.headerRow !== null)
			content.refused.push({ row: layout.headerRow, column, reason: NO_UNIT });
	for (let row = layout.headerRow === null ? 0 : layout.headerRow + 1; row < rows.length; row++) {
		const cells = nth(rows, row);
		const cellAt = (column: number) => (column < 0 ? '' : (cells[column] ?? ''));
		if (cells.every(isNothing)) continue;
		const refuse = (reason: string) => content.refused.push({ row, column: null, reason });
		if (isNoTest(cellAt(places.sort))) {
			refuse(`is no test: it says “${inShort(cellAt(places.sort))}”`);
			continue;
		}
		const moment = momentIn(cellAt(places.date), cellAt(places.time), layout.order);
		if (typeof moment === 'string') {
			refuse(moment);
			continue;
		}
		const meant = instant(moment);
		const when = instantBy(now, instant, moment);
		if (when > now) {
			refuse(`its day lies ahead; is the order of day and month right?`);
			continue;
		}
		const water = cut(cellAt(places.water).trim(), 120) || null;
		const note = cellAt(places.note).trim();
		if (note) content.notes.push({ row, at: when, meant, text: cut(note, 500) });
		const named = places.of < 0 ? undefined : parameterIn(cellAt(places.of));
		if (places.of >= 0 && !named && !isNothing(cellAt(places.of)))
			refuse(
				`“${inShort(cellAt(places.of))}” ${isNoTest(cellAt(places.of)) ? 'is no test of the tank' : 'is no parameter known here'}`
			);
		const values = [...valueCells(cells, layout)];
		for (const value of values) {
			const taken = valueIn(value, cellAt(unitColumn), cellAt(boundColumn), layout);
			const { column, cell, parameter } = value;
			if (typeof taken === 'string') content.refused.push({ row, column, reason: taken });
			else
				content.readings.push({
					row,
					column,
					at: when,
					meant,
					water,
					parameter,
					written: inShort(cell),
					...taken
				});
		}
		if (!values.length && !note && !(places.of >= 0 && !named)) refuse('holds no value');
	}
	return content;
}

const MIDNIGHT = { hour: 0, minute: 0, second: 0 };
/** When a written moment was, ms: of today with no hour said, and the usual one still ahead, it has been by now. */
export function instantBy(
	now: number,
	instant: (moment: WrittenMoment) => number,
	moment: WrittenMoment
): number {
	const meant = instant(moment);
	return meant > now && !moment.time && instant({ ...moment, time: MIDNIGHT }) <= now ? now : meant;
}
/** Said of a header, or of the words that name a row's parameter. */
const NO_UNIT = 'says a unit that is not understood, or could be two; choose it above, and the column counts';

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

/** A day of the clock on the wall lies within so many hours of the same day at Greenwich (zones reach from −12 to +14). */
const [EARLIEST, LATEST] = [-14, 24 + 12];

/**
 * Written moments as instants, ms; an hour that comes twice is the first. A zone's offset is asked for once a day, and for each minute only around
 * the nights on which the clock changes.
 */
export function instants(timeZone: string, usualHour: number): (moment: WrittenMoment) => number {
	const zone = IANAZone.create(timeZone);
	/** Minutes east of UTC all day, or null. */
	const days = new Map<number, number | null>();
	const offsetOn = (midnight: number): number | null => {
		const known = days.get(midnight);
		if (known !== undefined) return known;
		const [before, after] = [EARLIEST, LATEST].map((hours) => zone.offset(midnight + hours * HOUR));
		const offset = before === after ? before! : null;
		days.set(midnight, offset);
		return offset;
	};
	return ({ year, month, day, time, offset }) => {
		const { hour, minute, second } = time ?? { hour: usualHour, minute: 0, second: 0 };
		const wall = Date.UTC(year, month - 1, day, hour, minute, second);
		const east = offset ?? offsetOn(Date.UTC(year, month - 1, day));
		if (east !== null) return wall - east * MINUTE;
		const possible = DateTime.fromObject(
			{ year, month, day, hour, minute, second },
			{ zone }
		).getPossibleOffsets();
		return Math.min(...possible.map((there) => there.toMillis()));
	};
}

/** A cell's value, with what the row's cells of units and of “below” say of it: a raw reading in the parameter's own unit, or why not. */
function valueIn(
	{ cell, parameter, unit: ofColumn }: ValueCell,
	unitCell: string,
	bound: string,
	{ units, decimal, leaveOdd }: SheetLayout
): Pick<SheetReading, 'raw' | 'unit' | 'odd'> | string {
	if (ofColumn === ASKED) return NO_UNIT;
	const said = unitCell.trim() === '' ? null : unitIn(parameter, unitCell);
	if (unitCell.trim() !== '' && said === null)
		return `“${inShort(unitCell)}” is no unit of ${parameter}, or could be two`;
	const unit = ofColumn ?? said ?? units[parameter] ?? parameterOf(parameter)!.unit;
	const number = numberIn(bound.trim().slice(0, 10) + cell, decimal, parameter, unit);
	if (typeof number === 'string') return number;
	const taken = inOwnUnit(number, parameter, unit);
	return typeof taken === 'object' && taken.odd && leaveOdd
		? 'lies far outside what such water has: left out'
		: taken;
}

/** A number in a unit as a raw reading in the parameter's own, or why not. */
function inOwnUnit(
	number: Entered,
	parameter: ParameterId,
	unit: string
): Pick<SheetReading, 'raw' | 'unit' | 'odd'> | string {
	const { unit: own, plausible } = parameterOf(parameter)!;
	const inOwn = (value: number): number | string => {
		const there = convert({ quantity: parameter, value, from: unit, to: own });
		// A conversion leaves digits that nobody wrote.
		return there.ok
			? Number(there.value.value.toPrecision(9))
			: `${value} ${unit} ${nth(there.problems, 0).message}`;
	};
	const ends = (number.kind === 'between' ? [number.low, number.high] : [number.value]).map(inOwn);
	const refused = ends.find((end) => typeof end === 'string');
	if (typeof refused === 'string') return refused;
	const [a, b] = (ends as number[]).sort((x, y) => x - y) as [number, number?];
	const raw: SheetReading['raw'] =
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
