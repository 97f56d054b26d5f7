import { unzipSync } from 'fflate';
import { read, utils, write, type CellObject, type WorkBook } from '@e965/xlsx';

/** What a workbook may hold once it is unpacked, bytes: fifty years of everything; a bomb holds more. */
const MOST_UNPACKED = 400_000_000;
/** Rows of one sheet that are read: ten times what a busy keeper writes in fifty years. */
const MOST_ROWS = 200_000;

/** A sheet of a workbook as text with commas, dates written year first. */
export interface SheetText {
	name: string;
	text: string;
	rows: number;
}

/** Whether a file is a workbook (xlsx and ods are zip archives) and no text. */
export const isWorkbook = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Why a workbook cannot be read, in a keeper's words. */
export class NoWorkbook extends Error {}

/**
 * The sheets of an xlsx or ods file that hold anything, as text, the fullest first. Throws {@link NoWorkbook} where it is none, or
 * unpacks to more than any book holds.
 */
export function sheetsOf(bytes: Uint8Array): SheetText[] {
	let unpacked = 0;
	let book: WorkBook;
	try {
		// Only the list of what is inside is read here.
		unzipSync(bytes, { filter: ({ originalSize }) => ((unpacked += originalSize), false) });
	} catch {
		throw new NoWorkbook('is no workbook that can be read; save it as .xlsx, .ods or .csv');
	}
	if (unpacked > MOST_UNPACKED) throw new NoWorkbook('unpacks to far more than a book of readings holds');
	try {
		book = read(bytes, {
			type: 'array',
			cellDates: true,
			UTC: true,
			dense: true,
			sheetRows: MOST_ROWS,
			cellFormula: false
		});
	} catch {
		throw new NoWorkbook('is no workbook that can be read; save it as .xlsx, .ods or .csv');
	}
	return book.SheetNames.flatMap((name) => {
		const sheet = book.Sheets[name];
		if (!sheet) return [];
		const rows = utils.sheet_to_json<unknown[]>(sheet, {
			header: 1,
			raw: true,
			UTC: true,
			defval: '',
			blankrows: false
		});
		if (!rows.length) return [];
		return [
			{ name, rows: rows.length, text: rows.map((row) => row.map(cellText).map(quoted).join(',')).join('\n') }
		];
	}).sort((a, b) => b.rows - a.rows);
}

/** A cell as a keeper would write it in a text: dates year first on the clock they were written by, numbers with a point. */
function cellText(cell: unknown): string {
	if (cell instanceof Date) {
		if (Number.isNaN(cell.getTime())) return '';
		const two = (n: number) => String(n).padStart(2, '0');
		const day = `${cell.getUTCFullYear()}-${two(cell.getUTCMonth() + 1)}-${two(cell.getUTCDate())}`;
		const time = `${two(cell.getUTCHours())}:${two(cell.getUTCMinutes())}`;
		// A time of day alone has the day on which such sheets begin to count.
		return cell.getUTCFullYear() < 1901 ? time : time === '00:00' ? day : `${day} ${time}`;
	}
	if (typeof cell === 'number') return String(Number(cell.toPrecision(12)));
	return String(cell ?? '');
}
const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** Rows as an xlsx file: numbers stay numbers, moments are dates as their UTC fields say, text is never a formula. */
export function workbookOf(name: string, rows: (string | number | Date | null)[][]): Uint8Array {
	const cells = rows.map((row) =>
		row.map((value): CellObject | null => {
			if (value === null) return null;
			if (value instanceof Date) return { t: 'd', v: value, z: 'yyyy-mm-dd hh:mm' };
			return typeof value === 'number' ? { t: 'n', v: value } : { t: 's', v: value };
		})
	);
	const sheet = utils.aoa_to_sheet(cells, { dense: true, UTC: true });
	sheet['!cols'] = (rows[0] ?? []).map((title) => ({ wch: Math.max(10, String(title).length + 2) }));
	const book = utils.book_new();
	// A sheet's name has no more than 31 letters, and some it may not have.
	utils.book_append_sheet(book, sheet, name.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31) || 'Readings');
	return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx', compression: true }) as ArrayBuffer);
}
