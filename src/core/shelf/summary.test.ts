import { expect, it } from 'vitest';
import { SHIPPED_METHODS } from '../methods';
import { summarise } from '.';

const of = (id: string) => SHIPPED_METHODS.find((m) => m.id === id)!;

it('says what a method costs in error, minutes and money', () => {
	const s = summarise(of('alk-syringe-6'), 8);
	// u of 8 dKH by hand: two lines and a drop, 0.0757 together, and 1.8 % of 8.
	expect(s.errorAtTarget).toBeCloseTo(1.96 * Math.hypot(0.0759, 8 * Math.hypot(0.015, 0.01)), 1);
	expect(s.step).toBeCloseTo(0.168, 3);
	expect(s.cost).toBeCloseTo(14.5 / 90, 9);
	expect(summarise(of('nh4-card'), 0.2).waitSeconds).toBe(900);
});

it('judges every method that ships somewhere in its range', () => {
	for (const m of SHIPPED_METHODS)
		expect(summarise(m, 'shades' in m ? m.shades[1]! : 1).handsSeconds, m.id).toBeGreaterThanOrEqual(0);
});
