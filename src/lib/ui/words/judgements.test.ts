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
		/^Alkalinity is below the safe limit: 5 dKH\. Safe limit: 5\.5 dKH\. Daily limit: 0\.5 dKH\.$/
	],
	[
		of(
			'harm',
			{ edge: 'upper', alarm: 0.035, nh3: 0.08, ph: 8.2, temperature: 25, value: 2, tests: 3 },
			{ parameter: 'ammonia' }
		),
		/^Ammonia is above the safe limit: 2 mg\/L NH₄\..*leaves 1 mg.*Free ammonia: 0\.08 mg\/L at pH 8\.2, 25 °C\. Harmful from 0\.035 mg\/L\.$/
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
		/^Ammonia may be above the safe limit: 0\.5 .*up to 0\.75 .*Change half of the water now, .*leaves 0\.25 .*beyond the safe limit: about 4 in 10, from 1 test\. Test again after the change/
	],
	[
		of('harm', { edge: 'upper', alarm: 1, value: 3, tests: 4, oddly: 0.6 }, { parameter: 'nitrite' }),
		/^Nitrite read 3 mg\/L NO₂, which would harm animals\. Test again now/
	],
	[
		of(
			'harm',
			{ edge: 'upper', alarm: 1, value: 3, sd: 0.2, sure: 0.99, tests: 1 },
			{ parameter: 'nitrite', helps: 'test' }
		),
		/Change half of the water now, .*leaves 1\.5 .*from 1 test\. Test again after the change\. Safe limit: 1 mg/
	],
	[
		of('moved', { from: 8.4, to: 6.2, at: '2026-05-05T08:00:00Z', probability: 0.97, explanation: 'dosing' }),
		/^Alkalinity fell from 8\.4 to 6\.2 dKH yesterday\. Chance that the water really changed: more than 19 in 20\. .*dosing pump/
	],
	[
		of('odd', { value: 6.2, level: 8.4, probability: 0.6, days: 0 }),
		/^Alkalinity read 6\.2 dKH; 8\.4 dKH was expected\. Test again before you act\. Chance of a misreading: about 6 in 10/
	],
	[
		of(
			'salinity-first',
			{ value: 32, wanted: 35, calcium: 421 },
			{ parameter: 'salinity', also: ['calcium'] }
		),
		/^Adjust salinity first\. It is low and lowers calcium too\. At 35 PSU they would be: calcium 421 mg/
	],
	[
		of(
			'salinity-thick',
			{ value: 38, wanted: 35, calcium: 430, magnesium: 1300 },
			{ parameter: 'salinity', also: ['calcium', 'magnesium'] }
		),
		/It is high and raises calcium and magnesium too\..*calcium 430 mg\/L and magnesium 1300 mg\/L\. Do not dose/
	],
	[
		of('swing', { from: 8.4, to: 9.6, days: 1, healthyPerDay: 0.5 }),
		/^Alkalinity went from 8\.4 to 9\.6 dKH in a day\. Daily limit: 0\.5 dKH\./
	],
	[
		of('out', { value: 7, sd: 0.11, edge: 'lower', band: 8, sure: 0.97, tests: 5 }),
		/^Alkalinity is below your target range: 7\.0\u00a0±\u00a00\.2 dKH\. Chance that it is out of range: more than 19 in 20, from 5 tests\.$/
	],
	[
		of('order', { count: 2 }, { also: ['magnesium', 'calcium'] }),
		/^Adjust in this order: magnesium, calcium\./
	],
	[
		of('unknown', { reason: 'chart', value: 9.9 }),
		/^Alkalinity was read with an example chart\. It counts once/
	],
	[
		of('unknown', { reason: 'age', inside: 0.4, days: 70, value: 0 }, { parameter: 'ammonia' }),
		/^Ammonia was last tested 70 days ago\. Its level today is uncertain\. It was 0 mg\/L NH₄ then/
	],
	[of('unknown', { reason: 'age', inside: 0.4 }), /^Alkalinity has not been tested yet\. Test it/],
	[
		of('unknown', { reason: 'error', value: 8.7, sd: 1.2, inside: 0.74 }),
		/^Alkalinity is uncertain: 9\u00a0±\u00a02 dKH\. Chance that it is in range: about 7 in 10\./
	],
	[
		of('leaves-soon', { value: 8.2, edge: 'lower', days: 2, at: '2026-05-08T20:00:00Z', perDay: -0.1 }),
		/^Alkalinity is falling by 0\.1 dKH a day and may leave your target range on Friday/
	],
	[
		of('edge', { value: 8, inside: 0.5, edge: 'lower' }),
		/^Alkalinity is near your lower limit: 8 dKH\. Chance that it is in range: about 5 in 10/
	],
	[
		of('ratio', { calcium: 1, alkalinity: 0.7, expected: 5 }, { parameter: 'calcium', also: ['alkalinity'] }),
		/1 mg\/L a day beside 0\.7 dKH, where 5 mg\/L is expected/
	],
	[
		of('long-zero', { days: 30, tests: 3 }, { parameter: 'nitrate' }),
		/^Nitrate has read zero for 30 days\. 3 tests in a row/
	],
	[
		of(
			'cycle-over',
			{ tests: 3, days: 4, nitrate: 60, change: 0.75, wanted: 15 },
			{ parameter: 'ammonia', also: ['nitrite'] }
		),
		/Change 75 % of the water to lower nitrate.*3 tests over 4 days found no ammonia or nitrite/
	],
	[
		of('cycle-over', { tests: 3, days: 4 }, { parameter: 'ammonia', also: ['nitrite'] }),
		/^The cycle is complete\. Add fish/
	],
	[
		of('cycle-waits', { tests: 3, days: 4, wantedTests: 3, wantedDays: 2, reason: 'nitrite' }),
		/^Ammonia is gone\. Nitrite has not been tested\. Complete when 3 tests in a row over 2 days/
	],
	[
		of('moved', { from: 8.4, to: 11, at: '2026-05-05T08:00:00Z', probability: 0.97, explanation: 'dosing' }),
		/rose from 8\.4 to 11 dKH .*as if more is dosed than recorded/
	],
	[
		of(
			'out',
			{ value: 7.6, edge: 'lower', band: 7.8, sure: 0.97, tests: 1, cause: 'carbon dioxide' },
			{ parameter: 'ph', helps: 'test' }
		),
		/^pH is below your target range: 7\.6.*It rests on one test: test again first\. Alkalinity is in range, so carbon dioxide is the cause: let in fresh air/
	],
	[
		of('cycle-waits', { tests: 1, days: 0, wantedTests: 3, wantedDays: 2, reason: 'quiet' }),
		/nearly complete: 1 test found nothing/
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
		/^Your ammonia kit reads no lower than 1 mg\/L NH₄\. Use a finer kit/
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
		expect(said(all[0]!).text).toBe('Near a limit: alkalinity and magnesium.');
		expect(JSON.stringify(list)).toBe(before);
	});
});

it('says that a test is far from what was expected, and only then', () => {
	const level = { value: 8.4, standardDeviation: 0.2 };
	const last = { value: 8.4, takenAt: '2026-04-29T20:00:00Z' };
	const far = (value: number) => farInWords({ value, standardUncertainty: 0.15 }, level, last, NOW, ZONE);
	expect(far(6.2)).toBe(
		'Last result 8.4, 7 days ago; now 6.2. Test again: two that agree rule out a misreading.'
	);
	expect(far(8.0)).toBeUndefined();
	expect(farInWords({ value: 2, standardUncertainty: 0.15 }, undefined, last, NOW, ZONE)).toBeUndefined();
	expect(moveInWords('salinity', 31.5, 35)).toBe('rose from 31.5 to 35');
	expect(learntInWords({ share: 0.2, from: ['alkalinity'] })).toBe(
		'20 % surer than by its own tests, from alkalinity.'
	);
});
