import { expect, it } from 'vitest';
import { read, SHIPPED_METHODS } from '../methods';
import { CALCIUM_PER_DKH } from '../catalogue';
import { demoUpTo, normal, simulateMinerals, uniform } from '.';

const NOW = new Date('2026-05-06T20:10:00Z');

it('the demo is the same for the same moment, lies in the past, and can be read', () => {
	const demo = demoUpTo(NOW);
	expect(demoUpTo(NOW)).toEqual(demo);
	for (const system of demo.systems)
		for (const r of system.readings) {
			expect(r.at.getTime()).toBeLessThanOrEqual(NOW.getTime());
			const method = SHIPPED_METHODS.find((m) => m.id === r.method)!;
			expect(read({ method, reading: r.reading }).ok).toBe(true);
		}
});

it('calcium falls in step with alkalinity', () => {
	const [first, , , last] = simulateMinerals(
		{
			start: { alkalinity: 9, calcium: 430, magnesium: 1300 },
			newWater: { alkalinity: 9, calcium: 430, magnesium: 1300 },
			use: 0.5,
			growth: 1,
			dosing: [],
			change: { everyDays: 99, fraction: 0.1 },
			wobble: 0.2
		},
		3,
		normal(uniform(1))
	);
	expect(CALCIUM_PER_DKH).toBeCloseTo(7.15, 2);
	expect((first!.calcium - last!.calcium) / (first!.alkalinity - last!.alkalinity)).toBeCloseTo(
		CALCIUM_PER_DKH,
		9
	);
});

it('normal numbers are normal', () => {
	const gauss = normal(uniform(7));
	const many = Array.from({ length: 20_000 }, gauss);
	const mean = many.reduce((a, b) => a + b) / many.length;
	const variance = many.reduce((sum, x) => sum + (x - mean) ** 2, 0) / many.length;
	expect(Math.abs(mean)).toBeLessThan(0.03);
	expect(Math.abs(variance - 1)).toBeLessThan(0.05);
});
