import { describe, expect, it } from 'vitest';
import { QUANTITIES, UNITS, convert, type Quantity } from '../quantities';
import { amountIn, changeIn, numberTyped } from '.';

const said = (outcome: ReturnType<typeof amountIn>) =>
	outcome.ok ? Number(outcome.value.toPrecision(5)) : outcome.problems[0]!.message;

describe('an amount with a unit behind it', () => {
	it.each<[string, Quantity, string, number | RegExp]>([
		['189', 'volume', 'L', 189],
		['50 gal', 'volume', 'L', 189.27],
		['50gal', 'volume', 'L', 189.27],
		['40 UK gal', 'volume', 'L', 181.84],
		['1,5 kg', 'mass', 'g', 1500],
		['24 in', 'length', 'cm', 60.96],
		['120 ppm', 'alkalinity', 'dKH', 6.7235],
		['2.9 meq/L', 'alkalinity', 'dKH', 8.1312],
		['78 °F', 'temperature', 'C', 25.556],
		['1.0264', 'salinity', 'PSU', 35.036],
		['1.0264', 'salinity', 'SG 20/20', 1.0264],
		['50 constructor', 'volume', 'L', /is no unit here/],
		['35 ppt', 'salinity', 'PSU', 35],
		['2 ppm n', 'nitrate', 'mg/L NO3', 8.8533],
		['38 ppb', 'phosphate', 'mg/L PO4', /could mean two units/],
		['50 bar', 'volume', 'L', /“bar” is no unit here; write one of L, mL, US gal, UK gal/],
		['50 g', 'volume', 'L', /is no unit here/],
		['40-50', 'volume', 'L', /write one number/],
		['', 'volume', 'L', /type a number/],
		['-3', 'volume', 'L', /at least 0/],
		['1,500', 'volume', 'L', /could be 1500 or 1.5/],
		['1,500 L', 'volume', 'L', /could be 1500 or 1.5/],
		['1,5000 L', 'volume', 'L', 1.5],
		['1.500,5', 'volume', 'L', 1500.5],
		['1,320', 'magnesium', 'mg/L', 1320],
		['1.320 mg/L', 'magnesium', 'mg/L', 1320],
		['1,026', 'salinity', 'PSU', 34.508],
		['1,026 SG', 'salinity', 'PSU', 34.508],
		['8,125', 'alkalinity', 'dKH', 8.125],
		['1,450 mmol/L', 'calcium', 'mg/L', 58.113]
	])('%s of %s in %s', (text, quantity, unit, wanted) => {
		const found = said(amountIn(text, quantity, unit));
		if (wanted instanceof RegExp) expect(found).toMatch(wanted);
		else expect(found).toBe(wanted);
	});

	it('takes every unit by its own name, and gives what conversion gives', () => {
		for (const quantity of QUANTITIES) {
			const unit = UNITS[quantity][0]!.name;
			for (const { name } of UNITS[quantity]) {
				const [typed] = [
					convert({ quantity, value: quantity === 'salinity' ? 33 : 7, from: unit, to: name })
				];
				if (!typed.ok) throw new Error(name);
				const found = amountIn(`${typed.value.value} ${name}`, quantity, unit);
				expect(found.ok && found.value, `${quantity} in ${name}`).toBeCloseTo(
					quantity === 'salinity' ? 33 : 7,
					6
				);
			}
		}
	});
});

describe('a change', () => {
	it.each<[string, Quantity, string, number | RegExp]>([
		['+18 ppm', 'alkalinity', 'dKH', 1.0085],
		['-0.5', 'alkalinity', 'dKH', -0.5],
		['1 ppm', 'calcium', 'mg/L', 1],
		['2 F', 'temperature', 'C', /by how many/],
		['0.001 SG', 'salinity', 'PSU', /by how many/],
		['-1', 'salinity', 'PSU', -1],
		// A level of 1.025 is a gravity, a change by as much is not.
		['1', 'salinity', 'PSU', 1],
		['+1.05', 'salinity', 'PSU', 1.05]
	])('%s of %s in %s', (text, quantity, unit, wanted) => {
		const found = said(changeIn(text, quantity, unit));
		if (wanted instanceof RegExp) expect(found).toMatch(wanted);
		else expect(found).toBe(wanted);
	});
});

it.each([
	['30 %', 30],
	['30', 30],
	[' 12,5% ', 12.5],
	['.75', 0.75],
	['1 280', 1280],
	['', NaN],
	['1-2', NaN],
	['<5', NaN],
	['30 L', NaN],
	['1,500', 1.5],
	['1.025', 1.025],
	['1.280,5', 1280.5]
])('“%s” typed where one number is wanted is %d', (text, wanted) => expect(numberTyped(text)).toBe(wanted));
