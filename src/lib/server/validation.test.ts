import { CALCULATIONS } from '../../core/calculations';
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
			'/points must have at least 2 entries'
		],
		['convert', null, ' must be an object with fields'],
		['tea', {}, ` there is no calculation “tea”; there are ${CALCULATIONS.map((c) => c.name).join(', ')}`]
	])('%s %j', (name, data, sentence) => {
		expect(said(name, data)).toContain(sentence);
	});

	it('a flood of mistakes is answered with a few', () => {
		const many = { method, reading: Object.fromEntries(Array.from({ length: 500 }, (_, i) => [`x${i}`, i])) };
		expect(said('reading', many).length).toBeLessThanOrEqual(20);
	});

	it('says where a long list is wrong, and what else is, in time that grows with its length', () => {
		const trend = (n: number) => ({
			parameter: 'alkalinity',
			unit: 'dKH',
			readings: [
				...Array.from({ length: n }, () => ({ at: '2026-05-01T10:00:00Z', below: 1 })),
				7,
				{ at: 3 }
			],
			now: '2026-05-02T10:00:00Z',
			horizonDays: 30
		});
		const found = said('trend', trend(5000)).join('; ');
		for (const part of ['/readings/5000 must', '/readings/5001/at must']) expect(found).toContain(part);
		const flood = (n: number) => ({ ...trend(1), readings: Array.from({ length: n }, () => 1) });
		const keys = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`k${i}`, 1]));
		// Counted, not timed: how often anything of what was sent is looked at grows with its length and no faster.
		const looks = (name: string, sent: object) => {
			let count = 0;
			const watched = <T extends object>(thing: T): T =>
				new Proxy(thing, {
					get: (of, key) => (count++, Reflect.get(of, key) as unknown),
					getOwnPropertyDescriptor: (of, key) => (count++, Reflect.getOwnPropertyDescriptor(of, key)),
					has: (of, key) => (count++, Reflect.has(of, key))
				});
			const inside = Object.entries(sent).map(([k, v]) => [k, Array.isArray(v) ? watched(v) : v] as const);
			said(name, watched(Object.fromEntries(inside)));
			return count;
		};
		for (const [name, make] of [
			['trend', flood],
			['convert', keys]
		] as const) {
			const [short, long] = [looks(name, make(2000)), looks(name, make(16_000))];
			expect(short).toBeGreaterThan(10);
			expect(long / short).toBeLessThan(9);
			expect(long).toBeLessThan(3 * 16_000);
		}
		// A list that is longer than it may be is said to be, whatever else is wrong.
		expect(said('trend', flood(100_001))).toContain('/readings must have at most 100000 entries');
	});

	it('says nothing again of what was sent but its fields’ names, cut', () => {
		const secret = 'hunter2';
		const broken = parseJson(`{"password": "${secret}" "a`);
		expect(JSON.stringify(broken)).not.toContain(secret);
		expect(JSON.stringify(said('convert', { ['x'.repeat(5000)]: 1 })).length).toBeLessThan(800);
	});

	it('text that is no JSON is a problem, not a crash', () => {
		expect(parseJson('{"a":').ok).toBe(false);
		expect(parseJson('').ok).toBe(false);
		// A number too large for a double becomes Infinity, and is refused as one.
		const huge = parseJson('{"quantity":"calcium","value":1e999,"from":"mg/L","to":"mmol/L"}');
		expect(huge.ok && said('convert', huge.value)).toEqual(['/value must be a finite number']);
	});
});
