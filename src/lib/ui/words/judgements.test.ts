import { describe, expect, it } from 'vitest';
import { KINDS, type Judgement, type JudgementKind } from '$core/targets';
import { farInWords, judgementInWords, learntInWords, moveInWords, together } from './judgements';

const NOW = '2026-05-06T20:00:00Z';
const ZONE = 'Europe/Dublin';
const of = (
	kind: JudgementKind,
	numbers: Judgement['numbers'],
	more: Partial<Judgement> = {}
): Judgement => ({
	kind,
	parameter: 'alkalinity',
	rank: 1,
	helps: 'look',
	numbers,
	...more
});
const said = (j: Judgement) => judgementInWords(j, NOW, ZONE);

/** One of every kind and reason, with the numbers that `judge` gives. */
const EVERY: [Judgement, RegExp][] = [
	[
		of('harm', { edge: 'lower', alarm: 5.5, value: 5, tests: 1, healthyPerDay: 0.5 }),
		/^Alkalinity is dangerously low: 5 dKH\. From 1 test\. .*no more than 0\.5 a day/
	],
	[
		of(
			'harm',
			{ edge: 'upper', alarm: 0.035, nh3: 0.08, ph: 8.2, temperature: 25, value: 2, tests: 3 },
			{ parameter: 'ammonia' }
		),
		/^Ammonia is above .*0\.08 mg\/L of it is free ammonia at pH 8\.2 and 25 °C/
	],
	[
		of(
			'harm',
			{
				edge: 'upper',
				alarm: 0.035,
				nh3: 0.05,
				ph: 8.2,
				temperature: 25,
				value: 0.5,
				upTo: 0.75,
				sure: 0.4,
				tests: 1
			},
			{ parameter: 'ammonia', helps: 'test' }
		),
		/^Ammonia may be above what animals bear: 0\.5 .*up to 0\.75 .*Change half of the water now, .*leaves 0\.25 .*Test it again tonight/
	],
	[
		of('harm', { edge: 'upper', alarm: 1, value: 3, tests: 4, oddly: 0.6 }, { parameter: 'nitrite' }),
		/^Nitrite read 3 mg\/L NO₂: dangerously high\. Test it again at once/
	],
	[
		of('moved', { from: 8.4, to: 6.2, at: '2026-05-05T08:00:00Z', probability: 0.97, explanation: 'dosing' }),
		/^Alkalinity fell from 8\.4 to 6\.2, yesterday\. 97 % sure.*dosing pump/
	],
	[
		of('odd', { value: 6.2, level: 8.4, probability: 0.6, days: 0 }),
		/^Alkalinity read 6\.2 dKH and was 8\.4\. Test it again/
	],
	[
		of(
			'salinity-first',
			{ value: 32, wanted: 35, calcium: 421 },
			{ parameter: 'salinity', also: ['calcium'] }
		),
		/^Correct salinity first: calcium is low because the water is thin\. At 35 PSU calcium would be 421/
	],
	[
		of(
			'salinity-thick',
			{ value: 38, wanted: 35, calcium: 430, magnesium: 1300 },
			{ parameter: 'salinity', also: ['calcium', 'magnesium'] }
		),
		/calcium and magnesium are high because the water is salty\..*magnesium would be 1300/
	],
	[
		of('swing', { from: 8.4, to: 9.6, days: 1, healthyPerDay: 0.5 }),
		/^Alkalinity moved from 8\.4 to 9\.6 within a day; 0\.5 a day is healthy/
	],
	[
		of('out', { value: 7, edge: 'lower', band: 8, sure: 0.97, tests: 5 }),
		/^Alkalinity is below its band: 7 dKH\. 97 % sure, from 5 tests\.$/
	],
	[
		of('order', { count: 2 }, { also: ['magnesium', 'calcium'] }),
		/^Bring them home in this order: magnesium, calcium\./
	],
	[of('unknown', { reason: 'chart', value: 9.9 }), /^Alkalinity was read by a chart that is not yours yet/],
	[
		of('unknown', { reason: 'age', inside: 0.4, days: 70, value: 0 }, { parameter: 'ammonia' }),
		/^Ammonia was last tested 70 days ago: .*Then it was 0 mg\/L NH₄/
	],
	[of('unknown', { reason: 'age', inside: 0.4 }), /^Alkalinity was never tested\. A test would tell/],
	[
		of('unknown', { reason: 'error', value: 8.7, inside: 0.84 }),
		/^Alkalinity is not known well enough: in its band with 84 %/
	],
	[
		of('leaves-soon', { value: 8.2, edge: 'lower', days: 2, at: '2026-05-08T20:00:00Z', perDay: -0.1 }),
		/^Alkalinity falls 0\.1 a day and leaves its band on Friday/
	],
	[
		of('edge', { value: 8, inside: 0.5, edge: 'lower' }),
		/^Alkalinity is near the lower limit of its band\. In it with 50 %/
	],
	[
		of('ratio', { calcium: 1, alkalinity: 0.7, expected: 5 }, { parameter: 'calcium', also: ['alkalinity'] }),
		/1 mg\/L a day beside 0\.7 dKH, where 5 mg\/L is expected/
	],
	[
		of('long-zero', { days: 30, tests: 3 }, { parameter: 'nitrate' }),
		/^Nitrate has been at nothing for 30 days\. 3 tests in a row/
	],
	[
		of(
			'cycle-over',
			{ tests: 3, days: 4, nitrate: 60, change: 0.75, wanted: 15 },
			{ parameter: 'ammonia', also: ['nitrite'] }
		),
		/A water change of 75 % brings nitrate home.*Ammonia and nitrite stayed/
	],
	[
		of('cycle-over', { tests: 3, days: 4 }, { parameter: 'ammonia', also: ['nitrite'] }),
		/^The cycle is over: fish may come/
	],
	[
		of('cycle-waits', { tests: 3, days: 4, wantedTests: 3, wantedDays: 2, reason: 'nitrite' }),
		/^Ammonia is gone; nitrite was not tested\. It is over when 3 tests/
	],
	[
		of('moved', { from: 8.4, to: 11, at: '2026-05-05T08:00:00Z', probability: 0.97, explanation: 'dosing' }),
		/rose from 8\.4 to 11, .*as if more is dosed than is written/
	],
	[
		of(
			'out',
			{ value: 7.6, edge: 'lower', band: 7.8, sure: 0.97, tests: 1, cause: 'carbon dioxide' },
			{ parameter: 'ph', helps: 'test' }
		),
		/^pH is below its band: 7\.6.*It rests on one: test again first\. Alkalinity is fine, so it is carbon dioxide: let in fresh air/
	],
	[
		of('cycle-waits', { tests: 1, days: 0, wantedTests: 3, wantedDays: 2, reason: 'quiet' }),
		/nearly over: 1 test saw nothing/
	],
	[
		of('cycle-waits', {
			tests: 0,
			days: 0,
			wantedTests: 3,
			wantedDays: 2,
			reason: 'coarse',
			coarse: 'ammonia',
			below: 1
		}),
		/^Your ammonia kit says no more than “below 1”: too coarse/
	],
	[
		of('cycle-waits', { tests: 3, days: 4, wantedTests: 3, wantedDays: 2, reason: 'not begun' }),
		/has not begun/
	],
	[
		of('cycle-waits', { tests: 3, days: 4, wantedTests: 3, wantedDays: 2, reason: 'age' }),
		/its last tests are too old/
	]
];

