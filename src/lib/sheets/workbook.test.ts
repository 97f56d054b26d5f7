import { strToU8, zipSync } from 'fflate';
import { utils, write } from '@e965/xlsx';
import { expect, it } from 'vitest';
import { readSheet } from '../../core/formats';
import { rowsOf, understand } from './parse';
import { NoWorkbook, isWorkbook, sheetsOf, workbookOf } from './workbook';

const context = { timeZone: 'Europe/Dublin', now: Date.parse('2026-11-01T12:00:00Z') };
function readingsIn(text: string) {
	const { separator, layout } = understand(text);
	const { readings, refused } = readSheet(rowsOf(text, separator), layout, context);
	expect(refused).toEqual([]);
	return readings.map((r) => [new Date(r.at).toISOString().slice(0, 16), r.parameter, r.raw]);
}

/** A sheet as an office program writes it: values in attributes, what is shown beside them. */
const ODS = `<?xml version="1.0"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
 xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0">
<office:body><office:spreadsheet><table:table table:name="Becken">
<table:table-row><table:table-cell office:value-type="string"><text:p>Datum</text:p></table:table-cell><table:table-cell office:value-type="string"><text:p>KH</text:p></table:table-cell></table:table-row>
<table:table-row><table:table-cell office:value-type="date" office:date-value="2026-03-01"><text:p>01.03.26</text:p></table:table-cell><table:table-cell office:value-type="float" office:value="8.1"><text:p>8,1</text:p></table:table-cell></table:table-row>
<table:table-row><table:table-cell office:value-type="date" office:date-value="2026-03-08"><text:p>08.03.26</text:p></table:table-cell><table:table-cell office:value-type="float" office:value="7.9"><text:p>7,9</text:p></table:table-cell></table:table-row>
</table:table></office:spreadsheet></office:body></office:document-content>`;
const ods = zipSync({
	mimetype: strToU8('application/vnd.oasis.opendocument.spreadsheet'),
	'META-INF/manifest.xml': strToU8(
		'<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.spreadsheet"/></manifest:manifest>'
	),
	'styles.xml': strToU8(
		'<office:document-styles xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"/>'
	),
	'content.xml': strToU8(ODS)
});

it('reads an ods as its numbers and dates, not as they are shown', () => {
	const [sheet] = sheetsOf(ods);
	expect([sheet!.name, sheet!.text]).toEqual(['Becken', 'Datum,KH\n2026-03-01,8.1\n2026-03-08,7.9']);
	expect(readingsIn(sheet!.text).map((r) => r[1])).toEqual(['alkalinity', 'alkalinity']);
});

it('reads an xlsx with dates, times and text numbers; the fullest sheet first, empty ones not at all', () => {
	const book = utils.book_new();
	utils.book_append_sheet(book, utils.aoa_to_sheet([['cover']]), 'Cover');
	utils.book_append_sheet(book, utils.aoa_to_sheet([]), 'Empty');
	const rows = [
		['date', 'alkalinity', 'nitrate', 'note'],
		[new Date(Date.UTC(2026, 2, 29, 1, 30)), 8.25, '<0.2', 'a, "quoted" note'],
		[new Date(Date.UTC(2026, 3, 5)), 8.1, '4-8', '']
	];
	utils.book_append_sheet(book, utils.aoa_to_sheet(rows, { UTC: true }), 'Tests');
	const bytes = new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
	expect(isWorkbook(bytes)).toBe(true);
	const sheets = sheetsOf(bytes);
	expect(sheets.map((s) => s.name)).toEqual(['Tests', 'Cover']);
	expect(sheets[0]!.text.split('\n')[1]).toBe('2026-03-29 01:30,8.25,<0.2,"a, ""quoted"" note"');
	expect(readingsIn(sheets[0]!.text).map(([, parameter, raw]) => [parameter, raw])).toEqual([
		['alkalinity', { shown: 8.25 }],
		['nitrate', { below: 0.2 }],
		['alkalinity', { shown: 8.1 }],
		['nitrate', { shown: [4, 8] }]
	]);
});

it('writes numbers as numbers, moments as the clock had them, and text that is no formula', () => {
	const at = new Date(Date.UTC(2026, 9, 25, 1, 30));
	const bytes = workbookOf('A tank: with/odd*letters, and a name far too long for a sheet', [
		['time', 'reading', 'note'],
		[at, 8.125, '=1+1'],
		[at, '<0.2', null]
	]);
	const [sheet] = sheetsOf(bytes);
	expect(sheet!.name.length).toBeLessThanOrEqual(31);
	expect(sheet!.text).toBe('time,reading,note\n2026-10-25 01:30,8.125,=1+1\n2026-10-25 01:30,<0.2,');
});

it('refuses what is no workbook, and what unpacks to more than any book holds, before it unpacks', () => {
	for (const bytes of [strToU8('PK no archive'), zipSync({ 'a.txt': strToU8('nothing') }).slice(0, 30)])
		expect(() => sheetsOf(bytes)).toThrow(NoWorkbook);
	const bomb = zipSync({ 'xl/worksheets/sheet1.xml': strToU8('<worksheet/>') });
	// Its list of contents says half a gigabyte, as that of a bomb does.
	const entry = bomb.findIndex((_, i) => [0x50, 0x4b, 1, 2].every((byte, k) => bomb[i + k] === byte));
	new DataView(bomb.buffer).setUint32(entry + 24, 500_000_000, true);
	expect(() => sheetsOf(bomb)).toThrow(/far more than a book of readings/);
});
