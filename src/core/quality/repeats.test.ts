import { describe, expect, it } from 'vitest';
import { chiSquareAbove } from '../statistics';
import { normal, uniform } from '../statistics';
import { repeats } from './repeats';
import { ownScatter } from './scorecard';

const of = (values: number[], repeatability = 0.1, trueness = 0.2) => {
	const outcome = repeats({ readings: values.map((value) => ({ value, repeatability, trueness })) });
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};

describe('repeats', () => {
	it('counts what the kit is off by once, and what changes by its number', () => {
		const { mean, agree } = of([8.1, 8.2, 8.0, 8.1]);
		expect(mean.value).toBeCloseTo(8.1);
		expect(mean.repeatability).toBeCloseTo(0.05);
		expect(mean.trueness).toBeCloseTo(0.2);
		expect(mean.standardUncertainty).toBeCloseTo(Math.hypot(0.05, 0.2));
		expect(agree).toBe(true);
	});

	it('says when one more is worth its minutes', () => {
		expect(of([8.1], 0.2, 0.05).next).toBe('repeat');
		expect(of([8.1], 0.05, 0.2).next).toBe('stop');
		const { gain } = of([8.1, 8.1], 0.2, 0.05);
		expect(gain.standardUncertainty).toBeCloseTo(Math.hypot(0.2 / Math.sqrt(3), 0.05));
		expect(
			of(
				Array.from({ length: 12 }, () => 8.1),
				0.2,
				0.05
			).next
		).toBe('stop');
	});

	it('of a comparator counts the same shade again once', () => {
		const shades = (...values: number[]) => {
			const made = repeats({
				readings: values.map((value) => ({ value, repeatability: 0.2, quantisation: 0.2, trueness: 0.05 }))
			});
			if (!made.ok) throw new Error();
			return made.value;
		};
		expect(shades(5, 5, 5).mean.repeatability).toBeGreaterThanOrEqual(0.2);
		expect(shades(5, 5).next).toBe('stop');
		// An eye that wavers between two shades tells where between them.
		expect(shades(5, 5.7, 5, 5.7, 5, 5.7).mean.repeatability).toBeLessThan(0.12);
	});

	it('names the one that does not fit; of two, nobody can say which', () => {
		const three = of([8.1, 8.15, 9.2]);
		expect(three).toMatchObject({ agree: false, apart: [2], next: 'repeat' });
		expect(three.mean.repeatability).toBeGreaterThan(0.2);
		expect(of([7.9, 8.5]).apart).toEqual([0, 1]);
	});

	it('calls readings that agree apart once in twenty', () => {
		const gauss = normal(uniform(3));
		const tries = 2000;
		let apart = 0;
		for (let i = 0; i < tries; i++) if (!of([gauss(), gauss(), gauss()], 1, 0).agree) apart++;
		expect(apart / tries).toBeGreaterThan(0.035);
		expect(apart / tries).toBeLessThan(0.065);
	});

	it('has the chi-square of the tables', () => {
		expect(chiSquareAbove(3.841, 1)).toBeCloseTo(0.05, 4);
		expect(chiSquareAbove(9.488, 4)).toBeCloseTo(0.05, 4);
		expect(chiSquareAbove(29.588, 10)).toBeCloseTo(0.001, 5);
		expect(chiSquareAbove(1.145, 5)).toBeCloseTo(0.95, 3);
	});
});

it('takes the scatter of these hands for the method’s own once there are enough pairs, and leans on that while they are few', () => {
	const gauss = normal(uniform(3));
	const pairsOf = (n: number, scatter: number) =>
		Array.from({ length: n }, () => ({
			a: 8 + scatter * gauss(),
			b: 8 + scatter * gauss(),
			repeatability: 0.1
		}));
	expect(ownScatter(pairsOf(9, 0.2))).toBeUndefined();
	expect(ownScatter(pairsOf(2000, 0.2))!.ratio).toBeCloseTo(2, 2);
	expect(ownScatter(pairsOf(2000, 0.05))!.ratio).toBeCloseTo(0.5, 1);
	// Ten pairs weigh as much as what the method says: half way, by variance.
	const ten = Array.from({ length: 500 }, () => ownScatter(pairsOf(10, 0.2))!.ratio ** 2);
	expect(ten.reduce((a, b) => a + b) / ten.length).toBeCloseTo((1 + 4) / 2, 1);
});
