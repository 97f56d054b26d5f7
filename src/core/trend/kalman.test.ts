import { describe, expect, it } from 'vitest';
import { normal, uniform } from '../statistics';
import { dosedBetween, type Dosing } from './kalman';
import { smooth } from './smoother';
import { waterAlone } from './water';
import type { Model } from './hypotheses';
import { onward } from './paths';

type Matrix = number[][];
const times = (a: Matrix, b: Matrix): Matrix =>
	a.map((row) => b[0]!.map((_, j) => row.reduce((sum, x, k) => sum + x * b[k]![j]!, 0)));
const turned = (a: Matrix): Matrix => a[0]!.map((_, j) => a.map((row) => row[j]!));
const plus = (a: Matrix, b: Matrix, sign = 1): Matrix =>
	a.map((row, i) => row.map((x, j) => x + sign * b[i]![j]!));
/** By Gauss and Jordan, without any care for speed. */
function inverse(a: Matrix): Matrix {
	const n = a.length;
	const rows = a.map((row, i) => [...row, ...Array.from({ length: n }, (_, j) => Number(i === j))]);
	for (let p = 0; p < n; p++) {
		const best = rows
			.slice(p)
			.reduce((top, row, i) => (Math.abs(row[p]!) > Math.abs(rows[top]![p]!) ? p + i : top), p);
		[rows[p], rows[best]] = [rows[best]!, rows[p]!];
		const lead = rows[p]!.map((x) => x / rows[p]![p]!);
		rows[p] = lead;
		for (let r = 0; r < n; r++) if (r !== p) rows[r] = rows[r]!.map((x, j) => x - rows[r]![p]! * lead[j]!);
	}
	return rows.map((row) => row.slice(n));
}

/** Irregular tests of a level that drifts, with a change of the dosing between. */
function tank(seed: number, count: number): { model: Model; noise: { level: number; drift: number } } {
	const random = uniform(seed);
	const gauss = normal(random);
	let at = 0;
	const nodes: Model['nodes'] = [];
	for (let reading = 0; reading < count; reading++) {
		at += 0.2 + 9 * random();
		const noise = (0.05 + 0.3 * random()) ** 2;
		nodes.push({ at, kind: 'value', seen: 8 + 0.8 * gauss(), noise, offset: 0, reading });
	}
	const dosing: Dosing[] = [
		{ from: -5, perDay: 0.3 },
		{ from: at / 2, perDay: 0.1 }
	];
	return {
		model: {
			nodes,
			dosing,
			start: { level: 8, levelSd: 1, drift: 0, driftSd: 0.2, offsetSd: [] },
			moves: { level: 1, drift: 0.1 },
			// So long that nothing is forgotten.
			usual: { level: 8, sd: 1, days: 1e6 },
			floor: -Infinity
		},
		noise: { level: 0.002, drift: 0.0001 }
	};
}

/**
 * The same without a filter: mean and covariance of levels and drifts at all tests as one normal, conditioned on all that was seen
 * at once (by the textbook's formula for a part of a normal, given another).
 */
function atOnce({ nodes, dosing, start }: Model, noise: { level: number; drift: number }) {
	const n = nodes.length;
	const means: Matrix[] = [];
	const covs: Matrix[] = [];
	const steps: Matrix[] = [];
	let mean: Matrix = [[start.level], [0]];
	let cov: Matrix = [
		[start.levelSd ** 2, 0],
		[0, start.driftSd ** 2]
	];
	for (const [k, node] of nodes.entries()) {
		const from = nodes[k - 1]?.at ?? node.at;
		const d = node.at - from;
		const F = [
			[1, d],
			[0, 1]
		];
		const Q = [
			[noise.level * d + (noise.drift * d ** 3) / 3, (noise.drift * d * d) / 2],
			[(noise.drift * d * d) / 2, noise.drift * d]
		];
		mean = plus(times(F, mean), [[dosedBetween(dosing, from, node.at)], [0]]);
		cov = plus(times(times(F, cov), turned(F)), Q);
		means.push(mean);
		covs.push(cov);
		steps.push(F);
	}
	// Covariance of the states at two tests: that of the earlier, carried on.
	const between = (i: number, j: number): Matrix => {
		if (i > j) return turned(between(j, i));
		let carried = covs[i]!;
		for (let k = i + 1; k <= j; k++) carried = times(carried, turned(steps[k]!));
		return carried;
	};
	const seen = nodes.map((node, i) => [node.kind === 'value' ? node.seen - means[i]![0]![0]! : 0]);
	const ofSeen = nodes.map((node, i) =>
		nodes.map((_, j) => between(i, j)[0]![0]! + (i === j && node.kind === 'value' ? node.noise : 0))
	);
	const certain = inverse(ofSeen);
	return Array.from({ length: n }, (_, i) => {
		const cross = [0, 1].map((part) => nodes.map((_, j) => between(i, j)[part]![0]!));
		const gain = times(cross, certain);
		return {
			mean: plus(means[i]!, times(gain, seen)).map(([x]) => x!),
			cov: plus(covs[i]!, times(gain, turned(cross)), -1).flat()
		};
	});
}

describe('filter and smoother', () => {
	it.each([1, 2, 3, 4, 5])('say what conditioning on everything at once says (tank %i)', (seed) => {
		const { model, noise } = tank(seed, 12);
		const way = onward(model, noise, new Map());
		const smoothed = smooth(waterAlone(model, noise), way);
		const all = atOnce(model, noise);
		for (const [k, state] of smoothed.entries()) {
			state.mean.forEach((x, i) => expect(x).toBeCloseTo(all[k]!.mean[i]!, 8));
			state.cov.forEach((x, i) => expect(x).toBeCloseTo(all[k]!.cov[i]!, 8));
		}
		// On the way a state knows what was seen so far, and no more.
		const half = { ...model, nodes: model.nodes.slice(0, 6) };
		const known = atOnce(half, noise).at(-1)!;
		way[5]!.seen.mean.forEach((x, i) => expect(x).toBeCloseTo(known.mean[i]!, 8));
		way[5]!.seen.cov.forEach((x, i) => expect(x).toBeCloseTo(known.cov[i]!, 8));
	});

	it('knows less of a level at a water change, and goes on from what is mixed', () => {
		const { model, noise } = tank(7, 4);
		const at = model.nodes.at(-1)!.at;
		const change = { at, kind: 'change' as const, fraction: 0.5, newWater: 10, variance: 0 };
		const [before, after] = onward({ ...model, nodes: [...model.nodes, change] }, noise, new Map()).slice(-2);
		expect(after!.seen.mean[0]).toBeCloseTo(0.5 * before!.seen.mean[0]! + 5, 10);
		expect(after!.seen.cov[0]).toBeCloseTo(0.25 * before!.seen.cov[0]!, 10);
	});
});
