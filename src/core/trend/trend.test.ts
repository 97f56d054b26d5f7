import { describe, expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import {
	normal,
	simulateMoving,
	simulateWatched,
	uniform,
	WATCHED_KINDS,
	type Moving,
	type Watched
} from '../simulate';
import { dosedBetween } from './kalman';
import { smooth } from './smoother';
import { waterAlone } from './water';
import type { Model } from './hypotheses';
import { onward } from './paths';
import { trend } from './trend';
import { alk, day, solved } from '../../../tests/support/trends';
import type { TrendRequest } from './schema';

/** What is usual of alkalinity, dKH per root of a day, and a day more: a calm tank is calmer, a restless one more restless. */
const USUAL = { level: 0.03, drift: 0.006 };
const asRequest = ({ parameter, unit, readings, events, now }: Watched | Moving): TrendRequest => ({
	parameter,
	unit,
	readings,
	events,
	now,
	horizonDays: 28
});

describe('the way through time', () => {
	it('agrees with the formula for two readings of a level that stands still', () => {
		const nodes = [
			{ at: 0, kind: 'value' as const, seen: 8, noise: 0.04, offset: 0, reading: 0 },
			{ at: 1, kind: 'value' as const, seen: 8.2, noise: 0.04, offset: 0, reading: 1 }
		];
		const model: Model = {
			nodes,
			dosing: [],
			start: { level: 8.4, levelSd: 0.2, drift: 0, driftSd: 1e-6, offsetSd: [] },
			moves: { level: 1, drift: 0.2 },
			usual: { level: 8.4, sd: 1, days: 40 },
			floor: -Infinity
		};
		const noise = { level: 1e-12, drift: 1e-12 };
		const way = onward(model, noise, new Map());
		// Three opinions of one weight: 8.4, 8 and 8.2, each 0.2 unsure.
		expect(way[1]!.seen.mean[0]).toBeCloseTo(8.2, 6);
		expect(way[1]!.seen.cov[0]).toBeCloseTo(0.04 / 3, 6);
		const [first, second] = smooth(waterAlone(model, noise), way);
		expect(first!.mean[0]).toBeCloseTo(second!.mean[0]!, 6);
		expect(first!.cov[0]).toBeCloseTo(second!.cov[0]!, 6);
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
	it.each(WATCHED_KINDS)('is as sure as it should be: %s', (kind) => {
		// Where a level is cut off at nothing the forecast lies near its bar: fewer tanks could not tell.
		const TANKS = tries(kind === 'nutrients near zero' ? 200 : 100, 600);
		let now = 0;
		let later = 0;
		let month = 0;
		let rate = 0;
		let found = 0;
		let misreadings = 0;
		for (let seed = 1; seed <= TANKS; seed++) {
			const tank = simulateWatched(kind, seed * 29);
			const result = solved(asRequest(tank));
			const week = result.forecast[7]!;
			if (Math.abs(tank.level - result.now.value) <= 1.96 * result.now.standardDeviation) now++;
			if (Math.abs(tank.levelIn(7) - week.mean) <= 1.96 * week.sd) later++;
			if (Math.abs(tank.levelIn(28) - result.forecast[28]!.mean) <= 1.96 * result.forecast[28]!.sd) month++;
			const use = result.usePerDay;
			if (Math.abs(tank.usePerDay - use.value) <= 1.96 * use.standardDeviation) rate++;
			misreadings += tank.misreadings.length;
			found += tank.misreadings.filter((s) => result.unusual.includes(s)).length;
		}
		const share = (n: number, of = TANKS) => (100 * n) / of;
		console.log(
			`measured: trend, ${kind}: today covered ${share(now).toFixed(1)} %, in seven days ${share(later).toFixed(1)} %, in 28 ${share(month).toFixed(1)} %, use ${share(rate).toFixed(1)} %` +
				(misreadings ? `; misreadings found ${share(found, misreadings).toFixed(0)} %` : '')
		);
		// 93-97 % and 91-98 % are the bars; so many tanks scatter by so many points.
		const scatter = 100 * Math.sqrt((0.95 * 0.05) / TANKS);
		expect(share(now)).toBeGreaterThanOrEqual(93 - scatter);
		expect(share(now)).toBeLessThanOrEqual(97 + scatter);
		expect(share(later)).toBeGreaterThanOrEqual(91 - scatter);
		expect(share(later)).toBeLessThanOrEqual(98 + scatter);
		expect(share(month)).toBeGreaterThanOrEqual(90 - 2 * scatter);
		// What would be taken of what is not there, nobody sees.
		if (kind !== 'nutrients near zero') expect(share(rate)).toBeGreaterThanOrEqual(90 - 2 * scatter);
		if (kind === 'one misreading') expect(share(found, misreadings)).toBeGreaterThan(90);
	});

	/** Least shares of tanks, %: level now covered, and right within three errors or 30 % of the move; said to be falling. */
	const BARS: [
		kind: Moving['kind'],
		after: number,
		bars: { covered: number; near?: number; falling?: number }
	][] = [
		['a jump', 1, { covered: 80 }],
		['a jump', 2, { covered: 80, near: 90 }],
		['a jump', 3, { covered: 88, near: 90 }],
		['a ramp', 4, { covered: 80, near: 90 }],
		['a dosing pump that died', 2, { covered: 85, near: 85, falling: 85 }],
		['a dosing pump that died', 3, { covered: 85, near: 90, falling: 85 }],
		['a dosing pump set wrong', 3, { covered: 80, near: 90 }],
		['one misreading in ten', 0, { covered: 88 }],
		['a gap of 60 days', 0, { covered: 88 }],
		['pulled back', 0, { covered: 88 }],
		['an eye that is off', 0, { covered: 85 }],
		// Another kit that nobody named is off by what its error says it may be: nothing in the readings tells it from water.
		['another kit without a name', 0, { covered: 65 }]
	];
	it.each(BARS)('notices water that moves, of laws not its own: %s, %d tests after', (kind, after, bars) => {
		const tanks = tries(30, 500);
		const count = { covered: 0, week: 0, near: 0, falling: 0, moved: 0 };
		for (let seed = 1; seed <= tanks; seed++) {
			const tank = simulateMoving(kind, seed * 31, after);
			const { now, forecast, verdict, moved } = solved(asRequest(tank));
			const week = forecast[7]!;
			if (Math.abs(tank.level - now.value) <= 1.96 * now.standardDeviation) count.covered++;
			if (Math.abs(tank.levelIn(7) - week.mean) <= 1.96 * week.sd) count.week++;
			if (Math.abs(tank.level - now.value) <= Math.max(3 * tank.error, 0.3 * Math.abs(tank.move)))
				count.near++;
			if (verdict === 'falling') count.falling++;
			if (moved) count.moved++;
		}
		const share = (n: number) => (100 * n) / tanks;
		console.log(
			`measured: trend, ${kind}, ${after} tests after: ` +
				Object.entries(count)
					.map(([what, n]) => `${what} ${share(n).toFixed(0)} %`)
					.join(', ')
		);
		for (const [what, least] of Object.entries(bars))
			expect(share(count[what as keyof typeof count]), what).toBeGreaterThanOrEqual(least);
	});

	it.each([
		['alkalinity', 'dKH', 8.4, 0.15, 6.2],
		['salinity', 'PSU', 35, 0.3, 31.5],
		['temperature', 'C', 25.3, 0.2, 28.9]
	])(
		'%s in %s that stood at %d ± %d and is then %d twice: one is odd, two are a move',
		(parameter, unit, level, error, then) => {
			const gauss = normal(uniform(3));
			const before = Array.from({ length: 24 }, (_, i) => ({
				at: day(i * 7),
				value: level + 0.7 * error * gauss(),
				standardUncertainty: error
			}));
			const low = (d: number) => ({ at: day(d), value: then, standardUncertainty: error });
			const ask = (readings: TrendRequest['readings']) => {
				const now = readings.at(-1)!.at;
				const result = solved({ parameter, unit, readings, now });
				return { ...result, days: (Date.parse(result.nextTest) - Date.parse(now)) / 86_400_000 };
			};
			const one = ask([...before, low(168)]);
			expect(one.moved).toBeNull();
			expect(one.odd).toEqual([{ index: 24, probability: expect.any(Number) as number }]);
			expect(Math.abs(one.now.value - level)).toBeLessThan(error);
			expect(one.now.interval[0]).toBeLessThan(Math.min(level, then));
			expect(one.now.interval[1]).toBeGreaterThan(Math.max(level, then));
			expect(one.days).toBeLessThanOrEqual(1);
			const two = ask([...before, low(168), low(169)]);
			expect(Math.abs(two.now.value - then)).toBeLessThan(2 * error);
			expect(two.moved!.probability).toBeGreaterThan(0.9);
			expect(two.moved!.from).toBeCloseTo(level, 0);
			expect(two.moved!.to).toBeCloseTo(two.now.value, 1);
			expect(two.odd).toEqual([]);
			expect(two.days).toBeLessThanOrEqual(1);
		}
	);

	it('forgets slowly: far from the last test a tank has what it usually has', () => {
		const zeros = [0, 3, 6, 9, 12, 15].map((d) => ({ at: day(d), value: 0, standardUncertainty: 0.05 }));
		const ammonia = { parameter: 'ammonia', unit: 'mg/L NH4', readings: zeros, now: day(85) };
		expect(solved(ammonia).now.interval[1]).toBeLessThan(0.3);
		// Also where its last tests were high, in a tank that has long been settled.
		const high = zeros.map((z, i) => ({ ...z, value: i > 3 ? 1.5 : 0 }));
		expect(solved({ ...ammonia, readings: high, phase: 'settled' }).now.interval[1]).toBeLessThan(0.3);
		const one = solved(alk([[0, 8.3]], { horizonDays: 60 }));
		for (const f of one.forecast) expect(Math.abs(f.mean - 8.3)).toBeLessThan(0.5);
		const { low, high: most } = one.forecast.at(-1)!;
		expect(most - low).toBeLessThan(6);
	});

	it('does not grow sure by asking one eye, or one sample, twenty times', () => {
		const cards = Array.from({ length: 20 }, (_, i) => ({
			at: day(i * 4),
			interval: [5, 10] as [number, number]
		}));
		const eye = solved({ parameter: 'nitrate', unit: 'mg/L NO3', readings: cards, now: day(76) });
		expect(eye.now.standardDeviation).toBeGreaterThan(1.2);
		const same = Array.from({ length: 20 }, () => ({ at: day(0), value: 8.3, standardUncertainty: 0.2 }));
		const sample = solved({ parameter: 'alkalinity', unit: 'dKH', readings: same, now: day(0) });
		expect(sample.now.standardDeviation).toBeGreaterThan(0.12);
	});

	it('has a tenth of tanks out of their band by the early date, half by the middle one', () => {
		// Integrated in small steps, from the level and drift that the estimate is sure of, with its own noise; of so few tests that
		// nothing else is known of where it goes.
		const values = Array.from({ length: 7 }, (_, i): [number, number] => [
			i * (58 / 6),
			9 - 0.02 * i * (58 / 6)
		]);
		const band = { lower: 7.2, upper: 9.3 };
		const result = solved(alk(values, { band, horizonDays: 120 }));
		const gauss = normal(uniform(11));
		const times = Array.from({ length: 600 }, () => {
			let level = result.now.value + result.now.standardDeviation * gauss();
			let drift = result.netPerDay.value + result.netPerDay.standardDeviation * gauss();
			const step = 0.1;
			let at = 0;
			for (; level > band.lower && level < band.upper && at < 120; at += step) {
				level += drift * step + USUAL.level * Math.sqrt(step) * gauss();
				drift += USUAL.drift * Math.sqrt(step) * gauss();
			}
			return at;
		});
		const by = (date: string | null) => {
			const days = (Date.parse(date!) - Date.parse(day(58))) / 86_400_000;
			return times.filter((t) => t <= days).length / times.length;
		};
		expect(by(result.leavesBand!.early)).toBeGreaterThan(0.05);
		expect(by(result.leavesBand!.early)).toBeLessThan(0.2);
		expect(by(result.leavesBand!.median)).toBeGreaterThan(0.38);
		expect(by(result.leavesBand!.median)).toBeLessThan(0.62);
		const both = solved(alk(values, { band: { lower: 7.9, upper: 7.95 }, horizonDays: 120 }));
		// Already out.
		expect(both.leavesBand!.median).toBe(both.path.at(-1)!.at);
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
			'/band must have its lower limit below its upper limit'
		);
	});
});