describe('judgements in words', () => {
	it.each(EVERY)('%j', (judgement, words) => {
		const { text, why } = said(judgement);
		expect(`${text} ${why}`).toMatch(words);
		expect(`${text} ${why}`).not.toMatch(/NaN|undefined|null|Infinity|\b1 tests\b/);
	});

	it('know every kind', () => {
		expect(new Set(EVERY.map(([j]) => j.kind))).toEqual(new Set(KINDS));
	});

	it('say once what several have in common, and leave the list as it was', () => {
		const list = [
			of('edge', { value: 8, inside: 0.5, edge: 'lower' }),
			of('out', { value: 500, edge: 'upper', band: 450, sure: 0.9, tests: 2 }, { parameter: 'calcium' }),
			of('edge', { value: 1250, inside: 0.5, edge: 'lower' }, { parameter: 'magnesium' }),
			of('unknown', { reason: 'age', inside: 0.4, days: 9 }, { parameter: 'nitrite' })
		];
		const before = JSON.stringify(list);
		const all = together(list);
		expect(all.map((j) => j.kind)).toEqual(['edge', 'out', 'unknown']);
		expect(said(all[0]!).text).toBe('Alkalinity and magnesium are near a limit of their bands.');
		expect(JSON.stringify(list)).toBe(before);
	});
});

it('says that a test is far from what was expected, and only then', () => {
	const level = { value: 8.4, standardDeviation: 0.2 };
	const last = { value: 8.4, takenAt: '2026-04-29T20:00:00Z' };
	const far = (value: number) => farInWords({ value, standardUncertainty: 0.15 }, level, last, NOW, ZONE);
	expect(far(6.2)).toBe('It was 8.4 7 days ago; this is 6.2. Test again now: two that agree are no slip.');
	expect(far(8.0)).toBeUndefined();
	expect(farInWords({ value: 2, standardUncertainty: 0.15 }, undefined, last, NOW, ZONE)).toBeUndefined();
	expect(moveInWords('salinity', 31.5, 35)).toBe('rose from 31.5 to 35');
	expect(learntInWords({ share: 0.2, from: ['alkalinity'] })).toBe(
		'20 % surer than by its own tests, from what alkalinity does'
	);
});
