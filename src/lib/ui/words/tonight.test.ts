import { expect, it } from 'vitest';
import type { Judgement } from '$core/targets';
import { tonightInWords } from './tonight';

const now = '2026-05-06T20:10:00.000Z';
const due = (...tests: string[]) => tests.map((parameter) => ({ parameter, at: now, now: true }));
const about = (kind: Judgement['kind'], numbers: Judgement['numbers'] = {}): Judgement => ({
	kind,
	parameter: 'calcium',
	rank: 0,
	helps: 'test',
	numbers
});

it.each([
	['nothing at all', [], [], 'Nothing is due.'],
	[
		'nothing yet',
		[{ parameter: 'alkalinity', at: '2026-05-08T20:00:00.000Z', now: false }],
		[],
		'Nothing is due. Next: alkalinity, on Friday.'
	],
	['one', due('alkalinity'), [], 'Test alkalinity.'],
	[
		'four are named',
		due('alkalinity', 'calcium', 'nitrate', 'phosphate'),
		[],
		'Test alkalinity, calcium, nitrate and phosphate.'
	],
	[
		'more are counted',
		due('alkalinity', 'calcium', 'nitrate', 'phosphate', 'salinity'),
		[],
		'Test alkalinity, calcium, nitrate and 2 more.'
	],
	[
		'a chart that is missing, where nothing is due',
		[],
		[about('unknown', { reason: 'chart' })],
		'Enter the chart of your calcium kit so that it counts.'
	],
	[
		'what harms comes before all',
		due('alkalinity'),
		[about('harm', { edge: 'lower', value: 250, alarm: 300, tests: 3 })],
		'Calcium is below the safe limit: 250 mg/L.'
	]
])('tonight: %s', (_, tests, judgements, sentence) => {
	expect(tonightInWords(tests, judgements, now, 'Europe/Dublin')).toBe(sentence);
});
