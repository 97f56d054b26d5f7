import { describe, expect, it } from 'vitest';
import { uniform } from '../statistics';
import { blend } from './blend';
import { nearestShares } from './shares';

describe('waters', () => {
	it('are blended to a hardness as soft-water keepers do', () => {
		const its = blend({
			waters: [
				{ id: 'tap', values: { hardness: 18, alkalinity: 12 } },
				{ id: 'purified', values: { hardness: 0, alkalinity: 0 } }
			],
			target: { hardness: 6 },
			litres: 90
		});
		if (!its.ok) throw new Error();
		expect(its.value.shares?.of.map((w) => w.litres)).toEqual([expect.closeTo(30, 6), expect.closeTo(60, 6)]);
		expect(its.value.shares?.values['alkalinity']).toBeCloseTo(4, 6);
	});
	it('mix salinity by mass, and say what is off where nothing fits', () => {
		const its = blend({
			waters: [
				{ id: 'sea', values: { salinity: 35, nitrate: 0 } },
				{ id: 'brine', values: { salinity: 45, nitrate: 2 }, litres: 5 }
			],
			target: { salinity: 36 },
			litres: 100
		});
		if (!its.ok) throw new Error();
		// Only five litres of the strong one are there; 95 kg·35 and 5 kg·45, weighed by density.
		expect(its.value.shares?.of[1]?.litres).toBeCloseTo(5, 6);
		expect(its.value.shares?.values['salinity']).toBeCloseTo(35.504, 2);
		expect(its.value.shares?.off['salinity']).toBeCloseTo(-0.496, 2);
	});
	it('come as near as a search over a fine grid does, with three of them', () => {
		const random = uniform(7);
		for (let i = 0; i < 100; i++) {
			const rows = Array.from({ length: 1 + (i % 3) }, () => ({
				of: [random(), random(), random()],
				wanted: random() * 1.4 - 0.2
			}));
			const most = [1, random() < 0.5 ? 1 : 0.3, random() < 0.5 ? 1 : 0.2 + random()];
			const off = (shares: number[]) =>
				rows.reduce(
					(sum, row) => sum + (row.of.reduce((a, x, k) => a + x * shares[k]!, 0) - row.wanted) ** 2,
					0
				);
			const found = nearestShares(rows, most);
			expect(found.reduce((a, b) => a + b)).toBeCloseTo(1, 9);
			expect(found.every((s, k) => s >= 0 && s <= most[k]! + 1e-9)).toBe(true);
			for (let a = 0; a <= 40; a++)
				for (let b = 0; a + b <= 40; b++) {
					const shares = [a / 40, b / 40, 1 - (a + b) / 40];
					if (shares.every((s, k) => s <= most[k]! + 1e-9))
						expect(off(found)).toBeLessThanOrEqual(off(shares) + 1e-9);
				}
		}
	});
	it('refuse pH, unknowns and too little, each beside its place', () => {
		const its = blend({
			waters: [{ id: 'tap', values: { hardness: 18 }, litres: 10 }],
			target: { hardness: 6, ph: 7, nitrate: 1 },
			litres: 90
		});
		expect(its.ok ? [] : its.problems.map((p) => p.path).sort()).toEqual([
			'/target/ph',
			'/waters',
			'/waters/0/values'
		]);
	});
});

describe('a series of water changes', () => {
	it('a hundred in a row, poured one by one, are the closed form', () => {
		for (const [fraction, drift] of [
			[0.1, 0],
			[0.25, 1.2],
			[0.5, -0.4]
		] as const) {
			const its = blend({
				series: {
					now: { nitrate: 40 },
					newWater: { nitrate: 2 },
					fraction,
					everyDays: 7,
					netPerDay: { nitrate: drift }
				}
			});
			if (!its.ok) throw new Error();
			const series = its.value.series!['nitrate']!;
			let level = 40;
			for (let n = 1; n <= 100; n++) {
				level = level + fraction * (2 - level);
				if (n <= 60) expect(series.after[n - 1]).toBeCloseTo(level, 6);
				level = Math.max(0, level + 7 * drift);
			}
			expect(series.steady.before).toBeCloseTo(level, 2);
		}
	});
	it('says how many bring it near, and when they never do', () => {
		const to = (target: number) => {
			const its = blend({
				series: { now: { nitrate: 40 }, newWater: { nitrate: 0 }, fraction: 0.5, target: { nitrate: target } }
			});
			return its.ok ? its.value.series!['nitrate']!.changes : NaN;
		};
		expect(to(10)).toBe(2);
		expect(to(40)).toBe(0);
		expect(to(60)).toBeNull();
	});
});

describe('salinity', () => {
	it('up by salt and down by fresh water keeps the salt’s mass', () => {
		const up = blend({ salinity: { now: 33, wanted: 35, litres: 200, saltPerGram: 1 } });
		const down = blend({ salinity: { now: 37, wanted: 35, litres: 200 } });
		if (!up.ok || !down.ok) throw new Error();
		// 2 PSU are 2.06 g in a litre.
		expect(up.value.salinity!.saltG / 200).toBeCloseTo(2.107, 2);
		expect(up.value.salinity!.days).toBe(2);
		// 37 · 200 = 35 · (200 + x), but for density; swapped, 200 · x / (200 + x).
		expect(down.value.salinity!.topUpL).toBeCloseTo(11.7, 1);
		expect(down.value.salinity!.swapL).toBeCloseTo(11.09, 2);
		expect(down.value.salinity!.saltG).toBe(0);
	});
	it('by a change is said where the mix can', () => {
		const change = (mix: number) => {
			const its = blend({ salinity: { now: 33, wanted: 34, litres: 100, mix } });
			return its.ok ? its.value.salinity!.changeL : NaN;
		};
		expect(change(35)).toBeCloseTo(50, 1);
		expect(change(33.5)).toBeNull();
		expect(change(30)).toBeNull();
	});
});
