import { describe, expect, it } from 'vitest';
import { below, spreadOf, type Part } from './mixture';
import { seenBetween, seenValue, standardBetween } from './moments';

const density = (x: number, mean: number, variance: number) =>
	Math.exp(-((x - mean) ** 2) / (2 * variance)) / Math.sqrt(2 * Math.PI * variance);

/** Chance, mean and variance of a normal belief times a likelihood, by adding up thin slices. */
function bySlices(mean: number, variance: number, likelihood: (x: number) => number) {
	const reach = 12 * Math.sqrt(variance);
	const step = reach / 4000;
	let [total, first, second] = [0, 0, 0];
	for (let x = mean - reach; x <= mean + reach; x += step) {
		const weight = density(x, mean, variance) * likelihood(x) * step;
		total += weight;
		first += weight * x;
		second += weight * x * x;
	}
	return { chance: total, mean: first / total, variance: second / total - (first / total) ** 2 };
}

/** Ends; logarithm of the chance, mean and variance. */
const PRECISE: [number, number, number, number, number][] = [
	[0.5, Infinity, -1.17591176, 1.14107777, 0.268480407],
	[-1, 2, -0.200166294, 0.229637179, 0.519762539],
	[3, Infinity, -6.60772622, 3.28309865, 0.0705591868],
	[3, 3.001, -12.3281936, 3.00049975, 8.3333293e-8],
	[8, 9, -35.0136186, 8.12118899, 0.0141485428],
	[30, Infinity, -454.321244, 30.0332597, 0.00110377151],
	[30, 30.5, -454.321244, 30.0332595, 0.00110370528],
	[-0.2, 0.1, -2.12789637, -0.0496261252, 0.00747744049],
	[-0.001, 0.003, -6.44040062, 0.000999998667, 1.33333262e-6],
	[40, 100, -804.608442, 40.0249688, 0.000622668379],
	[1.2, 5, -2.16222, 1.68754331, 0.177200455],
	[200, 200.01, -20006.3627, 200.003435, 6.89838164e-6]
];

describe('what an observation says, against adding up slices', () => {
	it.each([
		[8, 0.1, 8.1, 0.04],
		[8, 0.1, 9.2, 0.04],
		[8, 0.1, 12, 0.04],
		[420, 900, 300, 64]
	])('a value: believed %d (variance %d), seen %d with variance %d', (mean, variance, seen, noise) => {
		const got = seenValue(mean, variance, seen, noise);
		const slices = bySlices(mean, variance, (x) => density(seen, x, noise));
		expect(Math.exp(got.logChance) / slices.chance).toBeCloseTo(1, 3);
		expect(got.mean / slices.mean).toBeCloseTo(1, 3);
		expect(got.variance / slices.variance).toBeCloseTo(1, 2);
	});

	it.each([
		[7, 9, 5, 10],
		[2, 4, 5, 10],
		[0.3, 0.09, 0, 0.5],
		[20, 25, -Infinity, 12],
		[1, 1, 2, Infinity]
	])('an interval: believed %d (variance %d), between %d and %d', (mean, variance, low, high) => {
		const noise = 0.01;
		const got = seenBetween(mean, variance, low, high, noise);
		const soft = (x: number) => {
			const below = (end: number) => 0.5 * (1 + erf((end - x) / Math.sqrt(2 * noise)));
			return (high === Infinity ? 1 : below(high)) - (low === -Infinity ? 0 : below(low));
		};
		const inside = bySlices(mean, variance, soft);
		expect(Math.exp(got.logChance) / inside.chance).toBeCloseTo(1, 2);
		expect(got.mean).toBeCloseTo(inside.mean, 4);
		expect(got.variance / inside.variance).toBeCloseTo(1, 4);
	});

	// By quadrature with thirty digits (mpmath).
	it.each(PRECISE)(
		'a standard normal between %d and %d, against high precision',
		(a, b, log, mean, variance) => {
			const got = standardBetween(a, b);
			expect(got.logChance / log).toBeCloseTo(1, 5);
			expect(got.mean / mean).toBeCloseTo(1, 5);
			expect(got.variance / variance).toBeCloseTo(1, 3);
			const other = standardBetween(-b, -a);
			expect([other.logChance, -other.mean, other.variance]).toEqual([got.logChance, got.mean, got.variance]);
		}
	);

	it('pulls towards the near end from far outside, without breaking', () => {
		const got = seenBetween(100, 4, 5, 10, 1);
		expect(Number.isFinite(got.logChance)).toBe(true);
		expect(got.mean).toBeLessThan(100);
		expect(got.variance).toBeGreaterThan(0);
	});
});

describe('what is said of several explanations', () => {
	const parts: Part[] = [
		{ weight: 0.7, mean: 8.4, variance: 0.01 },
		{ weight: 0.3, mean: 6.2, variance: 0.04 }
	];
	/** Share of a mixture below x, by adding up slices above its floor. */
	const share = (x: number, floor: number) => {
		let [under, all] = [0, 0];
		for (let at = Math.max(floor, -5); at < 20; at += 0.0005) {
			const weight = parts.reduce((sum, p) => sum + p.weight * density(at, p.mean, p.variance), 0);
			all += weight;
			if (at < x) under += weight;
		}
		return under / all;
	};

	it('holds 95 % between its quantiles and about its median, and both of them', () => {
		const { mean, sd, low, high } = spreadOf(parts, 0);
		expect(share(mean, 0)).toBeCloseTo(0.5, 2);
		expect(share(low, 0)).toBeCloseTo(0.025, 2);
		expect(share(high, 0)).toBeCloseTo(0.975, 2);
		expect(share(mean + 1.96 * sd, 0) - share(mean - 1.96 * sd, 0)).toBeCloseTo(0.95, 2);
		expect(below(parts, 7, 0)).toBeCloseTo(share(7, 0), 3);
	});

	it.each([
		[1, 0.2],
		[0.1, 0.2],
		[-0.1, 0.2],
		[0.5, 0.2],
		[0, 0.05]
	])('knows nothing below nothing: %d ± %d', (mean, sd) => {
		const got = spreadOf([{ weight: 1, mean, variance: sd * sd }], 0);
		// What lies below lies at nothing.
		const upTo = (x: number) => bySlices(mean, sd * sd, (at) => (Math.max(at, 0) <= x ? 1 : 0)).chance;
		const least = (x: number, chance: number) =>
			x > 0 ? expect(upTo(x)).toBeCloseTo(chance, 2) : expect(upTo(0)).toBeGreaterThan(chance - 0.005);
		least(got.mean, 0.5);
		least(got.low, 0.025);
		least(got.high, 0.975);
		const from = got.mean - 1.96 * got.sd;
		expect(upTo(got.mean + 1.96 * got.sd) - (from > 0 ? upTo(from) : 0)).toBeGreaterThan(0.945);
	});
});

/** Abramowitz & Stegun 7.1.26. */
function erf(x: number): number {
	const t = 1 / (1 + 0.3275911 * Math.abs(x));
	const y =
		1 -
		t *
			(0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) *
			Math.exp(-x * x);
	return x < 0 ? -y : y;
}
