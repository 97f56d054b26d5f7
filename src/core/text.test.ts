import fc from 'fast-check';
import { expect, it } from 'vitest';
import { brokenTextIn, cut } from './text';

it('cuts before a character that does not fit whole', () => {
	expect(cut('ab😀', 3)).toBe('ab');
	expect(cut('ab😀', 4)).toBe('ab😀');
	fc.assert(
		fc.property(fc.string({ unit: 'binary' }), fc.nat(20), (text, n) => {
			const short = cut(text, n);
			expect(text.startsWith(short)).toBe(true);
			expect(short.length).toBeLessThanOrEqual(n);
			expect(short.length).toBeGreaterThanOrEqual(Math.min(n, text.length) - 1);
			expect(short.isWellFormed()).toBe(text.isWellFormed());
		})
	);
});

it('finds half a character wherever it stands', () => {
	expect(brokenTextIn({ a: ['fine 😀', { b: 'half \ud83d' }] })).toBe('/a/1/b');
	expect(brokenTextIn({ ['\ude00']: 1 })).toBe('');
	expect(brokenTextIn({ a: [null, 1, true, 'ok'] })).toBeUndefined();
});
