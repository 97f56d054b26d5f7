import { describe, expect, it } from 'vitest';
import { decimalsOf, formatMeasured, formatNumber, parseEntry } from '.';

describe('parseEntry', () => {
	it.each([
		['8,1', { kind: 'exact', value: 8.1 }, '', ''],
		['.5', { kind: 'exact', value: 0.5 }, '', ''],
		['<0.2', { kind: 'below', value: 0.2 }, '', ''],
		['above 12', { kind: 'above', value: 12 }, '', ''],
		['0.46-0.48', { kind: 'between', low: 0.46, high: 0.48 }, '', ''],
		['0,46 – 0,48 left', { kind: 'between', low: 0.46, high: 0.48 }, '', 'left'],
		['used .52', { kind: 'exact', value: 0.52 }, 'used', ''],
		['6.2 ml', { kind: 'exact', value: 6.2 }, '', 'ml'],
		['−2', { kind: 'exact', value: -2 }, '', ''],
		['4 to 8', { kind: 'between', low: 4, high: 8 }, '', '']
	])('%s', (text, number, before, after) => {
		expect(parseEntry(text)).toEqual({ ok: true, value: { number, before, after } });
	});

	it.each(['', '  ', 'abc', '1.280,5', '0.48-0.46', '1-2-3', '--', '0.4 8'])(
		'refuses “%s” with a sentence',
		(text) => {
			const result = parseEntry(text);
			expect(result.ok).toBe(false);
			expect(!result.ok && result.problems[0]!.message.length).toBeGreaterThan(15);
		}
	);
});

describe('format', () => {
	it('stops at the first uncertain digit', () => {
		expect(formatMeasured(8.136, 0.33)).toEqual({ value: '8.1', error: '0.3' });
		expect(formatMeasured(422.4, 12)).toEqual({ value: '420', error: '10' });
		expect(formatMeasured(0.0524, 0.0096)).toEqual({ value: '0.05', error: '0.01' });
		expect(decimalsOf(0.96)).toBe(0);
	});
	it('writes a true minus and no minus zero', () => {
		expect(formatNumber(-0.3, 1)).toBe('−0.3');
		expect(formatNumber(-0.01, 1)).toBe('0.0');
	});
});
