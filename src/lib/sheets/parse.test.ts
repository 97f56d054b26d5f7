import { describe, expect, it } from 'vitest';
import { DIALECTS } from '../../../tests/data/sheet-dialects';
import { OUT_COLUMNS, harmless, readSheet, sheetHead, sheetLine } from '../../core/formats';
import { rowsInTurn, rowsOf, textOf, understand } from './parse';

const NOW = Date.parse('2026-11-01T12:00:00Z');
const context = { timeZone: 'Europe/Dublin', now: NOW };
function read(text: string) {
	const { separator, layout } = understand(text);
	return { layout, ...readSheet(rowsOf(text, separator), layout, context) };
}
/** Numbers to five digits: more nobody wrote. */
const rounded = (value: unknown): unknown =>
	JSON.parse(
		JSON.stringify(value, (_k, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(5)) : v))
	);

describe('sheets that people keep', () => {
	it.each(DIALECTS.map((d) => [d.name, d] as const))('%s', (_name, dialect) => {
		const { layout, readings, notes, refused } = read(dialect.text);
		expect(
			rounded(readings.map((r) => [new Date(r.at).toISOString().replace('.000', ''), r.parameter, r.raw]))
		).toEqual(rounded(dialect.found));
		const wanted = dialect.refused ?? [];
		expect(refused.map((r) => r.row)).toEqual(wanted.map(([row]) => row));
		for (const [i, [, reason]] of wanted.entries()) expect(refused[i]!.reason).toMatch(reason);
		expect(notes).toHaveLength(dialect.notes ?? 0);
		if (dialect.doubt) expect(layout.doubts.join(' ')).toMatch(dialect.doubt);
	});

	it('reads the sheet that goes out as it was', () => {
		const rows = [
			['=', 8.12345, [7.8, 8.4], 'alkalinity', 'dKH'],
			['<', null, [0, 0.2], 'nitrate', 'mg/L NO3'],
			['>', null, [50, null], 'nitrate', 'mg/L NO3'],
			['between', 6, [4, 8], 'phosphate', 'mg/L PO4']
		] as const;
		const text = [
			sheetHead(),
			...rows.map(([qualifier, value, interval, parameter, unit]) =>
				sheetLine(
					{
						takenAt: '2026-10-25T01:30:00Z',
						water: '=cmd|calc',
						parameter,
						qualifier,
						value,
						interval: [...interval],
						standardUncertainty: 0.1,
						unit,
						methodName: 'A kit, "quoted"',
						seen: '0.5 left',
						by: '@someone'
					},
					'Europe/Dublin'
				)
			)
		].join('\r\n');
		expect(text.split('\r\n').every((l) => !/(^|,)[=@]/.test(l))).toBe(true);
		const { readings, refused } = read(text);
		expect(refused).toEqual([]);
		expect(readings.map((r) => r.raw)).toEqual([
			{ shown: 8.12345 },
			{ below: 0.2 },
			{ above: 50 },
			{ shown: [4, 8] }
		]);
		expect(new Set(readings.map((r) => r.at))).toEqual(new Set([Date.parse('2026-10-25T01:30:00Z')]));
		expect(OUT_COLUMNS.every(([, meaning]) => meaning.length > 4)).toBe(true);
	});

	it('makes cells harmless and leaves numbers numbers', () => {
		expect(
			['=1+1', '+x', '-5', '-5,2', '@a', '\tx', '\n=1', '＝1', '＋1', '－1', '＠a', 'plain'].map(harmless)
		).toEqual([
			"'=1+1",
			"'+x",
			'-5',
			'-5,2',
			"'@a",
			"'\tx",
			"'\n=1",
			"'＝1",
			"'＋1",
			"'－1",
			"'＠a",
			'plain'
		]);
	});

	it('reads the encodings of spreadsheets', () => {
		const bytes = (values: number[]) => textOf(new Uint8Array(values));
		expect(bytes([0xc3, 0xa4])).toBe('ä');
		expect(bytes([0xe4])).toBe('ä');
		expect(bytes([0xff, 0xfe, 0xe4, 0])).toBe('ä');
	});
});

it('reads a sheet in turn as it reads it whole, wherever its pieces end', () => {
	const line = (n: number) =>
		n % 50 === 0
			? `2026-01-01,"two\nlines, ""${n}""",${n}`
			: `2026-01-01,8.${n % 10},${n}${n % 97 ? '' : ',a " alone'}`;
	for (const end of ['\n', '\r\n']) {
		const text = Array.from({ length: 60_000 }, (_, n) => line(n)).join(end) + end;
		const pieces = [...rowsInTurn(text, ',')];
		expect(pieces.length).toBeGreaterThan(1);
		const rows = pieces.flat();
		expect(rows).toHaveLength(60_000);
		expect(rows.map((r) => r[2])).toEqual(Array.from({ length: 60_000 }, (_, n) => String(n)));
		expect(rows[50]![1]).toBe('two\nlines, "50"');
	}
	expect([...rowsInTurn('', ',')]).toEqual([]);
	expect(rowsOf(`${'1;'.repeat(700)}1\n`, ';')[0]).toHaveLength(500);
});

it('takes a row of today whose usual hour is still to come, and knows it again tomorrow', () => {
	const text = 'date,KH,Ca\n2026-05-05,8.2,410\n2026-05-06,8.1,41\n2026-05-07,8.0,420\n';
	const seen = (now: string, more: object = {}) => {
		const { layout } = understand(text);
		return readSheet(
			rowsOf(text, ','),
			{ ...layout, ...more },
			{ timeZone: 'Europe/Dublin', now: Date.parse(now) }
		);
	};
	const [morning, evening] = [seen('2026-05-06T07:00:00Z'), seen('2026-05-06T21:00:00Z')];
	const kh = (of: typeof morning) => of.readings.filter((r) => r.parameter === 'alkalinity');
	expect(kh(morning).map((r) => new Date(r.at).toISOString())).toEqual([
		'2026-05-05T18:00:00.000Z',
		'2026-05-06T07:00:00.000Z'
	]);
	expect(kh(morning).map((r) => r.meant)).toEqual(kh(evening).map((r) => r.at));
	expect(morning.refused.map((r) => r.row)).toEqual([3]);
	// What is far outside can be left out, and is named.
	expect(morning.readings.find((r) => r.odd)).toMatchObject({ row: 2, parameter: 'calcium' });
	const without = seen('2026-05-06T07:00:00Z', { leaveOdd: true });
	expect(without.readings.some((r) => r.odd)).toBe(false);
	expect(without.refused).toContainEqual(
		expect.objectContaining({ row: 2, column: 2, reason: expect.stringMatching(/far outside/) as string })
	);
});
