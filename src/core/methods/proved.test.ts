import { expect, it } from 'vitest';
import { type Method } from '../instruments';
import { read, SHIPPED_METHODS, asProved, type Proved } from './index';

const method = SHIPPED_METHODS.find((m) => m.parameter === 'alkalinity' && m.reads === 'syringe')!;
const reading = { left: 0.48 };
const plain = (() => {
	const made = read({ method, reading });
	if (!made.ok) throw new Error();
	return made.value;
})();
const proved = (kit: Proved, over: object = {}) => {
	const made = read({ method, reading, proved: kit, ...over });
	if (!made.ok) throw new Error(JSON.stringify(made.problems));
	return made.value;
};

it('has what is known of the kit in place of what the kit allows itself; what changes from test to test stays', () => {
	const now = proved({ trueness: 0.04, by: 'a bottle' });
	expect(now.value).toBe(plain.value);
	expect(now.repeatability).toBe(plain.repeatability);
	expect(now.standardUncertainty).toBeCloseTo(Math.hypot(plain.repeatability!, 0.04), 12);
	expect(now.standardUncertainty!).toBeLessThan(plain.standardUncertainty!);
	expect(now.budget.filter((e) => e.kind === 'trueness')).toEqual([
		{ source: 'the kit, checked with a bottle', standardUncertainty: 0.04, kind: 'trueness' }
	]);
	// The budget is what the error is made of.
	expect(Math.hypot(...now.budget.map((e) => e.standardUncertainty))).toBeCloseTo(
		now.standardUncertainty!,
		12
	);
	const [low, high] = now.interval as [number, number];
	expect((low + high) / 2).toBeCloseTo(now.value!, 12);
});

it('is less sure by a kit that is off and from which nothing is taken, and surer where it is', () => {
	const off = proved({ trueness: 0.6, by: 'a bottle' });
	expect(off.standardUncertainty!).toBeGreaterThan(plain.standardUncertainty!);
	const taken = proved({ trueness: 0.05, takenOff: 0.58, by: 'a bottle' });
	expect(taken.value).toBeCloseTo(plain.value! - 0.58, 12);
	expect(taken.interval[0]! + taken.interval[1]!).toBeCloseTo(2 * taken.value!, 12);
});

it('takes the parameter’s own unit whatever unit the method has', () => {
	const inMeq: Method = { ...method, unit: 'meq/L' };
	const before = read({ method: inMeq, reading });
	const after = read({ method: inMeq, reading, proved: { trueness: 0.04, takenOff: 0.28, by: 'a bottle' } });
	if (!before.ok || !after.ok) throw new Error();
	// 2.8 dKH are 1 meq/L.
	expect(before.value.value! - after.value.value!).toBeCloseTo(0.28 / 2.8, 2);
	expect(after.value.trueness).toBeCloseTo(0.04 / 2.8, 3);
});

it('leaves a bound as it was read, and a value taken below nothing is a bound', () => {
	const bound = { qualifier: '<' as const, value: null, standardUncertainty: null, repeatability: null };
	const below = { ...bound, interval: [0, 2] as [number, number] };
	expect(asProved(below, { trueness: 0.1, takenOff: 1 })).toBe(below);
	const little = { qualifier: '=' as const, value: 0.02, standardUncertainty: 0.02, repeatability: 0.01 };
	const now = asProved(
		{ ...little, interval: [0, 0.06] as [number, number] },
		{ trueness: 0.01, takenOff: 0.03 }
	);
	expect(now).toMatchObject({ qualifier: '<', value: null });
	expect(now.interval[0]).toBe(0);
	expect(now.interval[1]!).toBeCloseTo(-0.01 + 1.96 * Math.hypot(0.01, 0.01), 3);
});
