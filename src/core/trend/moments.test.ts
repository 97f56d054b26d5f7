import { describe, expect, it } from 'vitest';
import { notNegative, seenBetween, seenValue } from './moments';

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

describe('what an observation says, against adding up slices', () => {
	it.each([
		[8, 0.1, 8.1, 0.04],
		[8, 0.1, 9.2, 0.04],
		[8, 0.1, 12, 0.04],
		[420, 900, 300, 64]
	])('a value: believed %d (variance %d), seen %d with variance %d', (mean, variance, seen, noise) => {
		const got = seenValue(mean, variance, seen, noise);
		const slices = bySlices(
			mean,
			variance,
			(x) => 0.98 * density(seen, x, noise) + 0.02 * density(seen, x, 100 * noise)
		);
		expect(Math.exp(got.logChance) / slices.chance).toBeCloseTo(1, 3);
		expect(got.mean).toBeCloseTo(slices.mean, 3);
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
		const slip = 0.02 * 0.05;
		const honest = (0.98 * inside.chance) / (0.98 * inside.chance + slip);
		expect(got.honest).toBeCloseTo(honest, 2);
		expect(got.mean).toBeCloseTo(honest * inside.mean + (1 - honest) * mean, 1);
		expect(got.variance).toBeLessThan(variance * 1.3);
	});

	it('pulls towards the near end from far outside, without breaking', () => {
		const got = seenBetween(100, 4, 5, 10, 1);
		expect(Number.isFinite(got.logChance)).toBe(true);
		expect(got.mean).toBeLessThan(100);
		expect(got.variance).toBeGreaterThan(0);
		expect(got.honest).toBeLessThan(0.01);
	});

	it.each([
		[1, 0.2],
		[0.1, 0.2],
		[-0.1, 0.2],
		[-0.5, 0.2]
	])('nothing below nothing: %d ± %d', (mean, sd) => {
		const got = notNegative(mean, sd);
		const slices = bySlices(mean, sd * sd, (x) => (x >= 0 ? 1 : 0));
		expect(got.mean).toBeCloseTo(slices.mean, 2);
		expect(got.sd).toBeCloseTo(Math.sqrt(slices.variance), 2);
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
