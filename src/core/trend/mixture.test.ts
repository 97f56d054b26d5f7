import { describe, expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { below, spreadHolding, spreadOf, type Part } from './mixture';

const part = (weight: number, mean: number, sd: number): Part => ({ weight, mean, variance: sd * sd });

/** Numbers drawn from a mixture, those below the floor put at it, in order. */
function drawn(parts: Part[], floor: number, count = 60_000): number[] {
	const random = uniform(7);
	const gauss = normal(random);
	const found: number[] = [];
	while (found.length < count) {
		let left = random();
		const chosen = parts.find((p) => (left -= p.weight) < 0) ?? parts[0]!;
		const x = chosen.mean + Math.sqrt(chosen.variance) * gauss();
		found.push(Math.max(x, floor));
	}
	return found.sort((a, b) => a - b);
}
const quantile = (sorted: number[], chance: number) => sorted[Math.floor(chance * sorted.length)]!;

const MIXTURES: [string, Part[], number][] = [
	['one bell', [part(1, 8, 0.3)], -Infinity],
	['one that a floor cuts', [part(1, 0.1, 0.2)], 0],
	['two that overlap', [part(0.6, 8, 0.3), part(0.4, 8.4, 0.5)], -Infinity],
	['two far apart', [part(0.7, 8.4, 0.2), part(0.3, 6.2, 0.2)], -Infinity],
	['three, one of them wide', [part(0.5, 430, 5), part(0.3, 420, 8), part(0.2, 425, 60)], -Infinity],
	['two that a floor cuts', [part(0.5, 0.02, 0.05), part(0.5, 0.3, 0.2)], 0]
];

describe('a mixture of bells', () => {
	it.each(MIXTURES)('has the median and the chances of what is drawn from it: %s', (_, parts, floor) => {
		const sorted = drawn(parts, floor);
		const size = quantile(sorted, 0.975) - quantile(sorted, 0.025);
		expect(Math.abs(spreadOf(parts, floor).mean - quantile(sorted, 0.5))).toBeLessThan(0.012 * size);
		for (const chance of [0.025, 0.2, 0.5, 0.8, 0.975]) {
			const at = quantile(sorted, chance);
			if (at > floor) expect(below(parts, at, floor)).toBeCloseTo(chance, 2);
		}
		expect(below(parts, 1e-9, floor)).toBeCloseTo(sorted.filter((x) => x <= 0).length / sorted.length, 2);
	});

	it.each(MIXTURES)('is held with 95 % by its interval, and by median and spread: %s', (_, parts, floor) => {
		const sorted = drawn(parts, floor);
		const { mean, sd, low, high } = spreadOf(parts, floor);
		const held = (from: number, to: number) =>
			sorted.filter((x) => x >= from && x <= to).length / sorted.length;
		expect(held(low, high)).toBeGreaterThan(0.945);
		expect(held(mean - 1.96 * sd, mean + 1.96 * sd)).toBeGreaterThan(0.945);
		expect(low).toBeGreaterThanOrEqual(floor);
	});

	it('keeps an explanation that is likely enough inside its interval where both are to stand, however far off it lies', () => {
		const parts = [part(0.93, 8.4, 0.2), part(0.07, 6.2, 0.2)];
		const { low, high } = spreadHolding(parts);
		expect(low).toBeLessThan(6.2 - 1.9 * 0.2);
		expect(high).toBe(spreadOf(parts).high);
	});

	it('has its invariants whatever it is made of', () => {
		const random = uniform(23);
		for (let n = 0; n < 400; n++) {
			const size = 10 ** (4 * random() - 2);
			const floor = random() < 0.7 ? 0 : -Infinity;
			// Weights need not be whole, nor large: what is dropped is shared out.
			const parts = Array.from({ length: 1 + Math.floor(6 * random()) }, () =>
				part(random() ** 6, size * (4 * random() - 2), size * random() ** 3)
			);
			const { mean, sd, low, high } = spreadOf(parts, floor);
			const doubled = spreadOf(
				parts.map((p) => ({ ...p, weight: 2 * p.weight })),
				floor
			);
			expect(doubled.mean).toBeCloseTo(mean, 6);
			expect(floor <= low && low <= mean && mean <= high && sd >= 0).toBe(true);
			const total = parts.reduce((sum, p) => sum + p.weight, 0);
			const chances = [-3, -1, 0, 1e-9, 0.3, 1, 5].map((x) => below(parts, size * x, floor) / total);
			for (const [i, chance] of chances.entries()) {
				expect(chance).toBeGreaterThanOrEqual(chances[i - 1] ?? 0);
				expect(chance).toBeLessThanOrEqual(1 + 1e-9);
			}
			// Its quantiles are those of its own distribution function, to what is dropped.
			const at = (x: number) => below(parts, x + 1e-9 * size, floor) / total;
			const before = (x: number) => below(parts, x - 1e-9 * size, floor) / total;
			for (const [x, chance] of [
				[low, 0.025],
				[mean, 0.5],
				[high, 0.975]
			] as const) {
				expect(at(x)).toBeGreaterThan(chance - 0.02);
				expect(before(x)).toBeLessThan(chance + 0.02);
			}
		}
	});

	it('does not hear what is next to impossible', () => {
		const plain = spreadOf([part(1, 8, 0.3)]);
		const heard = spreadOf([part(0.999, 8, 0.3), part(0.001, 80, 0.3)]);
		expect(heard.mean).toBeCloseTo(plain.mean, 2);
		expect(heard.sd).toBeCloseTo(plain.sd, 2);
	});

	it('lies at its floor where all of it would lie below', () => {
		const { mean, low, high } = spreadOf([part(1, -5, 0.1)], 0);
		expect(mean).toBeCloseTo(0, 9);
		expect(low).toBe(0);
		expect(high).toBeLessThan(0.01);
	});
});
