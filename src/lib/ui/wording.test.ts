import { describe, expect, it } from 'vitest';
import type { Heading } from '$lib/api/rack';
import type { TrendInShort } from '$lib/api/trends';
import { assumesInWords, changeInShort, changeInWords, headingInWords, inWords } from './wording';

const NOW = '2026-05-06T20:10:00Z';
const result = (part: object) =>
	({ value: null, standardUncertainty: null, qualifier: '=', interval: [null, null], ...part }) as never;

describe('a result', () => {
	it.each([
		[{ value: 8.1234, standardUncertainty: 0.153 }, 'dKH', /^8\.1 ± 0\.3 dKH$/],
		[{ value: 421.7, standardUncertainty: 7.6 }, 'mg/L', /^42[02] ± 1[05] mg\/L$/],
		[{ qualifier: '<', interval: [0, 0.25] }, 'mg/L NO3', /^< 0\.25 mg\/L/],
		[{ qualifier: '>', interval: [100, null] }, 'mg/L NO3', /^> 100 mg\/L/],
		[{ qualifier: 'between', interval: [5, 10] }, 'mg/L NO3', /^5 to 10 mg\/L/],
		[{ qualifier: 'between', interval: [25, 50] }, 'mg/L NO3', /^25 to 50 mg\/L/],
		[{ qualifier: 'between', interval: [0.25, 0.5] }, 'mg/L', /^0\.25 to 0\.5/],
		[{ qualifier: 'between', interval: [11.07, 22.14] }, 'mg/L NO3', /^11 to 22 mg\/L/],
		// The same by whichever way it came.
		[{ value: 1.0235, standardUncertainty: 0.0005 }, '', /^1\.024 ± 0\.001$/],
		[{ value: 1.0234999999999999, standardUncertainty: 0.0005 }, '', /^1\.024 ± 0\.001$/]
	])('%j in %s', (part, unit, wanted) => expect(inWords(result(part), unit)).toMatch(wanted));
});

it.each([
	[[], ''],
	[[{ kind: 'dose', everyDays: 1.02, change: 0.4, perDay: 0.4 }], 'with your 0.4 dKH each day'],
	[
		[
			{ kind: 'dose', everyDays: 2, change: 0.4, perDay: 0.2 },
			{ kind: 'water-change', everyDays: 7, fraction: 0.1, perDay: 0.01 }
		],
		'with your 0.4 dKH every 2 days and your change of 10 % every 7 days'
	]
] as [TrendInShort['assumes'], string][])('a forecast that assumes %j says so', (assumes, said) => {
	expect(assumesInWords({ assumes, unit: 'dKH' })).toBe(said);
});

describe('a change', () => {
	const change = (difference: number, noiseAlone: number, real: boolean) => ({
		difference,
		standardUncertainty: 0.1,
		noiseAlone,
		real
	});
	it.each([
		[
			change(-0.42, 0.0001, true),
			'0.4 lower, more than the errors',
			/^−0\.4 from the last test, more than the errors\.$/
		],
		[
			change(0.25, 0.125, false),
			'0.3 higher, within error',
			/^\+0\.3 from the last test: no clear difference\. .*alone: about 1 in 10\.$/
		],
		[change(0.02, 0.9, false), 'unchanged', /^No difference from the last test/]
	])('%j', (of, short, long) => {
		expect(changeInShort(of, 0.3)).toBe(short);
		expect(changeInWords(of, 0.3)).toMatch(long);
	});
});

describe('a heading', () => {
	const heading = (part: Partial<Heading>): Heading => ({
		netPerDay: { value: -0.1, standardDeviation: 0.02, interval: [-0.14, -0.06] },
		verdict: 'falling',
		leavesBand: null,
		moved: null,
		...part
	});
	const leaves = (edge: 'lower' | 'upper', median: string) => ({ edge, median, early: null, late: null });
	it.each<[string, Partial<Heading>, RegExp]>([
		['steady', { verdict: 'steady' }, /^steady$/],
		['not known', { verdict: 'unsure' }, /^direction unclear$/],
		['falling, no edge near', {}, /^falling 0\.10? dKH a day$/],
		[
			'falling to an edge',
			{ leavesBand: leaves('lower', '2026-05-08T09:00:00Z') },
			/a day, may leave its range on Friday$/
		],
		// The other limit is not where it heads.
		[
			'falling, and the upper edge likelier',
			{ leavesBand: leaves('upper', '2026-05-08T09:00:00Z') },
			/a day$/
		],
		['outside already', { leavesBand: leaves('lower', '2026-05-01T09:00:00Z') }, /a day$/]
	])('%s', (_, part, wanted) =>
		expect(headingInWords('alkalinity', heading(part), NOW, 'Europe/Dublin')).toMatch(wanted)
	);
	it('speaks of a move where that is all there is to say', () => {
		const moved = { at: NOW, from: 8.4, to: 6.2, probability: 0.95, explanation: 'level' as const };
		expect(headingInWords('alkalinity', heading({ verdict: 'steady', moved }), NOW, 'Europe/Dublin')).toMatch(
			/8\.4.*6\.2/
		);
	});
});
