import { afterEach, describe, expect, it } from 'vitest';
import type { Habits } from '$lib/api/habits';
import {
	decimalSign,
	figures,
	habitsFrom,
	languageAsked,
	numeral,
	parameterFor,
	typedAs,
	unitFor,
	usualUnits,
	weekStart
} from './habits';
import { bandFor, changeFor, changeFrom, pouredInWords, readingFor, trendFor, wayFor } from './mine';
import { judgementInWords } from './words/judgements';
import { dateAndTime, dayInWords } from './when';

const as = (habits: Habits) => habitsFrom(() => habits);
afterEach(() => habitsFrom(() => ({})));

describe('numbers and dates', () => {
	it.each([
		['en-GB', '8.15', '−0.5', '1284', 'Wed, 6 May 2026, 21:10'],
		['de-DE', '8,15', '−0,5', '1284', 'Mi., 6. Mai 2026, 21:10'],
		['en-US', '8.15', '−0.5', '1284', 'Wed, May 6, 2026, 09:10 PM'],
		['fr-FR', '8,15', '−0,5', '1284', 'mer. 6 mai 2026, 21:10'],
		['ar-EG', '8.15', '−0.5', '1284', undefined]
	])('in %s', (language, plain, minus, large, moment) => {
		as({ language });
		expect([numeral(8.15, 2), numeral(-0.5, 1), numeral(1284.3, 0)]).toEqual([plain, minus, large]);
		expect([numeral(-0.001, 1), numeral(1284, -2)]).toEqual([plain.includes(',') ? '0,0' : '0.0', '1300']);
		if (moment)
			expect(dateAndTime('2026-05-06T20:10:00Z', 'Europe/Dublin').replaceAll(/[\u202f\u00a0]/g, ' ')).toBe(
				moment
			);
		expect(decimalSign()).toBe(plain[1]);
	});

	it('a weekday within a sentence is in the sentence’s language', () => {
		as({ language: 'de-DE' });
		expect(dayInWords('2026-05-08T20:00:00Z', '2026-05-06T20:00:00Z', 'UTC')).toBe('on Friday');
	});

	it('takes the first language a browser asks for that numbers are known in', () => {
		expect(languageAsked('xx-invalid-tag-of-nobody-here, de-CH;q=0.9')).toBe('de-CH');
		expect(languageAsked('*')).toBeUndefined();
		expect(languageAsked(null)).toBeUndefined();
		expect(languageAsked('"><script>')).toBeUndefined();
	});

	it('writes as many figures as say something', () => {
		expect([figures(142.857), figures(0.0456), figures(8), figures(1.02643, 5), typedAs(-0.25)]).toEqual([
			'143',
			'0.0456',
			'8',
			'1.0264',
			'-0.25'
		]);
	});

	it('begins weeks as the language does, or as chosen', () => {
		as({ language: 'en-US' });
		expect(weekStart()).toBe(7);
		as({ language: 'de-DE' });
		expect(weekStart()).toBe(1);
		as({ language: 'de-DE', weekStart: 6 });
		expect(weekStart()).toBe(6);
		expect([usualUnits('en-US').volume, usualUnits('de').volume, usualUnits('no language')]).toEqual([
			'US gal',
			undefined,
			{}
		]);
	});
});

