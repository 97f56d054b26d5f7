import { afterEach, describe, expect, it } from 'vitest';
import { habitsFrom } from '$lib/ui/habits';
import type { Verdict } from '$lib/ui/practice/lesson-session';
import {
	because,
	endInWords,
	isNothing,
	nearInWords,
	scatterInWords,
	signed,
	misreadingInWords
} from './practice';

afterEach(() => habitsFrom(() => ({})));
const verdict = (part: Partial<Verdict>): Verdict => ({
	title: 'Calcium, syringe',
	parameter: 'calcium',
	unit: 'mg/L',
	said: 420,
	truth: 420,
	causes: [],
	slip: undefined,
	between: false,
	step: 6,
	stepIs: 'drop',
	streamed: 0,
	...part
});
const spread = {
	tries: 14,
	bias: 1.22,
	standardUncertainty: 0.2,
	scatter: 0.684,
	interval: [0.4, 1.3] as [number, number],
	next: 0.7,
	enough: true
};

describe('what a try came to, in words', () => {
	it.each([
		[{}, 'Exactly right.'],
		[{ said: 425 }, 'Within one drop. Nobody does better with this kit.'],
		[{ said: 415, stepIs: 'line' as const }, 'Within one line. Nobody does better with this kit.'],
		[{ said: 450 }, '5 drops too high.'],
		[{ said: 402, stepIs: 'patch' as const }, '3 patches too low.'],
		[{ said: 427, between: true }, 'The truth lies between what you said: nothing more can be read.']
	])('%o', (part, words) => expect(nearInWords(verdict(part))).toBe(words));

	it('numbers are in the person’s language, with a true minus', () => {
		expect(signed(-3.42, 'dKH')).toBe('−3.4 dKH');
		habitsFrom(() => ({ language: 'de-DE' }));
		expect(signed(0.25, 'mg/L NO3')).toBe('+0,25 mg/L NO₃');
		expect(endInWords(spread, '0,25 dKH')).toBe('1,2 ± 0,4 drops past the end (0,25 dKH), by 14 tries');
	});

	it('says where a hand ends, and how far tries are from each other', () => {
		expect(endInWords({ ...spread, bias: -0.5 }, '')).toBe('0.5 ± 0.4 drops before the end, by 14 tries');
		expect(scatterInWords(spread, 'lines')).toBe('one try scatters by 0.68 lines (0.4 to 1.3)');
	});

	it('has a word for every cause and misreading, and calls a tenth of a drop nothing', () => {
		for (const by of [
			'reading',
			'filling',
			'hanging',
			'drop-size',
			'counting',
			'overshoot',
			'undershoot',
			'sample',
			'precipitate',
			'early',
			'late',
			'shade',
			'taken-away'
		] as const)
			expect(because(by).length).toBeGreaterThan(10);
		expect(misreadingInWords('left-for-used')).toContain('left');
		expect(misreadingInWords(undefined)).toBeUndefined();
		expect([isNothing(0.5, 6), isNothing(-0.7, 6)]).toEqual([true, false]);
	});
});
