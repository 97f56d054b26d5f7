import { expect, it } from 'vitest';
import { tries } from '../../../tests/support/length';
import { MONTH_LAWS, simulateMonths, type Months } from '../simulate/months';
import { leastSquares } from '../statistics';
import { trend } from './trend';
import type { TrendRequest, TrendResult } from './schema';

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

/** What a keeper with a pencil would say: the mean of the last twelve tests with their spread, and the line through them with its error. */
function byPencil({ readings, days }: Months): { mean: number; sd: number }[] {
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

it.each(MONTH_LAWS)(
	'a month ahead is as sure as it should be, and little worse than the best pencil: a tank that %s',
	(law) => {
		const sum = { own: 0, pencil: [0, 0], inside: 0, week: 0 };
		for (let seed = 1; seed <= TANKS; seed++) {
			const tank = simulateMonths(law, seed * 41);
			const { forecast } = solved(tank);
			const [week, month] = [forecast[7]!, forecast[AHEAD]!];
			const truth = tank.levelIn(AHEAD);
			sum.own += scoreOf(truth, month.mean, month.sd);
			byPencil(tank).forEach(({ mean, sd }, i) => (sum.pencil[i]! += scoreOf(truth, mean, sd)));
			if (Math.abs(truth - month.mean) <= 1.96 * month.sd) sum.inside++;
			if (Math.abs(tank.levelIn(7) - week.mean) <= 1.96 * week.sd) sum.week++;
		}
		const ratio = sum.own / Math.min(...sum.pencil);
		const covered = (100 * sum.inside) / TANKS;
		console.log(
			`measured: a month ahead, ${law}: score ${ratio.toFixed(2)} of the best pencil, covered ${covered.toFixed(0)} %, in seven days ${((100 * sum.week) / TANKS).toFixed(0)} %`
		);
		expect(ratio).toBeLessThan(1.2 + 1.5 / Math.sqrt(TANKS));
		expect(covered).toBeGreaterThan(90 - 200 * Math.sqrt((0.9 * 0.1) / TANKS));
	}
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
			const way = Array.from({ length: Math.round(days * 4) }, (_, i) => tank.levelIn(i / 4));
			if (way.some((level) => level < band.lower || level > band.upper)) left++;
		}
	console.log(
		`measured: a month ahead, by the median date ${((100 * left) / said).toFixed(0)} % of ${said} had left`
	);
	expect(said).toBeGreaterThan(TANKS / 4);
	expect(left / said).toBeGreaterThan(0.3);
	expect(left / said).toBeLessThan(0.7);
});