describe('what is kept, as a person counts it', () => {
	const salinity = {
		parameter: 'salinity',
		unit: 'PSU',
		value: 35,
		standardUncertainty: 0.4,
		interval: [34.2, 35.8] as [number, number],
		repeatability: 0.2
	};
	it('changes value, interval and errors together, once', () => {
		as({ units: { salinity: 'SG 25/25' } });
		const mine = readingFor(salinity);
		expect([mine.unit, mine.value!.toFixed(4)]).toEqual(['SG 25/25', '1.0264']);
		expect(mine.standardUncertainty! / 0.0003).toBeCloseTo(1, 1);
		expect(mine.interval[1]! - mine.interval[0]!).toBeCloseTo(4 * mine.standardUncertainty!, 5);
		expect(readingFor(mine)).toBe(mine);
		expect(parameterFor('salinity')!.shown[1]).toBeCloseTo(1.03, 2);
		expect([unitFor('salinity'), unitFor('calcium'), unitFor('tea')]).toEqual(['SG 25/25', 'mg/L', '']);
	});

	it('takes a change there and back by the slope of the level where it is, in the own unit', () => {
		as({ units: { salinity: 'SG 25/25' } });
		// EOS-80: 1 PSU is 0.00075 of specific gravity there.
		expect(changeFrom('salinity', 0.001, 35)).toBeCloseTo(1.32, 2);
		expect(changeFrom('salinity', changeFor('salinity', 0.4, 35), 35)).toBeCloseTo(0.4, 9);
	});

	it('rounds edges of bands as people set them, and leaves them where nothing changes', () => {
		const band = { lower: 8, upper: 9.5 };
		expect(bandFor('alkalinity', band)).toBe(band);
		as({ units: { alkalinity: 'ppm CaCO3', salinity: 'SG 25/25' } });
		expect(bandFor('alkalinity', band)).toEqual({ lower: 143, upper: 170 });
		expect(bandFor('salinity', { lower: 34, upper: 36 })).toEqual({ lower: 1.0256, upper: 1.0271 });
	});

	it('changes rates by the slope and levels by the value, of a trend and of its way', () => {
		as({ units: { temperature: 'F' } });
		const rate = { value: 0.1, standardDeviation: 0.05 };
		const trend = trendFor('temperature', {
			unit: 'C',
			now: { value: 25, standardDeviation: 0.5 },
			netPerDay: rate,
			usePerDay: rate,
			dosingPerDay: 0,
			moved: { from: 24, to: 25, at: '', probability: 1, explanation: 'level' },
			forecast: [{ at: '', mean: 26, sd: 1 }],
			assumes: [{ kind: 'dose', everyDays: 1, change: 1, perDay: 1 }]
		} as unknown as Parameters<typeof trendFor>[1]);
		expect(trend.now.value).toBeCloseTo(77, 6);
		expect(trend.now.standardDeviation).toBeCloseTo(0.9, 6);
		expect(trend.netPerDay.value).toBeCloseTo(0.18, 6);
		expect([trend.moved!.from, trend.moved!.to].map((x) => x.toFixed(1))).toEqual(['75.2', '77.0']);
		expect([trend.forecast[0]!.mean, trend.forecast[0]!.sd].map((x) => x.toFixed(1))).toEqual([
			'78.8',
			'1.8'
		]);
		expect([trend.assumes[0]!.change, trend.assumes[0]!.perDay].map((x) => x!.toFixed(1))).toEqual([
			'1.8',
			'1.8'
		]);
		const [point] = wayFor('temperature', [
			{ at: 0, mean: 20, sd: 1, usePerDay: 2, useSd: 1, dosingPerDay: 0 }
		]);
		expect([point!.mean, point!.sd, point!.usePerDay].map((x) => x.toFixed(1))).toEqual([
			'68.0',
			'1.8',
			'3.6'
		]);
	});

	it('judges in the person’s unit: levels by their value, changes by the slope', () => {
		as({ units: { alkalinity: 'ppm CaCO3' }, language: 'de-DE' });
		const { text, why } = judgementInWords(
			{
				kind: 'out',
				parameter: 'alkalinity',
				rank: 1,
				helps: 'look',
				numbers: { value: 10, edge: 'upper', band: 9.5, sure: 0.97, tests: 1, healthyPerDay: 0.5 }
			},
			'2026-05-06T20:00:00Z',
			'UTC'
		);
		expect(text).toBe('Alkalinity is above your target range: 178 ppm CaCO₃.');
		expect(why).toBe(
			'Chance that it is out of range: more than 19 in 20, from 1 test. Daily limit: 8,92 ppm CaCO₃.'
		);
	});

	it('says what was poured by volume, or by weight as the person weighs', () => {
		expect([pouredInWords({ amountMl: 12.5 }), pouredInWords({ amountG: 56.7 }), pouredInWords({})]).toEqual([
			'12.5 mL',
			'56.7 g',
			undefined
		]);
		as({ units: { dose: 'oz' } });
		expect(pouredInWords({ amountG: 56.7 })).toBe('2 oz');
	});
});
