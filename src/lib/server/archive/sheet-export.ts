import { DateTime } from 'luxon';
import {
	OUT_COLUMNS,
	sheetCells,
	sheetHead,
	sheetLine,
	type OutRow,
	type Written
} from '../../../core/formats';
import { seenInWords } from '../../../core/instruments';
import type { BookFilter, BookPlace, BookReading } from '../../api/book';
import type { Asker } from '../identity/asker';
import { LARGEST_PAGE, bookPage } from '../answers/book';
import { systemFor } from '../stores/systems';
import { inThread } from '../work/pool';

/** How the sheet's person has it: their units and their decimal sign. */
export interface Mine extends Written {
	reading: (line: BookReading) => BookReading;
}

async function* pagesOf(
	asker: Asker,
	systemId: string,
	filter: BookFilter,
	mine: Mine
): AsyncGenerator<OutRow[]> {
	let before: BookPlace | undefined;
	do {
		const { lines, next } = await bookPage(
			asker,
			systemId,
			{ ...filter, lines: 'readings' },
			before,
			LARGEST_PAGE
		);
		yield lines.flatMap((l) => {
			if (l.line !== 'reading') return [];
			const line = mine.reading(l);
			// A number that says nothing yet says so.
			const methodName = l.ownChart ? l.methodName : `${l.methodName} (no chart of its own yet)`;
			return [{ ...line, methodName, water: l.sourceName, seen: seenInWords(l.raw) }];
		});
		before = next ?? undefined;
	} while (before);
}

/** A tank's readings as a sheet of text, newest first, piece by piece. */
export async function* sheetFile(
	asker: Asker,
	systemId: string,
	filter: BookFilter,
	mine: Mine
): AsyncGenerator<string> {
	const { timeZone } = await systemFor(asker, systemId);
	// Spreadsheets take a file for UTF-8 by this mark.
	yield `\uFEFF${sheetHead(mine)}\r\n`;
	for await (const rows of pagesOf(asker, systemId, filter, mine))
		if (rows.length) yield `${rows.map((row) => sheetLine(row, timeZone, mine)).join('\r\n')}\r\n`;
}

/** The same as a workbook (xlsx), put together in a thread. */
export async function workbookFile(
	asker: Asker,
	systemId: string,
	filter: BookFilter,
	mine: Mine
): Promise<Uint8Array> {
	const { name, timeZone } = await systemFor(asker, systemId);
	const rows: (string | number | Date | null)[][] = [OUT_COLUMNS.map(([title]) => title)];
	for await (const page of pagesOf(asker, systemId, filter, mine))
		for (const row of page)
			rows.push(sheetCells(row).map((cell) => (cell instanceof Date ? onClock(cell, timeZone) : cell)));
	return inThread('files', 'workbook', { name, rows });
}

/** Workbooks know no zones: a moment whose fields in UTC are those of the tank's clock. */
const onClock = (at: Date, timeZone: string): Date =>
	DateTime.fromJSDate(at, { zone: timeZone }).setZone('utc', { keepLocalTime: true }).toJSDate();
