import { expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { MONTH_LAWS, simulateMonths, type Months } from '../simulate/months';
import { leastSquares, normal, uniform } from '../statistics';
import { trend } from './trend';
import type { TrendRequest, TrendResult } from './schema';

const day = (n: number) => new Date(Date.parse('2026-01-01T12:00:00Z') + n * 86_400_000).toISOString();
const TANKS = tries(60, 400);
const AHEAD = 28;

const solved = (tank: Months, more: Partial<TrendRequest> = {}): TrendResult => {
	const { readings, now } = tank;
	const outcome = trend({ parameter: 'alkalinity', unit: 'dKH', readings, now, horizonDays: 45, ...more });
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

/** Interval score of a 95 % interval: its width, and what lies outside of it forty times (Gneiting and Raftery 2007). */
const scoreOf = (truth: number, mean: number, sd: number): number =>
	2 * 1.96 * sd + 40 * Math.max(0, Math.abs(truth - mean) - 1.96 * sd);

/** The simple forecasts: the mean of the last twelve tests with their spread, and the line through them with its error. */
function simply({ readings, days }: Months): { mean: number; sd: number }[] {
	const values = readings.slice(-12).map((r) => r.value);
	const times = days.slice(-12);
	const n = values.length;
	const mean = values.reduce((a, b) => a + b) / n;
	const spread = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1));
	const { a, b } = leastSquares(values.map((y, index) => ({ x: times[index]!, y, index })))!;
	const about = Math.sqrt(values.reduce((sum, v, i) => sum + (v - a - b * times[i]!) ** 2, 0) / (n - 2));
	const middle = times.reduce((x, y) => x + y) / n;
	const wide = times.reduce((sum, t) => sum + (t - middle) ** 2, 0);
	const then = times.at(-1)! + AHEAD;
	return [
		{ mean, sd: spread },
		{ mean: a + b * then, sd: about * Math.sqrt(1 / n + (then - middle) ** 2 / wide) }
	];
}

const total = (xs: number[]): number => xs.reduce((a, b) => a + b, 0);

it.each(MONTH_LAWS)(
	'a month ahead is as sure as it should be, and little worse than the best simple forecast: a tank that %s',
	(law) => {
		const own: number[] = [];
		const simple: [number[], number[]] = [[], []];
		const sum = { inside: 0, week: 0 };
		for (let seed = 1; seed <= TANKS; seed++) {
			const tank = simulateMonths(law, seed * 41);
			const { forecast } = solved(tank);
			const [week, month] = [forecast[7]!, forecast[AHEAD]!];
			const truth = tank.levelIn(AHEAD);
			own.push(scoreOf(truth, month.mean, month.sd));
			simply(tank).forEach(({ mean, sd }, i) => simple[i]!.push(scoreOf(truth, mean, sd)));
			if (Math.abs(truth - month.mean) <= 1.96 * month.sd) sum.inside++;
			if (Math.abs(tank.levelIn(7) - week.mean) <= 1.96 * week.sd) sum.week++;
		}
		const best = total(simple[0]) < total(simple[1]) ? simple[0] : simple[1];
		const ratio = total(own) / total(best);
		// What so many tanks leave open (Cochran 1977, 6.4).
		const error = Math.sqrt(total(own.map((o, i) => (o - ratio * best[i]!) ** 2))) / total(best);
		const covered = (100 * sum.inside) / TANKS;
		console.log(
			`measured: a month ahead, ${law}: score ${ratio.toFixed(2)} ± ${error.toFixed(2)} of the best simple forecast, covered ${covered.toFixed(0)} %, in seven days ${((100 * sum.week) / TANKS).toFixed(0)} %`
		);
		expect(ratio - 2 * error).toBeLessThan(1.2);
		expect(covered).toBeGreaterThan(90 - 200 * Math.sqrt((0.9 * 0.1) / TANKS));
	},
	600_000
);

