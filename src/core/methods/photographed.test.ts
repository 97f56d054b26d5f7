import { describe, expect, it } from 'vitest';
import { seenInWords, type Method, type GivenReading } from '../instruments';
import { SHIPPED_METHODS, read, type Measured } from '.';

const kit = (id: string): Method => SHIPPED_METHODS.find((m) => m.id === id)!;
const measured = (method: Method, reading: GivenReading): Measured => {
	const outcome = read({ method, reading });
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value as Measured;
};
const sources = (m: Measured) => m.budget.map((b) => b.source);

const card = SHIPPED_METHODS.find((m) => m.reads === 'shades' && (m.form ?? 'card') === 'card')!;
const shades = card.reads === 'shades' ? card.shades : [];
const between: [number, number] = [shades[3]!, shades[4]!];
const gap = between[1] - between[0];
const camera = { between, position: 0.4, stepUncertainty: 0.08, distance: 0.7 };

describe('a shade from a photograph', () => {
	it('has the photograph’s own error where that is what was kept, half of it staying with card and light', () => {
		const result = measured(card, { between, position: 0.4, camera });
		expect(result.value).toBeCloseTo(between[0] + 0.4 * gap, 9);
		expect(result.standardUncertainty).toBeCloseTo(0.08 * gap, 9);
		expect(result.repeatability).toBeCloseTo(result.trueness!, 9);
		expect(sources(result)).toContain('the photograph');
	});

	it('is surer than the eye between the same patches, which has no place by itself', () => {
		const byEye = measured(card, { between, position: 0.4 });
		expect(byEye.standardUncertainty).toBeGreaterThan(
			2 * measured(card, { between, position: 0.4, camera }).standardUncertainty!
		);
	});

	it('is only remembered where the keeper kept something else', () => {
		const corrected = measured(card, { between, position: 0.7, camera });
		expect(corrected).toEqual(measured(card, { between, position: 0.7 }));
		expect(measured(card, { shade: between[0], camera })).toEqual(measured(card, { shade: between[0] }));
		expect(measured(card, { between, camera })).toEqual(measured(card, { between }));
	});

	it('drops are told with what was confirming and doubtful among them', () => {
		expect(seenInWords({ reads: 'drops', drops: 28, confirming: 1, doubtful: 2 })).toBe(
			'28 drops, 1 confirming, 2 doubtful'
		);
		expect(seenInWords({ reads: 'drops', drops: 28 })).toBe('28 drops');
	});

	it('what the eye had said beside it changes nothing, and is told', () => {
		const eye = { between, position: 0.9 };
		expect(measured(card, { between, position: 0.4, camera, eye })).toEqual(
			measured(card, { between, position: 0.4, camera })
		);
		expect(seenInWords({ reads: 'shades', between, position: 0.4, camera, eye })).toBe(
			`between ${between.join(' and ')}, photographed`
		);
	});
});

describe('a plunger from a photograph', () => {
	const syringe = kit('alk-syringe-6');
	const seen = { left: 0.4832, standardUncertainty: 0.0012 };

	it('has the photograph’s own error in place of the eye’s half line, by either convention', () => {
		const left = measured(syringe, { left: 0.4832, camera: seen });
		const used = measured(syringe, { used: 0.5168, camera: seen });
		expect(used.value).toBeCloseTo(left.value!, 9);
		expect(sources(left)).toContain('the photograph');
		expect(sources(left)).not.toContain('reading the plunger');
		expect(left.repeatability).toBeLessThan(measured(syringe, { left: 0.4832 }).repeatability!);
	});

	it('is only remembered where the keeper moved it off', () => {
		expect(measured(syringe, { left: 0.49, camera: seen })).toEqual(measured(syringe, { left: 0.49 }));
		expect(measured(syringe, { left: [0.48, 0.49], camera: seen })).toEqual(
			measured(syringe, { left: [0.48, 0.49] })
		);
	});
});
