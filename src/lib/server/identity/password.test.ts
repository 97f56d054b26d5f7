import { describe, expect, it } from 'vitest';
import { LONGEST_PASSWORD, SHORTEST_PASSWORD, flawOf, hashed, matches } from './password';

const odile = ['Odile Vanderberg', 'odile.vanderberg@mill.example'];

describe('a new password', () => {
	it.each([
		['eleven letters', 'abcdefghijk', 'at least 12'],
		['more than is read', 'ab1 '.repeat(60), 'at most 200'],
		['one of the first that are tried, with figures behind it', 'Password12345', 'everybody tries'],
		['the same with signs before it', '!!password2026', 'everybody tries'],
		['one letter again and again', 'aaaaaaaaaaaaaaaaaa', 'repeats itself'],
		['three letters again and again', 'abcabcabcabcabc', 'repeats itself'],
		['the own name and a year', 'vanderberg-1987', 'your name or address'],
		['the own address', 'odile@mill.example', 'your name or address']
	])('%s is refused', async (_, password, sentence) => {
		expect(await flawOf(password, odile)).toContain(sentence);
	});

	it.each([
		['a few words', 'eleven herons'],
		['other letters, and signs that are no letters', 'δώδεκα 🦀 ψάρια'],
		['a common word among others', 'the dragon naps by the weir'],
		['as long as may be', 'b 3 c d e'.repeat(30).slice(0, LONGEST_PASSWORD)],
		['as short as may be', 'wq7 zb4 kf9 x'.slice(0, SHORTEST_PASSWORD)]
	])('%s is taken', async (_, password) => {
		expect(await flawOf(password, odile)).toBeUndefined();
	});

	it('is refused by its length before anything else of it is looked at', async () => {
		expect(await flawOf('1'.repeat(1_000_000), ['x '.repeat(100_000)])).toContain('at most 200');
		expect(await flawOf(`${'1'.repeat(150)}a${'1'.repeat(40)}`, [`${'a.'.repeat(50_000)}@x`])).toContain(
			'repeats itself'
		);
	});
});

it('is kept as argon2id, each time otherwise, and known again', async () => {
	const [one, two] = await Promise.all([hashed('eleven herons'), hashed('eleven herons')]);
	expect(one).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
	expect(one).not.toBe(two);
	expect(await matches(one, 'eleven herons')).toBe(true);
	expect(await matches(one, 'eleven Herons')).toBe(false);
});