it('of tanks that return, half have left their band by the date that says so', () => {
	let [left, said] = [0, 0];
	for (const law of ['returns in 6 days', 'returns in 20 days'] as const)
		for (let seed = 1; seed <= TANKS; seed++) {
			const tank = simulateMonths(law, seed * 43);
			const band = { lower: tank.mean - 1.5 * tank.spread, upper: tank.mean + 1.5 * tank.spread };
			const { leavesBand } = solved(tank, { band });
			const days = leavesBand?.median
				? (Date.parse(leavesBand.median) - Date.parse(tank.now)) / 86_400_000
				: 0;
			if (days < 1) continue;
			said++;
			const way = Array.from({ length: Math.round(days * 24) }, (_, i) => tank.levelIn(i / 24));
			if (way.some((level) => level < band.lower || level > band.upper)) left++;
		}
	console.log(
		`measured: a month ahead, by the median date ${((100 * left) / said).toFixed(0)} % of ${said} had left`
	);
	expect(said).toBeGreaterThan(TANKS / 4);
	expect(left / said).toBeGreaterThan(tries(0.3, 0.4));
	expect(left / said).toBeLessThan(tries(0.7, 0.6));
}, 600_000);

/** Twenty-four weekly tests of a tank that stands, and what is asked of it then. */
const standing = (level: number, more: Partial<TrendRequest> & Pick<TrendRequest, 'now'>, last?: number) => {
	const gauss = normal(uniform(5));
	const readings = Array.from({ length: 24 }, (_, i) => ({
		at: day(7 * i),
		value: level + 0.12 * gauss(),
		standardUncertainty: 0.15
	}));
	if (last !== undefined) readings.push({ at: day(168), value: last, standardUncertainty: 0.15 });
	const outcome = trend({
		parameter: 'alkalinity',
		unit: 'dKH',
		readings,
		band: { lower: 7.5, upper: 9 },
		...more
	});
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

it('what was poured stays poured: a tank does not return to where it stood before', () => {
	const pour = { at: day(161.5), kind: 'dose' as const, change: 1 };
	const change = { at: day(161.5), kind: 'water-change' as const, fraction: 0.5, newWater: 9 };
	for (const event of [pour, change]) {
		const { forecast, leavesBand } = standing(7, { events: [event], now: day(162) });
		for (const { mean } of forecast) expect(mean).toBeGreaterThan(7.7);
		expect(leavesBand).toBeNull();
	}
});

it('one odd test may be a crash, a month ahead as today', () => {
	const { forecast, odd } = standing(8.4, { now: day(168) }, 6.2);
	expect(odd).toHaveLength(1);
	for (const { low, high } of forecast) {
		expect(low).toBeLessThan(6.3);
		expect(high).toBeGreaterThan(8.4);
	}
});

it('says nothing of tanks that stand for a year, and of one that moves at its second test', () => {
	const years = tries(6, 60);
	let [alarms, odd] = [0, 0];
	const until: number[] = [];
	for (let seed = 1; seed <= years; seed++) {
		const random = uniform(seed * 53);
		const gauss = normal(random);
		const error = 0.1 + 0.1 * random();
		const readings: TrendRequest['readings'] = [];
		const ask = () =>
			solved({ readings, now: readings.at(-1)!.at } as Months, { band: { lower: 7.5, upper: 9.5 } });
		const test = (d: number, level: number) =>
			readings.push({ at: day(d), value: level + error * gauss(), standardUncertainty: error });
		for (let week = 0; week < 60; week++) {
			test(7 * week + random(), 8.5);
			// The first weeks are there to know it by.
			if (week < 8) continue;
			const { moved, odd: doubts, verdict, leavesBand } = ask();
			// What `judge` would say something of.
			const heads = verdict === 'rising' || verdict === 'falling';
			const soon = leavesBand?.median && Date.parse(leavesBand.median) < Date.parse(day(7 * week + 10));
			if (moved || (heads && soon)) alarms++;
			if (doubts.some((o) => o.index === readings.length - 1)) odd++;
		}
		for (let after = 1; ; after++) {
			test(420 + 2 * after, 7.3);
			if (!ask().moved && after < 9) continue;
			until.push(after);
			break;
		}
	}
	const perYear = (n: number) => n / years;
	console.log(
		`measured: years that stand: ${perYear(alarms).toFixed(2)} false alarms a year, ${perYear(odd).toFixed(2)} tests called odd; a fall of 1.2 dKH told after ${until.join(', ')} tests`
	);
	expect(perYear(alarms)).toBeLessThan(0.5);
	expect(perYear(odd)).toBeLessThan(1);
	expect(until.reduce((a, b) => a + b) / years).toBeLessThan(2.5);
}, 600_000);
