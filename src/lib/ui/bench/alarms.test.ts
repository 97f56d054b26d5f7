import { expect, it } from 'vitest';
import { WARN, alarmsBetween } from './alarms';

const clock = { test: 'no3', step: 6, from: 0, opens: 300_000, closes: 420_000 };
const kinds = (before: number, at: number) => alarmsBetween(before, at, [clock]).map((a) => a.kind);

it('warns before a wait is over, says when it is, and warns before the window closes: each once', () => {
	expect(kinds(0, 284_999)).toEqual([]);
	expect(kinds(284_999, 285_000)).toEqual(['soon']);
	expect(kinds(285_000, 299_999)).toEqual([]);
	expect(kinds(299_800, 300_000)).toEqual(['open']);
	expect(kinds(300_000, 300_200)).toEqual([]);
	expect(kinds(404_900, 405_100)).toEqual(['closing']);
});

it('says everything that came about while the device slept, and nothing of a wait without a window’s end', () => {
	expect(kinds(0, 3_600_000)).toEqual(['soon', 'open', 'closing']);
	const { closes: _closes, ...open } = clock;
	expect(alarmsBetween(0, 3_600_000, [open]).map((a) => a.kind)).toEqual(['soon', 'open']);
	expect(alarmsBetween(0, clock.opens - WARN, [clock, { ...clock, test: 'po4' }])).toHaveLength(2);
});
