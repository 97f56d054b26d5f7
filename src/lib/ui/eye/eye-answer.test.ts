import { describe, expect, it } from 'vitest';
import type { ColourResult } from '$core/colour';
import { type ShadesMethod, type SyringeMethod } from '$core/instruments';
import { SHIPPED_METHODS } from '$core/methods';
import type { PlungerResult } from '$core/picture';
import { freshDraft, readingOf, type Draft } from '$lib/ui/instruments/draft';
import { inColumn, unitRead } from '$lib/ui/instruments/shades/draft';
import { eyeBefore, plungerTaken, shadeTaken } from './eye-answer';

const card = SHIPPED_METHODS.find(
	(m): m is ShadesMethod => m.reads === 'shades' && (m.columns?.length ?? 0) > 0
)!;
const syringe = SHIPPED_METHODS.find((m): m is SyringeMethod => m.reads === 'syringe')!;
const shades = card.shades;
const on = (text: string, more: Partial<Draft> = {}): Draft => ({ ...freshDraft(card), text, ...more });
const answer = (part: Partial<ColourResult>): ColourResult =>
	({
		position: { between: [shades[2], shades[3]], at: 0.314 },
		qualifier: '=',
		stepUncertainty: 0.0812,
		distance: 0.456,
		...part
	}) as ColourResult;
const kept = (draft: Draft) => {
	const reading = readingOf(card, draft);
	return reading?.ok ? reading.value : reading;
};

describe('what a card’s picture says', () => {
	it('stands on the card as the photograph’s, and is kept so', () => {
		const taken = shadeTaken(answer({}), undefined)!;
		expect(kept({ ...on(''), ...taken })).toEqual({
			reads: 'shades',
			between: [shades[2], shades[3]],
			position: 0.31,
			camera: { between: [shades[2], shades[3]], position: 0.31, stepUncertainty: 0.0812, distance: 0.46 }
		});
	});

	it('past an end is a bound, and remembered as one', () => {
		const low = shadeTaken(
			answer({ qualifier: '<', position: { between: [shades[0]!, shades[1]!], at: 0 } }),
			undefined
		)!;
		expect(kept({ ...on(''), ...low })).toMatchObject({ below: shades[0], camera: { beyond: '<' } });
		const last = shades.at(-1)!;
		const high = shadeTaken(
			answer({ qualifier: '>', position: { between: [shades.at(-2)!, last], at: 1 } }),
			undefined
		)!;
		expect(kept({ ...on(''), ...high })).toMatchObject({ above: last, camera: { beyond: '>' } });
		expect(shadeTaken(answer({ position: null }), undefined)).toBeUndefined();
	});

	it('takes over to another column between the same patches, and is still the photograph’s', () => {
		const draft = {
			...on(''),
			...shadeTaken(answer({}), { between: [shades[2]!, shades[3]!], position: 0.6 })!
		};
		const other = card.columns![0]!;
		const moved = inColumn(card, draft, other.name);
		expect(moved.seenShade!.between).toEqual([other.shades[2], other.shades[3]]);
		expect(moved.eye).toEqual({ between: [other.shades[2], other.shades[3]], position: 0.6 });
		expect(unitRead(card, { ...draft, ...moved })).toBe(other.unit ?? card.unit);
		expect({ ...draft, ...inColumn(card, { ...draft, ...moved }, '') }.seenShade).toEqual(draft.seenShade);
	});
});

describe('the eye before it', () => {
	it.each([
		[`${shades[2]}-${shades[3]}`, { between: [shades[2], shades[3]], position: 0.5 }],
		[`${shades[2]}-${shades[3]} @ 0.3`, { between: [shades[2], shades[3]], position: 0.3 }],
		[`${shades[1]}`, { between: [shades[1], shades[2]], position: 0 }],
		[`${shades.at(-1)}`, { between: [shades.at(-2), shades.at(-1)], position: 1 }],
		['', undefined],
		['nonsense', undefined],
		[`<${shades[1]}`, undefined]
	])('%s', (text, eye) => expect(eyeBefore(card, on(text, { placed: true }))).toEqual(eye));

	it('is not what an earlier picture put there', () => {
		const first = {
			...on(''),
			...shadeTaken(answer({}), { between: [shades[0]!, shades[1]!], position: 0.2 })!
		};
		expect(eyeBefore(card, first)).toEqual({ between: [shades[0], shades[1]], position: 0.2 });
	});
});

describe('what a syringe’s picture says', () => {
	const seen = { left: 0.48317, standardUncertainty: 0.001234 } as PlungerResult;

	it.each(['left', 'used'] as const)('stands on the syringe by what is %s, and means the same', (readAs) => {
		const draft = { ...freshDraft(syringe), readAs, ...plungerTaken(seen, syringe, readAs) };
		const reading = readingOf(syringe, draft);
		expect(reading?.ok && reading.value).toEqual({
			reads: 'syringe',
			[readAs]: readAs === 'left' ? 0.4832 : Number((syringe.syringe.fillMl - 0.4832).toFixed(4)),
			camera: { left: 0.4832, standardUncertainty: 0.00123 }
		});
	});

	it('is nothing where no edge was seen', () => {
		expect(plungerTaken({ left: null } as PlungerResult, syringe, 'left')).toBeUndefined();
	});
});
