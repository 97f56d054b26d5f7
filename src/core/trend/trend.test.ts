import { describe, expect, it } from 'vitest';
import { normal, simulateWatched, uniform, WATCHED_KINDS, type Watched } from '../simulate';
import { dosedBetween, forward, levelsKnowingAll } from './filter';
import { trend } from './trend';
import type { TrendRequest, TrendResult } from './schema';

const solved = (request: TrendRequest): TrendResult => {
	const outcome = trend(request);
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
const day = (n: number) => new Date(Date.parse('2026-01-01T12:00:00Z') + n * 86_400_000).toISOString();
const alk = (values: [number, number][], more: Partial<TrendRequest> = {}): TrendRequest => ({
	parameter: 'alkalinity',
	unit: 'dKH',
	readings: values.map(([d, value]) => ({ at: day(d), value, standardUncertainty: 0.15 })),
	now: day(Math.max(...values.map(([d]) => d))),
	...more
});
const asRequest = ({ parameter, unit, readings, events, now }: Watched): TrendRequest => ({
	parameter,
	unit,
	readings,
	events,
	now,
	horizonDays: 10
});

describe('the way through time', () => {
	it('agrees with the formula for two readings of a level that stands still', () => {
		const nodes = [
			{ at: 0, kind: 'value' as const, seen: 8, noise: 0.04, offset: 0, reading: 0 },
			{ at: 1, kind: 'value' as const, seen: 8.2, noise: 0.04, offset: 0, reading: 1 }
		];
		const model = { nodes, dosing: [], start: { level: 8.4, levelSd: 0.2, driftSd: 1e-6, offsetSd: [] } };
		const passage = forward(model, { level: 1e-12, drift: 1e-12 }, true);
		// Three opinions of one weight: 8.4, 8 and 8.2, each 0.2 unsure. The slips allowed for pull and widen by a hair.
		expect(passage.after[1]![0]).toBeCloseTo(8.2, 2);
		expect(passage.afterCov[1]![0]).toBeCloseTo(0.04 / 3, 3);
		const levels = levelsKnowingAll(model, passage);
		expect(levels[0]!.mean).toBeCloseTo(levels[1]!.mean, 4);
		expect(levels[0]!.variance).toBeCloseTo(levels[1]!.variance, 4);
	});

	it('counts what is dosed between two moments', () => {
		const dosing = [
			{ from: 2, perDay: 1 },
			{ from: 5, perDay: 0.5 }
		];
		expect(dosedBetween(dosing, 0, 10)).toBeCloseTo(3 + 2.5);
		expect(dosedBetween(dosing, 3, 4)).toBeCloseTo(1);
		expect(dosedBetween([], 0, 9)).toBe(0);
	});
});

describe('trend', () => {
	const TANKS = 300;
	it.each(WATCHED_KINDS)('is as sure as it should be: %s', (kind) => {
		let now = 0;
		let later = 0;
		let found = 0;
		let slips = 0;
		for (let seed = 1; seed <= TANKS; seed++) {
			const tank = simulateWatched(kind, seed * 29);
			const result = solved(asRequest(tank));
			const week = result.forecast[7]!;
			if (Math.abs(tank.level - result.now.value) <= 1.96 * result.now.standardDeviation) now++;
			if (Math.abs(tank.levelIn(7) - week.mean) <= 1.96 * week.sd) later++;
			slips += tank.slips.length;
			found += tank.slips.filter((s) => result.unusual.includes(s)).length;
		}
		const share = (n: number, of = TANKS) => (100 * n) / of;
		console.log(
			`measured: trend, ${kind}: today covered ${share(now).toFixed(1)} %, in seven days ${share(later).toFixed(1)} %` +
				(slips ? `; slips found ${share(found, slips).toFixed(0)} %` : '')
		);
		// 93-97 % and 91-98 % are the bars; three hundred tanks scatter by 1.3 points.
		expect(share(now)).toBeGreaterThanOrEqual(93 - 1.3);
		expect(share(now)).toBeLessThanOrEqual(97 + 1.3);
		expect(share(later)).toBeGreaterThanOrEqual(91);
		expect(share(later)).toBeLessThanOrEqual(98.5);
		if (kind === 'one slip') expect(share(found, slips)).toBeGreaterThan(90);
	});

	it('hardly moves for one reading ten sigma off, and names it', () => {
		const gauss = normal(uniform(5));
		const values = Array.from({ length: 30 }, (_, i): [number, number] => [i * 4, 8.3 + 0.15 * gauss()]);
		for (const at of [29, 28, 20]) {
			const without = values.filter((_, i) => i !== at);
			const now = day(116);
			const before = solved(alk(without, { now }));
			const after = solved(
				alk(
					values.map(([d, v], i) => [d, i === at ? v + 1.5 : v]),
					{ now }
				)
			);
			expect(Math.abs(after.now.value - before.now.value)).toBeLessThan(0.5 * before.now.standardDeviation);
			expect(after.unusual).toEqual([at]);
		}
	});

	it('tells use from dosing: what is dosed and still falls is used', () => {
		const values = Array.from({ length: 13 }, (_, i): [number, number] => [i * 5, 9 - 0.02 * i * 5]);
		const result = solved(alk(values, { events: [{ at: day(-1), kind: 'dosing', perDay: 0.5 }] }));
		expect(result.netPerDay.value).toBeCloseTo(-0.02, 1);
		expect(result.usePerDay.value).toBeCloseTo(0.52, 1);
		expect(result.usePerDay.value).toBeCloseTo(result.dosingPerDay - result.netPerDay.value, 9);
	});

	it('forecasts when the band is left, and asks for a look before', () => {
		const values = Array.from({ length: 13 }, (_, i): [number, number] => [i * 5, 11 - 0.05 * i * 5]);
		const result = solved(alk(values, { band: { lower: 7.25, upper: 9 }, horizonDays: 60 }));
		expect(result.verdict).toBe('falling');
		expect(result.leavesBand!.edge).toBe('lower');
		// From 8 on day 60 by 0.05 a day: 7.25 is reached on about day 75.
		const left = (Date.parse(result.leavesBand!.median!) - Date.parse(day(60))) / 86_400_000;
		expect(left).toBeGreaterThan(8);
		expect(left).toBeLessThan(25);
		expect(Date.parse(result.leavesBand!.early!)).toBeLessThan(Date.parse(result.leavesBand!.median!));
		expect(Date.parse(result.nextTest)).toBeLessThanOrEqual(Date.parse(result.leavesBand!.median!));
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
		expect(changed.now.value).toBeCloseTo(plain.now.value + 0.25 * (10 - plain.now.value), 1);
		expect(changed.now.standardDeviation).toBeLessThan(plain.now.standardDeviation);
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

	it('finds what separates two kits used side by side', () => {
		const gauss = normal(uniform(9));
		const readings = Array.from({ length: 20 }, (_, i) => [
			{ at: day(i * 4), value: 8.2 + 0.05 * gauss(), standardUncertainty: 0.3, trueness: 0.28, method: 'a' },
			{ at: day(i * 4), value: 8.7 + 0.05 * gauss(), standardUncertainty: 0.3, trueness: 0.28, method: 'b' }
		]).flat();
		const { offsets, now } = solved({ parameter: 'alkalinity', unit: 'dKH', readings, now: day(77) });
		expect(offsets['b']!.value - offsets['a']!.value).toBeCloseTo(0.5, 1);
		// Which of them is right the readings cannot say.
		expect(now.standardDeviation).toBeGreaterThan(0.15);
	});

	it('says what is wrong with a request', () => {
		const problem = (request: TrendRequest) => {
			const outcome = trend(request);
			return outcome.ok ? undefined : `${outcome.problems[0]!.path} ${outcome.problems[0]!.message}`;
		};
		expect(problem(alk([[5, 8]], { now: day(0) }))).toBe('/readings has no reading before now');
		expect(problem(alk([[0, 8]], { band: { lower: 9, upper: 8 } }))).toBe(
			'/band must have its lower edge below its upper edge'
		);
	});
});
