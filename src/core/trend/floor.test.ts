import { expect, describe, it } from 'vitest';
import { trend } from './trend';
import type { TrendRequest } from './schema';
import { DEAD, day, dosing, every, solved, tests } from '../../../tests/support/trends';

describe('where there is little or nothing', () => {
	it.each<[string, Omit<TrendRequest, 'readings' | 'now'>, (d: number) => number, number[], number]>([
		[
			'alkalinity of a dosing pump that died',
			{ parameter: 'alkalinity', unit: 'dKH', events: [dosing(-1, 0.8)] },
			DEAD.law,
			DEAD.days,
			0.15
		],
		[
			'nitrate that is carried out',
			{ parameter: 'nitrate', unit: 'mg/L NO3' },
			(d) => 30 - 0.6 * d,
			every(4, 36),
			0.7
		],
		[
			'ammonia of a cycle',
			{ parameter: 'ammonia', unit: 'mg/L NH4', phase: 'cycling' },
			(d) => Math.min(0.25 * d, 3 - 0.25 * (d - 12)),
			every(2, 22),
			0.1
		],
		[
			'alkalinity without a dosing pump',
			{ parameter: 'alkalinity', unit: 'dKH' },
			(d) => 9 - 0.25 * d,
			every(3, 30),
			0.15
		]
	])('what falls goes to nothing and stays there: %s', (_, request, law, days, error) => {
		let [inside, all] = [0, 0];
		for (let seed = 1; seed <= 20; seed++) {
			const last = days.at(-1)!;
			const { forecast } = solved({ ...request, readings: tests(law, days, error, seed), now: day(last) });
			for (const [ahead, { mean, low, high }] of forecast.entries()) {
				const truth = Math.max(0, law(last + ahead));
				all += 1;
				if (low <= truth && truth <= high) inside += 1;
				if (ahead > 0) expect(mean).toBeLessThanOrEqual(forecast[ahead - 1]!.mean + 1e-6);
				if (law(last + ahead) < -4 * error - 2) expect(mean).toBe(0);
			}
		}
		expect(inside / all).toBeGreaterThan(0.9);
	});

	it('doses and tests find the water at nothing, not as far below as it would have gone', () => {
		const readings = tests(DEAD.law, DEAD.days, 0.15);
		const events = [dosing(-1, 0.8), dosing(80, 0.8), { at: day(80), kind: 'dose' as const, change: 4 }];
		const { now } = solved({ parameter: 'alkalinity', unit: 'dKH', readings, events, now: day(80.1) });
		expect(now.value).toBeCloseTo(4, 2);
	});

	it('zeros are nothing, whatever the kit; one odd test among them is no harm done', () => {
		const zeros = (parameter: string, unit: string, value: number, sd: number) => ({
			parameter,
			unit,
			readings: every(7, 77).map((d) => ({
				at: day(d),
				value,
				standardUncertainty: sd,
				trueness: sd / 2,
				method: 'kit'
			})),
			now: day(77)
		});
		// A kit whose bias was proved and taken off reads less than nothing.
		for (const [parameter, unit, value, sd] of [
			['ammonia', 'mg/L NH4', -0.4, 0.1],
			['nitrate', 'mg/L NO3', -4, 1],
			['nitrite', 'mg/L NO2', 0, 0.05]
		] as const) {
			const { now, netPerDay, usePerDay, verdict } = solved(zeros(parameter, unit, value, sd));
			expect(now.value, parameter).toBeLessThan(sd);
			expect([netPerDay.value, usePerDay.value], parameter).toEqual([0, expect.closeTo(0, 9)]);
			expect(['steady', 'unsure'], parameter).toContain(verdict);
		}
		const ammonia = zeros('ammonia', 'mg/L NH4', 0, 0.05);
		const odd = { at: day(84), value: 1, standardUncertainty: 0.1, trueness: 0.05, method: 'kit' };
		const { now, odd: found } = solved({ ...ammonia, readings: [...ammonia.readings, odd], now: day(84) });
		expect(now.value).toBeLessThan(0.1);
		expect(now.interval[1]).toBeGreaterThan(0.9);
		expect(found).toEqual([{ index: 12, probability: expect.any(Number) as number }]);
	});

	it('an interval holds what it says, however narrow, and says no more than it knows', () => {
		const seen = (parameter: string, unit: string, interval: [number, number], times: number) =>
			solved({
				parameter,
				unit,
				readings: Array.from({ length: times }, (_, i) => ({ at: day(3 * i), interval })),
				now: day(3 * (times - 1))
			}).now;
		expect(seen('ph', 'pH', [8.1, 8.1], 12).value).toBeCloseTo(8.1, 2);
		expect(seen('ph', 'pH', [8.19, 8.21], 1).value).toBeCloseTo(8.2, 3);
		const nothing = seen('nitrate', 'mg/L NO3', [0, 0], 12);
		expect(nothing.value).toBeLessThan(0.05);
		// Ends that have an error leave that much open, and no more.
		const off = (standardUncertainty: number) =>
			solved({
				parameter: 'ph',
				unit: 'pH',
				readings: [{ at: day(0), interval: [8.19, 8.21], standardUncertainty }],
				now: day(0)
			}).now.standardDeviation;
		expect(off(0.06)).toBeGreaterThan(0.05);
		expect(off(0.06)).toBeLessThan(0.08);
		const above = (more: object) =>
			solved({
				parameter: 'nitrate',
				unit: 'mg/L NO3',
				readings: [{ at: day(0), above: 20, ...more }],
				now: day(0)
			}).now;
		for (const more of [{}, { standardUncertainty: 1 }]) {
			expect(above(more).value).toBeGreaterThan(21);
			expect(above(more).interval[0]).toBeGreaterThan(14);
		}
		// Between nothing and five says nothing about where.
		const some = seen('nitrate', 'mg/L NO3', [0, 5], 12);
		expect(some.interval[0]).toBeLessThan(0.5);
		expect(some.interval[1]).toBeGreaterThan(4.5);
		const outcome = trend({
			parameter: 'nitrate',
			unit: 'mg/L NO3',
			readings: [{ at: day(0), below: 0 }],
			now: day(0)
		});
		expect(outcome.ok || outcome.problems[0]!.path).toBe('/readings/0/below');
	});

	it('knows that nothing lies below an edge at zero', () => {
		const readings = [0, 2, 4, 6].map((d) => ({ at: day(d), value: 0, standardUncertainty: 0.02 }));
		const nitrite = solved({
			parameter: 'nitrite',
			unit: 'mg/L NO2',
			readings,
			now: day(6),
			band: { lower: 0, upper: 0.1 }
		});
		expect(nitrite.leavesBand?.edge).not.toBe('lower');
		expect(Date.parse(nitrite.nextTest)).toBeGreaterThan(Date.parse(day(6)));
	});

	it('lets a parameter of the keeper begin at nothing and rise', () => {
		const readings = [0, 0, 0, 2, 4, 6, 8].map((value, i) => ({
			at: day(i * 7),
			value,
			standardUncertainty: 0.3
		}));
		const result = solved({ parameter: 'clarity', unit: 'NTU', readings, now: day(42) });
		expect(result.now.value).toBeGreaterThan(6.5);
	});

	it('keeps bounds what they are, and nothing below nothing', () => {
		const result = solved({
			parameter: 'nitrate',
			unit: 'mg/L NO3',
			readings: [0, 7, 14, 21].map((d) => ({ at: day(d), below: 0.5 })),
			now: day(21)
		});
		expect(result.now.value).toBeGreaterThan(0);
		expect(result.now.value).toBeLessThan(0.6);
		expect(result.forecast.every((f) => f.mean >= 0)).toBe(true);
		const between = solved({
			parameter: 'nitrate',
			unit: 'mg/L NO3',
			readings: [0, 7, 14].map((d) => ({ at: day(d), interval: [5, 10] as [number, number] })),
			now: day(14)
		});
		expect(between.now.value).toBeGreaterThan(5.5);
		expect(between.now.value).toBeLessThan(9.5);
	});
});
