import { describe, expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { below, spreadOf, type Part } from './mixture';

const part = (weight: number, mean: number, sd: number): Part => ({ weight, mean, variance: sd * sd });

/** Numbers drawn from a mixture, those below the floor thrown away, in order. */
function drawn(parts: Part[], floor: number, count = 60_000): number[] {
	const random = uniform(7);
	const gauss = normal(random);
	const found: number[] = [];
	while (found.length < count) {
		let left = random();
		const chosen = parts.find((p) => (left -= p.weight) < 0) ?? parts[0]!;
		const x = chosen.mean + Math.sqrt(chosen.variance) * gauss();
		if (x >= floor) found.push(x);
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
		for (const chance of [0.025, 0.2, 0.5, 0.8, 0.975])
			expect(below(parts, quantile(sorted, chance), floor)).toBeCloseTo(chance, 2);
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

	it('keeps an explanation that is likely enough inside its interval, however far off it lies', () => {
		const { low, high } = spreadOf([part(0.93, 8.4, 0.2), part(0.07, 6.2, 0.2)]);
		expect(low).toBeLessThan(6.2 - 1.9 * 0.2);
		expect(high).toBeGreaterThan(8.4 + 1.6 * 0.2);
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
