import { expect, describe, it } from 'vitest';
import type { TrendRequest } from './schema';
import { alk, day, dosing, every, solved, tests } from '../../../tests/support/trends';

describe('what is poured and dosed', () => {
	it('says that a dosing pump does not give what is written', () => {
		const steady = Array.from({ length: 20 }, (_, i): [number, number] => [i * 5, 8.4]);
		const dosing = [{ at: day(0), kind: 'dosing' as const, perDay: 0.7 }];
		const died = [...steady, [98, 6.8], [100, 5.4]] as [number, number][];
		const result = solved(alk(died, { events: dosing }));
		expect(result.moved!.explanation).toBe('dosing');
		expect(result.netPerDay.value).toBeCloseTo(-0.7, 1);
		expect(result.verdict).toBe('falling');
		// Once the dosing is written down anew it arrives again.
		const mended = solved(
			alk(died, { now: day(101), events: [...dosing, { at: day(100.2), kind: 'dosing', perDay: 0.7 }] })
		);
		expect(mended.netPerDay.value).toBeCloseTo(0, 1);
	});

	it('knows what the tank uses where dosing does not arrive, or twice, and expects it to match at first', () => {
		const use = (law: (d: number) => number, days: number[], perDay: number) =>
			solved({
				parameter: 'alkalinity',
				unit: 'dKH',
				readings: tests(law, days, 0.12),
				events: [dosing(-1, perDay)],
				now: day(days.at(-1)!)
			});
		const dead = use((d) => 8.4 - 0.7 * Math.max(0, d - 57), [...every(3, 57), 59, 61, 63], 0.7);
		expect(Math.abs(dead.usePerDay.value - 0.7)).toBeLessThan(0.1);
		const double = use((d) => 8.4 + 0.7 * Math.max(0, d - 57), [...every(3, 57), 59, 61, 63], 0.7);
		expect(double.moved?.explanation).toBe('dosing');
		expect(double.odd).toEqual([]);
		expect(Math.abs(double.usePerDay.value - 0.7)).toBeLessThan(0.1);
		const first = use(() => 8.4, [0], 0.7);
		expect(first.netPerDay.value).toBeCloseTo(0, 2);
		expect(first.usePerDay.value).toBeCloseTo(0.7, 2);
		expect(first.usePerDay.standardDeviation).toBeGreaterThan(0.2);
	});

	it('expects what is done regularly to go on, says so, and stops once it was left out', () => {
		// Half a dKH is used a day, and poured each evening; a tenth of the water is changed each week.
		const law = (d: number) => 8.4 + 0.25 - 0.5 * (d % 1);
		const hand = (until: number) =>
			every(1, until).map((d) => ({ at: day(d), kind: 'dose' as const, change: 0.5 }));
		const weekly = every(7, 40).map((d) => ({
			at: day(d + 0.3),
			kind: 'water-change' as const,
			fraction: 0.1,
			newWater: 8.4
		}));
		const days = every(4, 40).map((d) => d + 0.5);
		const ask = (events: TrendRequest['events'], now = 40.9) =>
			solved({
				parameter: 'alkalinity',
				unit: 'dKH',
				readings: tests(law, days, 0.1),
				events: events!,
				now: day(now),
				band: { lower: 7.5, upper: 9.5 }
			});
		const steady = ask([...hand(40), ...weekly]);
		expect(steady.assumes).toEqual([
			{ kind: 'dose', everyDays: expect.closeTo(1, 6), change: 0.5, perDay: expect.closeTo(0.5, 6) },
			{ kind: 'water-change', everyDays: expect.closeTo(7, 6), fraction: 0.1, perDay: expect.closeTo(0, 2) }
		]);
		expect(Math.abs(steady.netPerDay.value)).toBeLessThan(0.05);
		expect(Math.abs(steady.usePerDay.value - 0.5)).toBeLessThan(0.1);
		expect(steady.verdict).not.toBe('falling');
		for (const { mean } of steady.forecast) expect(Math.abs(mean - 8.4)).toBeLessThan(0.5);
		// Parts of one evening are one change; as many at once as there are, they are no rhythm.
		const inParts = ask([...hand(40), ...weekly.flatMap((e) => [e, { ...e }])]);
		expect(inParts.assumes[1]).toMatchObject({
			everyDays: expect.closeTo(7, 6),
			fraction: expect.closeTo(0.19, 6)
		});
		const atOnce = Array.from({ length: 6 }, () => ({ ...weekly[0]!, at: day(40.9) }));
		expect(ask([...hand(40), ...atOnce]).assumes).toHaveLength(1);
		// Once forgotten it is still what is done, a little less of it.
		const forgot = ask(hand(40).filter((_, d) => d !== 35));
		expect(forgot.assumes).toEqual([
			expect.objectContaining({
				kind: 'dose',
				everyDays: expect.closeTo(8 / 7, 6),
				perDay: expect.closeTo(7 / 16, 6)
			})
		]);
		// Left out for days it is over, and said to fall.
		const over = ask(hand(36), 40.9);
		expect(over.assumes).toEqual([]);
		expect(ask([...hand(2), ...hand(40).slice(39)]).assumes).toEqual([]);
	});

	it('tells use from dosing: what is dosed and still falls is used', () => {
		const values = Array.from({ length: 13 }, (_, i): [number, number] => [i * 5, 9 - 0.02 * i * 5]);
		const result = solved(alk(values, { events: [{ at: day(-1), kind: 'dosing', perDay: 0.5 }] }));
		expect(result.netPerDay.value).toBeCloseTo(-0.02, 2);
		expect(result.usePerDay.value).toBeCloseTo(0.52, 2);
		expect(result.usePerDay.value).toBeCloseTo(result.dosingPerDay - result.netPerDay.value, 9);
	});

	it('moves by a dose and by a water change as far as they reach', () => {
		const values: [number, number][] = [0, 4, 8, 12].map((d) => [d, 8]);
		const plain = solved(alk(values, { now: day(13) }));
		const dosed = solved(
			alk(values, { now: day(13), events: [{ at: day(12.5), kind: 'dose', change: 0.6 }] })
		);
		expect(dosed.now.value - plain.now.value).toBeCloseTo(0.6, 6);
		const changed = solved(
			alk(values, {
				now: day(13),
				events: [{ at: day(12.5), kind: 'water-change', fraction: 0.25, newWater: 10 }]
			})
		);
		expect(changed.now.value).toBeCloseTo(plain.now.value + 0.25 * (10 - plain.now.value), 4);
		expect(changed.now.standardDeviation).toBeLessThan(plain.now.standardDeviation);
	});
});
