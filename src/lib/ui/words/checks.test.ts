import { describe, expect, it } from 'vitest';
import { RULES, compare, reference, type ReferenceResult } from '$core/quality';
import type { KitChecks } from '$lib/api/kit-checks';
import { habitsFrom } from '../habits';
import {
	additionInWords,
	besideInWords,
	bestInWords,
	chartInWords,
	checkInWords,
	differenceInWords,
	provedInWords,
	takenInWords,
	tellsInWords
} from './checks';

type Check = NonNullable<KitChecks['kits'][number]['check']>;
const T0 = Date.parse('2026-01-05T18:00:00Z');
const checked = (values: number[], more: { repeatability?: number; known?: number } = {}): Check => {
	const made = reference({
		reference: { parameter: 'alkalinity', unit: 'dKH', value: 8, standardUncertainty: more.known ?? 0.05 },
		tests: values.map((value, i) => ({
			at: new Date(T0 + i * 7 * 86_400_000).toISOString(),
			value,
			repeatability: more.repeatability ?? 0.1
		})),
		prior: { trueness: 0.2 }
	});
	if (!made.ok) throw new Error();
	return {
		source: 'Bottle',
		packOpened: null,
		first: '2026-05-01T18:00:00.000Z',
		until: null,
		last: '2026-02-01T18:00:00Z',
		tests: values.length,
		result: made.value
	};
};

describe('a check in words', () => {
	it('says what was found, by how much, and what is known now', () => {
		expect(checkInWords('alkalinity', checked([8.5, 8.6, 8.7, 8.6]))).toMatch(
			/^Reads 0.6 ± 0.1 dKH too high in 4 tests of Bottle, more than noise explains\. 0\.5\d* dKH of that is taken for the kit’s own, the rest for chance\. Nothing is taken off by itself/
		);
		expect(checkInWords('alkalinity', checked([7.5, 7.4]))).toMatch(/too low in 2 tests/);
		expect(checkInWords('alkalinity', checked([8.02, 7.95, 8.04, 8]))).toMatch(
			/^Agrees in 4 tests of Bottle: off by \+0\.0 ± 0\.1 dKH\. Its own error is ± 0.\d+ dKH now, where ± 0.39 was allowed for; levels and plans go by that\.$/
		);
		expect(checkInWords('alkalinity', checked([8.1], { repeatability: 0.3 }))).toMatch(
			/^Not told yet in 1 test of Bottle.*\d+ more tests would tell\.$/
		);
		expect(checkInWords('alkalinity', checked([8.1], { known: 0.4 }))).toMatch(
			/however often it is tested\.$/
		);
	});
	it('and what its keeper has taken off', () => {
		const word = { id: 'x', at: '2026-02-01T18:00:00Z', takenOff: 0.58, standardUncertainty: 0.06 };
		expect(checkInWords('alkalinity', checked([8.5, 8.6, 8.7, 8.6]), word)).toMatch(
			/0.58 dKH are taken off what it reads, by your word\.$/
		);
		expect(takenInWords('alkalinity', { takenOff: -0.3 })).toBe('0.3 dKH added to what it reads');
		expect(provedInWords('alkalinity', { trueness: 0.1, takenOff: 0.3, by: 'Bottle' })).toBe(
			'0.3 dKH taken off, checked with Bottle'
		);
	});

	it('and what is found of what was added', () => {
		const said = (value: number, verdict: 'agrees' | 'reads-low' | 'unsure') =>
			additionInWords({ recovery: { value, standardUncertainty: 0.03 }, verdict });
		expect(said(0.98, 'agrees')).toBe(
			'98 ± 5.9 % of what was added is found: its scale is right within a tenth.'
		);
		expect(said(0.8, 'reads-low')).toMatch(/^80 .* less than was added by more than noise/);
		expect(said(0.9, 'unsure')).toMatch(/tells nothing yet/);
	});

	it('in this person’s unit', () => {
		habitsFrom(() => ({ units: { alkalinity: 'meq/L' } }));
		expect(checkInWords('alkalinity', checked([8.5, 8.6, 8.7, 8.6]))).toMatch(
			/^Reads 0.21 ± 0.0\d+ meq\/L too high/
		);
		habitsFrom(() => ({}));
	});
	it('has a sentence for every rule of the chart, and for what ages or creeps', () => {
		for (const rule of RULES) {
			const points = [{ at: '', value: 8, z: 0, rule }];
			const control: ReferenceResult['control'] = {
				centre: 8,
				sigma: 0.1,
				warning: [7.8, 8.2],
				action: [7.7, 8.3],
				points
			};
			const said = chartInWords('alkalinity', { verdict: 'unsure', control });
			expect(said, rule).toHaveLength(1);
			expect(said[0]).toMatch(/check/);
		}
		expect(chartInWords('alkalinity', checked([8.0, 8.1, 8.15, 8.3, 8.35, 8.5]).result)[0]).toMatch(
			/^It ages: from its first check to its last it went by \+0.5/
		);
		expect(chartInWords('alkalinity', { verdict: 'unsure', ewma: { points: [], out: true } })[0]).toMatch(
			/creep/
		);
	});
});

