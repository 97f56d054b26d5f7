import { expect, it } from 'vitest';
import { complement, written, writtenBoth } from './plunger-text';

it('writes a plunger to its graduation, and one digit more between two lines', () => {
	expect(written(0.48, 0.01)).toBe('0.48');
	expect(written(0.485, 0.01)).toBe('0.485');
	// On a syringe of 0.02 mL lines 0.47 lies between two, and two decimals say it.
	expect(written(0.46, 0.02)).toBe('0.46');
	expect(written(0.47, 0.02)).toBe('0.47');
	expect(writtenBoth([0.46, 0.48], 0.01)).toBe('0.46 to 0.48');
});

it('turns left into used and back, ends in order', () => {
	expect(complement(0.25, 1)).toBe(0.75);
	expect(complement([0.2, 0.5], 1)).toEqual([0.5, 0.8]);
	expect(complement(complement([0.1, 0.4], 3), 3)).toEqual([expect.closeTo(0.1), expect.closeTo(0.4)]);
});
