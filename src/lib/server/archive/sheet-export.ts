import { sheetHead, sheetLine } from '../../../core/formats';
import { seenInWords } from '../../../core/methods';
import type { BookFilter, BookPlace } from '../../api/book';
import type { Asker } from '../identity/asker';
import { LARGEST_PAGE, bookPage } from '../stores/book';
import { systemFor } from '../stores/systems';

/** A tank's readings as a sheet, newest first, piece by piece. */
export async function* sheetFile(asker: Asker, systemId: string, filter: BookFilter): AsyncGenerator<string> {
	const { timeZone } = await systemFor(asker, systemId);
	// Spreadsheets take a file for UTF-8 by this mark.
	yield `\uFEFF${sheetHead()}\r\n`;
	let before: BookPlace | undefined;
	do {
		const { lines, next } = await bookPage(
			asker,
			systemId,
			{ ...filter, lines: 'readings' },
			before,
			LARGEST_PAGE
		);
		const rows = lines.flatMap((l) =>
			l.line === 'reading'
				? [sheetLine({ ...l, water: l.sourceName, seen: seenInWords(l.raw) }, timeZone)]
				: []
		);
		if (rows.length) yield `${rows.join('\r\n')}\r\n`;
		before = next ?? undefined;
	} while (before);
}
