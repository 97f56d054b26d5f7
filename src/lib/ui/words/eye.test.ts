import { describe, expect, it } from 'vitest';
import type { ColourResult } from '$core/colour';
import type { PlungerResult } from '$core/picture';
import { distanceInWords, flagsInWords, plungerFlags, shadeInWords } from './eye';

const VALUES = [0, 2, 5, 10];
const result = (part: Partial<ColourResult>): ColourResult => ({
	position: { between: [5, 10], at: 0.31 },
	qualifier: '=',
	value: 6.55,
	interval: [6, 7],
	standardUncertainty: 0.25,
	stepUncertainty: 0.05,
	distance: 0.4,
	flags: [],
	where: [],
	cast: 'none',
	colours: [],
	...part
});

describe('what a picture of a card says, in words', () => {
	it.each([
		[result({}), 'between 5 and 10, 31 % of the way'],
		[result({ position: { between: [5, 10], at: 0.02 } }), 'matches 5'],
		[result({ position: { between: [5, 10], at: 0.98 } }), 'matches 10'],
		[result({ qualifier: '<' }), 'paler than 0'],
		[result({ qualifier: '>' }), 'deeper than 10'],
		[result({ position: null }), 'nothing to read yet']
	])('%#', (of, words) => expect(shadeInWords(of, VALUES)).toBe(words));

	it('names the patch, and what to do', () => {
		const said = flagsInWords(
			result({
				flags: ['glare', 'clipped'],
				where: [
					{ flag: 'glare', area: 2 },
					{ flag: 'clipped', area: 'vial' }
				]
			}),
			VALUES
		);
		expect(said).toEqual([
			'Glare on patch 5: turn it a little, or move the lamp.',
			'Too bright: the vial is at the camera’s limit. Take it darker, or turn the torch off.'
		]);
		expect(flagsInWords(result({ cast: 'blue' }), VALUES)[0]).toContain('Switch the tank lamp off');
		expect(flagsInWords(result({}), VALUES)).toEqual([]);
	});

	it('does not list ten patches', () => {
		const where = VALUES.map((_, area) => ({ flag: 'dark' as const, area }));
		expect(flagsInWords(result({ flags: ['dark'], where }), VALUES)[0]).toContain(
			'patch 0, patch 2 and 2 more'
		);
	});

	it('says how alike vial and card look, and what a plunger’s picture lacks', () => {
		expect([0.5, 2, 9].map(distanceInWords)).toEqual([
			'the vial looks as the card does',
			'the vial looks nearly as the card does',
			'the vial looks different from the card'
		]);
		const flags: PlungerResult['flags'] = ['no-edge', 'two-edges', 'no-lines', 'ends-unsure', 'blurred'];
		const said = plungerFlags({ flags } as PlungerResult);
		expect(new Set(said).size).toBe(flags.length);
		expect(said.every((s) => s.endsWith('.'))).toBe(true);
	});
});
