import { expect, it } from 'vitest';
import { inColumns, inRows } from './columns';

it('gives rows again, to six digits, moments whole', () => {
	const rows = [
		{ at: 1_794_000_000_123, value: 8.123456789, word: 'a' },
		{ at: 1_794_000_000_124, value: null, word: 'b' }
	];
	const columns = inColumns(rows, ['at', 'value', 'word']);
	expect(columns).toEqual({
		at: [1_794_000_000_123, 1_794_000_000_124],
		value: [8.12346, null],
		word: ['a', 'b']
	});
	expect(inRows(columns)).toEqual([{ ...rows[0], value: 8.12346 }, rows[1]]);
	expect(inRows(inColumns<{ at: number }>([], ['at']))).toEqual([]);
});
