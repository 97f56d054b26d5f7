import { expect, it } from 'vitest';
import { readLabSheet } from './index';

const at = { timeZone: 'Europe/Dublin', now: Date.parse('2026-05-20T12:00:00Z') };
const rows = (text: string, by = ',') =>
	text
		.trim()
		.split('\n')
		.map((line) => line.split(by).map((cell) => cell.trim()));
const read = (text: string, by?: string) => {
	const made = readLabSheet(rows(text, by), at);
	if (!made.ok) throw new Error(JSON.stringify(made.problems));
	return made.value;
};

it('takes a lab’s answers in own units, each with its own error', () => {
	const sheet = read(`
lab,Quay Lab
sample,Q-17
drawn,2026-05-06 20:15

parameter,result,unit,±
Calcium,421,mg/L,6
Alkalinity,2.86,meq/L,0.05
Potassium,398,mg/L,2 %
Phosphate,<0.02,mg/L,
`);
	expect(sheet).toMatchObject({ lab: 'Quay Lab', sample: 'Q-17', refused: [] });
	// By the tank's clock, an hour before Greenwich in May.
	expect(new Date(sheet.drawn).toISOString()).toBe('2026-05-06T19:15:00.000Z');
	const [ca, kh, k, po4] = sheet.results;
	expect(ca).toEqual({ parameter: 'calcium', raw: { shown: 421 }, half: 6 });
	// 1 meq/L is 2.8 dKH.
	expect((kh!.raw as { shown: number }).shown).toBeCloseTo(2.86 * 2.8, 1);
	expect(kh!.half).toBeCloseTo(0.05 * 2.8, 2);
	expect(k!.half).toBeCloseTo(7.96, 6);
	expect(po4).toEqual({ parameter: 'phosphate', raw: { below: 0.02 }, half: null });
});

it('of other habits: columns for lab and day, decimal commas, days first, an offset of its own', () => {
	const sheet = read(
		`
Labor;Datum;Parameter;Wert;Einheit;Unsicherheit
Kai;23.04.2026;Alkalinity;8,1;dKH;0,15
Kai;23.04.2026;Magnesium;1315;mg/L;20`,
		';'
	);
	expect(sheet.lab).toBe('Kai');
	expect(new Date(sheet.drawn).toISOString()).toBe('2026-04-23T18:00:00.000Z');
	expect(sheet.results.map((r) => [r.raw, r.half])).toEqual([
		[{ shown: 8.1 }, 0.15],
		[{ shown: 1315 }, 20]
	]);
	const own = read('lab,Kai\ndrawn,2026-04-23T21:00:00+02:00\nparameter,result\ncalcium,410');
	expect(new Date(own.drawn).toISOString()).toBe('2026-04-23T19:00:00.000Z');
});

it('names what it cannot take, and keeps the rest', () => {
	const sheet = read(`
lab,Kai
drawn,2026-05-06
parameter,result,unit
unobtainium,3,mg/L
calcium,421,furlongs
magnesium,1300,mg/L
magnesium,1310,mg/L
iron,,mg/L
strontium,some,mg/L`);
	expect(sheet.results.map((r) => r.parameter)).toEqual(['magnesium']);
	expect(
		sheet.refused.map((r) => [r.row, /no parameter|no unit|twice|number|words/.exec(r.reason)?.[0]])
	).toEqual([
		[3, 'no parameter'],
		[4, 'no unit'],
		[6, 'twice'],
		[8, expect.any(String)]
	]);
});

it.each([
	['drawn,2026-05-06\nparameter,result\ncalcium,421', /which lab/],
	['lab,Kai\nparameter,result\ncalcium,421', /when the water was drawn/],
	['lab,Kai\ndrawn,2026-06-06\nparameter,result\ncalcium,421', /lies ahead/],
	['lab,Kai\ndrawn,2026-05-06\nhello,world', /no table/],
	['', /no table/]
])('says what a sheet lacks: %j', (text, wanted) => {
	const made = readLabSheet(rows(text), at);
	expect(made.ok ? '' : made.problems[0]!.message).toMatch(wanted);
});
