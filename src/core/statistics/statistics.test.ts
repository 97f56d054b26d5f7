import { describe, expect, it } from 'vitest';
import {
	chiSquareAbove,
	leastSquares,
	lineOfMost,
	median,
	normal,
	normalBelow,
	normalQuantile,
	oneLineFits,
	cholesky,
	solveRight,
	throughOrigin,
	uniform,
	type Point
} from '.';

const points = (...list: [number, number][]): Point[] => list.map(([x, y], index) => ({ x, y, index }));

describe('median', () => {
	it.each([
		[[], NaN],
		[[4], 4],
		[[3, 1, 2], 2],
		[[3, 1, 2, 10], 2.5],
		[[-1, -1, 5, 7], 2]
	])('of %j is %d', (values, wanted) => {
		const given = [...values];
		expect(median(given)).toBe(wanted);
		expect(given).toEqual(values);
	});
});

describe('the normal', () => {
	// Abramowitz and Stegun, table 26.1.
	it.each([
		[0, 0.5],
		[1, 0.8413447461],
		[-1, 0.1586552539],
		[1.96, 0.9750021049],
		[3, 0.998650102]
	])('lies below %d with %d', (z, chance) => {
		expect(normalBelow(z)).toBeCloseTo(chance, 6);
		expect(normalQuantile(chance)).toBeCloseTo(z, 6);
	});
	it('has no quantile past certainty', () => {
		expect(normalQuantile(0)).toBe(-Infinity);
		expect(normalQuantile(1)).toBe(Infinity);
	});
	// The same, table 26.8.
	it.each([
		[3.841459, 1, 0.05],
		[5.991465, 2, 0.05],
		[18.30704, 10, 0.05],
		[2.705543, 1, 0.1],
		[29.5883, 10, 0.001],
		[0, 4, 1]
	])('chi-square above %d with %i degrees of freedom: %d', (x, freedom, chance) => {
		expect(chiSquareAbove(x, freedom)).toBeCloseTo(chance, 5);
	});
});

describe('numbers by chance', () => {
	it('are the same from the same seed, and what they are called', () => {
		const [a, b] = [normal(uniform(5)), normal(uniform(5))];
		const drawn = Array.from({ length: 20_000 }, a);
		expect(drawn.slice(0, 5)).toEqual(Array.from({ length: 5 }, b));
		const mean = drawn.reduce((sum, x) => sum + x, 0) / drawn.length;
		const variance = drawn.reduce((sum, x) => sum + (x - mean) ** 2, 0) / drawn.length;
		// Four standard errors.
		expect(Math.abs(mean)).toBeLessThan(4 / Math.sqrt(drawn.length));
		expect(Math.abs(variance - 1)).toBeLessThan(4 * Math.sqrt(2 / drawn.length));
		expect(drawn.filter((x) => Math.abs(x) < 1.96).length / drawn.length).toBeCloseTo(0.95, 2);
	});
});

describe('lines', () => {
	it('least squares of Anscombe’s first four are his', () => {
		// Anscombe 1973: all four have y = 3 + 0.5 x.
		const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
		const y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68];
		const line = leastSquares(points(...x.map((v, i): [number, number] => [v, y[i]!])))!;
		expect(line.a).toBeCloseTo(3, 2);
		expect(line.b).toBeCloseTo(0.5, 3);
		expect(leastSquares(points([1, 1], [1, 2]))).toBeUndefined();
		expect(throughOrigin(points([1, 2], [2, 4.1]))!.b).toBeCloseTo(10.2 / 5, 10);
	});
	it('the line of most is not moved by a wrong one, and one line fits only without it', () => {
		const chart = points([0, 0], [0.2, 3.36], [0.4, 6.72], [0.6, 12.08], [0.8, 13.44], [1, 16.8]);
		const { line, on } = lineOfMost(chart, 0.05)!;
		expect(line.b).toBeCloseTo(16.8, 6);
		expect(on.map((p) => p.index)).toEqual([0, 1, 2, 4, 5]);
		expect(oneLineFits(chart, 0.05)).toBe(false);
		expect(oneLineFits(on, 0.05)).toBe(true);
	});
});

describe('solving', () => {
	it('cross · inverse(cov), also of sizes far apart and where a direction has no variance', () => {
		const cov = [4, 1e-4, 0, 1e-4, 1e-6, 0, 0, 0, 0];
		const cross = [1, 2e-5, 0, 0.5, 1e-5, 0, 0, 0, 0];
		const gain = solveRight(cov, cross, 3);
		for (let i = 0; i < 2; i++)
			for (let j = 0; j < 2; j++) {
				let back = 0;
				for (let k = 0; k < 3; k++) back += gain[i * 3 + k]! * cov[k * 3 + j]!;
				expect(back).toBeCloseTo(cross[i * 3 + j]!, 9);
			}
		expect(gain.every(Number.isFinite)).toBe(true);
	});

	it('L·Lᵀ is the matrix; what is no covariance is said', () => {
		const size = 4;
		const random = uniform(7);
		const root = Array.from({ length: size * size }, () => random() - 0.5);
		const times = (m: number[]) =>
			m.map((_, k) =>
				Array.from({ length: size }, (__, c) => c).reduce(
					(sum, c) => sum + m[Math.floor(k / size) * size + c]! * m[(k % size) * size + c]!,
					0
				)
			);
		const matrix = times(root);
		times(cholesky(matrix, size)).forEach((x, k) => expect(x).toBeCloseTo(matrix[k]!, 12));
		expect(() => cholesky([1, 2, 2, 1], 2)).toThrow('not positive definite');
		expect(() => solveRight([1, NaN, NaN, 1], [1, 0, 0, 1], 2)).toThrow('not positive definite');
	});
});
