import { expect, it } from 'vitest';
import type { Method, GivenReading } from '../instruments';
import type { ReadingRequest } from '.';
import { read } from './reading';
import { SHIPPED_METHODS } from './shipped';

const kit = (id: string): Method => SHIPPED_METHODS.find((m) => m.id === id)!;
const said = (id: string, reading: GivenReading, more: Partial<ReadingRequest> = {}) => {
	const outcome = read({ method: kit(id), reading, ...more });
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
};
const hand = {
	tries: 20,
	endPoint: { bias: 1.5, standardUncertainty: 0.1, scatter: 0.8 },
	lines: 0.3,
	patches: 0.1
};
const of = (budget: { source: string; standardUncertainty: number }[], source: string) =>
	budget.find((e) => e.source.includes(source))?.standardUncertainty;

it('takes a hand’s own end off a titration, and its scatter for the last drop’s', () => {
	const plain = said('ca-syringe-5', { left: 0.2 });
	const own = said('ca-syringe-5', { left: 0.2, hand });
	const method = kit('ca-syringe-5');
	if (method.reads !== 'syringe' || method.scale.kind !== 'linear') throw new Error('is a line');
	const perDrop = 0.012 * method.scale.perMl;
	// A chart allows for half a drop past the end, or may; this hand is one and a half.
	expect(plain.value! - own.value!).toBeCloseTo(perDrop, 6);
	expect(of(own.budget, 'your end point')!).toBeCloseTo(0.8 * perDrop, 6);
	expect(of(own.budget, 'how well your end point')!).toBeCloseTo(0.1 * perDrop, 6);
	expect(of(own.budget, 'reading the plunger')!).toBeCloseTo(0.3 * 0.01 * method.scale.perMl, 6);
	expect(own.budget.some((e) => e.source === 'last drop')).toBe(false);
	expect(own.trueness! / own.value!).toBeGreaterThan(plain.trueness! / plain.value!);
});

it('does the same with drops and shades, and leaves the photograph’s word alone', () => {
	expect(said('alk-drops', { drops: 10 }).value! / said('alk-drops', { drops: 10, hand }).value!).toBeCloseTo(
		10 / 9,
		6
	);
	const wide = said('no3-card', { between: [5, 10], position: 0.5 });
	const own = said('no3-card', { between: [5, 10], position: 0.5, hand });
	expect(own.standardUncertainty!).toBeLessThan(wide.standardUncertainty!);
	const camera = { between: [5, 10] as [number, number], position: 0.5, stepUncertainty: 0.05, distance: 1 };
	const seen = { between: [5, 10] as [number, number], position: 0.5, camera };
	expect(said('no3-card', { ...seen, hand }).standardUncertainty).toBe(
		said('no3-card', seen).standardUncertainty
	);
	// Whole patches stay whole patches, however good the eye.
	expect(
		said('no3-card', { shade: 5, hand: { ...hand, patches: 0.001 } }).standardUncertainty!
	).toBeGreaterThan(1);
});

it('gives way to pairs of real water: of practice only where the hand ends stays', () => {
	const proved = { scatter: { ratio: 1, pairs: 10 } };
	const real = said('ca-syringe-5', { left: 0.2, hand }, { proved });
	expect(real.value).toBe(said('ca-syringe-5', { left: 0.2, hand }).value);
	const plain = said('ca-syringe-5', { left: 0.2 }, { proved });
	expect(of(real.budget, 'reading the plunger')).toBe(of(plain.budget, 'reading the plunger'));
	expect(of(real.budget, 'your end point')!).toBeCloseTo(of(plain.budget, 'last drop')!, 9);
});

it('a hand that ends as the chart means changes nothing', () => {
	for (const [id, reading] of [
		['ca-syringe-5', { left: 0.2 }],
		['alk-drops', { drops: 10 }]
	] as const) {
		const perfect = { ...hand, endPoint: { ...hand.endPoint, bias: 0.5 } };
		const at = (more: object) => said(id, { ...reading, ...more } as GivenReading).value!;
		expect(at({ hand: perfect })).toBeCloseTo(at({}), 9);
		expect(at({ hand })).toBeLessThan(at({}));
	}
});