describe('two kits in words', () => {
	const side = (value: number) => ({ value, repeatability: 0.1, standardUncertainty: Math.hypot(0.1, 0.2) });
	const said = (...pairs: [number, number][]) => {
		const made = compare({ pairs: pairs.map(([a, b]) => ({ a: side(a), b: side(b) })) });
		if (!made.ok) throw new Error();
		return differenceInWords('alkalinity', 8, ['Blue', 'Grey'], made.value, pairs.length);
	};
	it('is one sentence: 7.9 against 8.5', () => {
		expect(said([7.9, 8.5])).toBe(
			'Blue reads 0.6 ± 0.3 dKH less than Grey in 1 pair, more than scatter does, and no more than two such kits may be off by.'
		);
		expect(said([8, 9.5], [8, 9.5])).toMatch(/at least one is wrong\.$/);
		expect(said([8, 8.1])).toMatch(
			/scatter alone does that \d+ times in a hundred\. No difference is shown; \d+ pairs in all would show one of this size\.$/
		);
	});
	it('and who is right, as far as checks say', () => {
		const kit = (name: string, verdict?: ReferenceResult['verdict']) => ({
			name,
			check: verdict ? ({ result: { verdict } } as Check) : null
		});
		expect(tellsInWords([kit('Blue', 'agrees'), kit('Grey')])).toMatch(/^Blue agrees.*check of it would say/);
		expect(tellsInWords([kit('Blue', 'agrees'), kit('Grey', 'reads-high')])).toMatch(
			/it is the other that is off\.$/
		);
		expect(tellsInWords([kit('Blue'), kit('Grey', 'reads-low')])).toMatch(/^Grey is off/);
		expect(tellsInWords([kit('Blue', 'reads-low'), kit('Grey', 'reads-low')])).toBe(
			'Both are off by a reference.'
		);
		expect(tellsInWords([kit('Blue'), kit('Grey', 'unsure')])).toMatch(/a reference tells/);
	});
	it('of waters: what errors do, and what they do not', () => {
		expect(besideInWords(-12, 0.4)).toBe('○ no difference shown: errors alone do that 40 times in a hundred');
		expect(besideInWords(-12, 0.001)).toBe('▼ less, beyond what errors explain');
		expect(besideInWords(3, 0.001)).toMatch(/^▲ more/);
	});
	it('and which for what', () => {
		const kits = [
			{
				id: 'a',
				name: 'Blue',
				readings: 5,
				check: null,
				card: { id: 'a', standardUncertainty: 0.1, hands: 240, cost: 0.2 }
			},
			{
				id: 'b',
				name: 'Grey',
				readings: 5,
				check: null,
				card: { id: 'b', standardUncertainty: 0.3, hands: 60, cost: 0.3 }
			}
		];
		expect(bestInWords({ kits, best: { surest: 'a', quickest: 'b', cheapest: 'a' } }, 'alkalinity')).toBe(
			'Surest Blue (± 0.2 dKH), quickest Grey (60 s of hands), cheapest Blue (0.2 a test)'
		);
		expect(bestInWords({ kits, best: {} }, 'alkalinity')).toBe('');
	});
});
