import { expect, it } from 'vitest';
import { normal, uniform } from './random';
import { yorkLine } from './york';

// Pearson's points with York's weights, and what York et al. 2004 print for them (table II).
const X = [0, 0.9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4];
const Y = [5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5];
const WX = [1000, 1000, 500, 800, 200, 80, 60, 20, 1.8, 1];
const WY = [1, 1.8, 4, 8, 20, 20, 70, 70, 100, 500];

it('is the line York, Evensen, Martínez and De Basabe Delgado print', () => {
	const line = yorkLine(X.map((x, i) => ({ x, y: Y[i]!, ux: WX[i]! ** -0.5, uy: WY[i]! ** -0.5 })))!;
	expect(line.b).toBeCloseTo(-0.48053341, 7);
	expect(line.a).toBeCloseTo(5.47991022, 7);
	expect(line.ub).toBeCloseTo(0.058, 4);
	expect(line.ua).toBeCloseTo(0.295, 4);
	expect(line.square / 8).toBeCloseTo(1.4833, 4);
});

it('does not mind which axis is which', () => {
	const points = X.map((x, i) => ({ x, y: Y[i]!, ux: WX[i]! ** -0.5, uy: WY[i]! ** -0.5 }));
	const turned = yorkLine(points.map(({ x, y, ux, uy }) => ({ x: y, y: x, ux: uy, uy: ux })))!;
	expect(1 / turned.b).toBeCloseTo(yorkLine(points)!.b, 8);
});

it('says how far off its slope is, which a line that takes one axis for sure does not', () => {
	const gauss = normal(uniform(5));
	let [held, york, ordinary] = [0, 0, 0];
	const tries = 400;
	for (let i = 0; i < tries; i++) {
		const points = Array.from({ length: 8 }, (_, k) => ({
			x: k + 0.5 * gauss(),
			y: 2 + 1.2 * k + 0.5 * gauss(),
			ux: 0.5,
			uy: 0.5
		}));
		const line = yorkLine(points)!;
		if (Math.abs(line.b - 1.2) <= 1.96 * line.ub) held++;
		york += line.b / tries;
		const flat = yorkLine(points.map((p) => ({ ...p, ux: 0 })))!;
		ordinary += flat.b / tries;
	}
	expect(held / tries).toBeGreaterThan(0.91);
	expect(held / tries).toBeLessThan(0.98);
	expect(Math.abs(york - 1.2)).toBeLessThan(0.02);
	expect(ordinary).toBeLessThan(1.17);
});

it('is none of one point, or of points on one spot', () => {
	expect(yorkLine([{ x: 1, y: 1, ux: 1, uy: 1 }])).toBeUndefined();
	const spot = { x: 1, y: 1, ux: 1, uy: 1 };
	expect(yorkLine([spot, spot, spot])).toBeUndefined();
});
