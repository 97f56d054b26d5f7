import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS } from '../../core/methods';
import { calculate, parseJson } from './calculate';

const method = SHIPPED_METHODS[0]!;
const said = (name: string, data: unknown) => {
	const result = calculate(name, data);
	return result.ok ? [] : result.problems.map((p) => `${p.path} ${p.message}`);
};

describe('problems in the keeper’s words', () => {
	it.each<[string, unknown, string]>([
		['reading', { method, reading: { left: 'x' } }, '/reading/left must be a number'],
		[
			'reading',
			{ method, reading: { left: 0.5, spoon: 1 } },
			'/reading/spoon is not known here; leave it out or check its spelling'
		],
		['reading', { method }, '/reading is missing'],
		[
			'reading',
			{ method: { ...method, reads: 'tea' }, reading: { left: 0.5 } },
			'/method/reads must be one of the kinds known here'
		],
		['reading', { method: { ...method, unit: 7 }, reading: { left: 0.5 } }, '/method/unit must be text'],
		[
			'reading',
			{ method: { ...method, samples: [] }, reading: { left: 0.5 } },
			'/method/samples must not be empty'
		],
		['reading', { method, reading: { left: Infinity } }, '/reading/left must be a finite number'],
		[
			'chart',
			{ parameter: 'alkalinity', unit: 'dKH', reads: 'syringe', points: [[0, 0]] },
			'/points must have at least 3 entries'
		],
		['convert', null, ' must be an object with fields'],
		[
			'tea',
			{},
			' there is no calculation “tea”; there are convert, reading, chart, seawater, bench, trend, targets'
		]
	])('%s %j', (name, data, sentence) => {
		expect(said(name, data)).toContain(sentence);
	});

	it('a flood of mistakes is answered with a few', () => {
		const many = { method, reading: Object.fromEntries(Array.from({ length: 500 }, (_, i) => [`x${i}`, i])) };
		expect(said('reading', many).length).toBeLessThanOrEqual(20);
	});

	it('text that is no JSON is a problem, not a crash', () => {
		expect(parseJson('{"a":').ok).toBe(false);
		expect(parseJson('').ok).toBe(false);
		// A number too large for a double becomes Infinity, and is refused as one.
		const huge = parseJson('{"quantity":"calcium","value":1e999,"from":"mg/L","to":"mmol/L"}');
		expect(huge.ok && said('convert', huge.value)).toEqual(['/value must be a finite number']);
	});
});
