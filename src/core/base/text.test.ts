import fc from 'fast-check';
import { expect, it } from 'vitest';
import { NAME_PATTERN, cut, flawOfName, flawOfText } from './text';

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
	expect(flawOfText({ a: ['fine 😀', { b: 'half \ud83d' }] })?.path).toBe('/a/1/b');
	expect(flawOfText({ ['\ude00']: 1 })?.path).toBe('');
	expect(flawOfText({ a: [null, 1, true, 'ok'] })).toBeUndefined();
});

it('takes no control characters, and in a name no second line and nothing that turns its direction', () => {
	expect(flawOfText({ text: 'one\ntwo\tthree' })).toBeUndefined();
	expect(flawOfText({ text: 'bell \u0007' })?.path).toBe('/text');
	for (const name of [
		'two\nlines',
		'tab\tbed',
		'nul\u0000',
		'esc\u001b[31m',
		'c1\u0085',
		'evil\u202egnp.exe'
	]) {
		expect(flawOfName(name), name).toMatch(/one line/);
		expect(flawOfText({ tanks: [{ name }] })?.path).toBe('/tanks/0/name');
		expect(new RegExp(NAME_PATTERN, 'u').test(name), name).toBe(false);
	}
	for (const name of ['Odile’s 300 L', 'Ríf 😀', 'שונית', ' x '])
		expect([flawOfName(name), new RegExp(NAME_PATTERN, 'u').test(name)], name).toEqual([undefined, true]);
	expect(new RegExp(NAME_PATTERN, 'u').test('   ')).toBe(false);
});
