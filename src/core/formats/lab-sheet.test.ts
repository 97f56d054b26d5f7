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

it('of today without an hour was drawn by now, and of tomorrow lies ahead', () => {
	const of = (day: string) => readLabSheet(rows(`lab,Kai\ndrawn,${day}\nparameter,result\ncalcium,410`), at);
	const today = of('2026-05-20');
	expect(today.ok && today.value.drawn).toBe(at.now);
	expect(of('2026-05-21').ok).toBe(false);
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

it('a day that could be two is asked about, unless one of them lies ahead', () => {
	const drawn = (day: string) => {
		const made = readLabSheet(rows(`lab,Kai\ndrawn,${day}\nparameter,result\ncalcium,421`), at);
		return made.ok ? new Date(made.value.drawn).toISOString().slice(0, 10) : made.problems[0]!.message;
	};
	// On 20 May 2026.
	expect(drawn('02/03/2026')).toMatch(/could be 2026-03-02 or 2026-02-03/);
	expect(drawn('06/05/2026')).toBe('2026-05-06');
	expect(drawn('05/06/2026')).toBe('2026-05-06');
	expect(drawn('13/03/2026')).toBe('2026-03-13');
	expect(drawn('02.03.2026')).toBe('2026-03-02');
	expect(drawn('04-05-26')).toMatch(/2026-05-04 or 2026-04-05 or 2004-05-26/);
});

it('a table of targets beside results is read by its results, and a unit nobody understands is no default', () => {
	const sheet = read(`
lab,Kai
drawn,2026-05-06
parameter,target value,result,unit
calcium,430,421,mg/L
Nitrate (kg/m3),5,0.004,`);
	expect(sheet.results).toEqual([{ parameter: 'calcium', raw: { shown: 421 }, half: null }]);
	expect(sheet.refused.map((r) => r.reason)).toEqual([expect.stringMatching(/no unit of nitrate/)]);
});
