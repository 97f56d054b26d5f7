import { describe, expect, it } from 'vitest';
import { parseLines } from '../calibration';
import { parseSyringeEntry } from '../instruments';
import { SHIPPED_METHODS } from '../methods';
import { parseEntry } from '../quantities';
import { parseQuick } from '../quick';
import { guessLayout, readSheet, type SheetLayout } from './index';

/** Text on which patterns like to go back and forth. */
const HARD: [string, (n: number) => string][] = [
	['spaces', (n) => ' '.repeat(n)],
	['spaces and a letter', (n) => `${' '.repeat(n)}x`],
	['a number, spaces, a letter', (n) => `8${' '.repeat(n)}!`],
	['digits', (n) => '1'.repeat(n)],
	['digits and a letter', (n) => `${'1'.repeat(n)}!`],
	['points', (n) => '.'.repeat(n)],
	['dashes', (n) => `${'-'.repeat(n)}x`],
	['letters', (n) => `${'a'.repeat(n)}!`],
	['words', (n) => 'alk 8 '.repeat(n / 6)],
	['thousands', (n) => `${'123,'.repeat(n / 4)}x`],
	['a word of a bound', (n) => `below${' '.repeat(n)}x`]
];
const layout: SheetLayout = {
	headerRow: null,
	decimal: '.',
	order: 'dmy',
	hour: 19,
	columns: [
		{ kind: 'date' },
		{ kind: 'value', parameter: 'alkalinity', unit: null },
		{ kind: 'note' },
		{ kind: 'unit' },
		{ kind: 'time' }
	],
	units: {}
};
const context = { timeZone: 'Europe/Dublin', now: Date.UTC(2026, 4, 1) };
const sheet = (cells: string[]) => readSheet([cells], layout, context);

const READERS: [string, (text: string) => unknown][] = [
	['a typed number', parseEntry],
	['a typed line', (text) => parseQuick(text, SHIPPED_METHODS)],
	['a typed line of alkalinity', (text) => parseQuick(`alk ${text}`, SHIPPED_METHODS)],
	['a typed plunger', (text) => parseSyringeEntry(text, 'left')],
	['a leaflet', parseLines],
	['a sheet’s date', (text) => sheet([text, '8.1', '', '', ''])],
	['a sheet’s value', (text) => sheet(['1.3.2026', text, '', '', ''])],
	['a sheet’s note', (text) => sheet(['1.3.2026', '8.1', text, '', ''])],
	['a sheet’s unit', (text) => sheet(['1.3.2026', '8.1', '', text, ''])],
	['a sheet’s hour', (text) => sheet(['1.3.2026', '8.1', '', '', text])],
	[
		'a sheet’s layout',
		(text) =>
			guessLayout([
				['date', 'alk'],
				['1.3.2026', text],
				[text, '8.1'],
				[text, text]
			])
	]
];

/** Patterns that go back and forth see no more of a text than so many characters, so its length costs nothing. */
const CUT = 2000;
describe('long text', () => {
	it.each(READERS)('is understood by its beginning alone: %s', (_name, read) => {
		// A leaflet's line is counted out whole, number by number.
		const said = (text: string) => JSON.stringify(read(text)).replace(/\d+ numbers/, 'numbers');
		for (const [name, make] of HARD) expect(said(make(8 * CUT)), name).toBe(said(make(CUT)));
	});

	it('and is refused in a short sentence', () => {
		const entry = parseEntry('1'.repeat(5000));
		expect(!entry.ok && entry.problems[0]!.message).toMatch(/too long/);
		const quick = parseQuick(`alk ${'9'.repeat(5000)}`, SHIPPED_METHODS);
		expect(!quick.ok && quick.problems[0]!.message).toMatch(/at most 100 characters/);
		const { refused } = sheet(['1.3.2026', '8'.repeat(5000), '', '', '']);
		expect(refused[0]!.reason.length).toBeLessThan(120);
	});
});
