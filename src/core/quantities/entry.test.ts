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
		['4 to 8', { kind: 'between', low: 4, high: 8 }, '', ''],
		['1.280,5', { kind: 'exact', value: 1280.5 }, '', ''],
		['1,280,500 mL', { kind: 'exact', value: 1_280_500 }, '', 'ml'],
		['1 280', { kind: 'exact', value: 1280 }, '', ''],
		['1’280.5', { kind: 'exact', value: 1280.5 }, '', ''],
		['1,026', { kind: 'exact', value: 1.026 }, '', ''],
		['0,125', { kind: 'exact', value: 0.125 }, '', '']
	])('%s', (text, number, before, after) => {
		expect(parseEntry(text)).toEqual({ ok: true, value: { number, before, after } });
	});

	it.each(['', '  ', 'abc', '8.1.2', '1.28,05.1', '0.48-0.46', '1-2-3', '--', '0.4 8'])(
		'refuses “%s” with a sentence',
		(text) => {
			const result = parseEntry(text);
			expect(result.ok).toBe(false);
			expect(!result.ok && result.problems[0]!.message.length).toBeGreaterThan(15);
		}
	);
});

describe('a mark before three digits', () => {
	const of = (text: string, low: number, high: number) => {
		const entry = parseEntry(text, (value) => value >= low && value <= high);
		return entry.ok ? entry.value.number : entry.problems[0]!.message;
	};
	it('is of thousands where nothing else is plausible, and asked about where both are', () => {
		expect(of('1,320', 500, 3000)).toEqual({ kind: 'exact', value: 1320 });
		expect(of('1.320 - 1.350', 500, 3000)).toEqual({ kind: 'between', low: 1320, high: 1350 });
		expect(of('8,125', 2.5, 26)).toEqual({ kind: 'exact', value: 8.125 });
		expect(of('1,320', 5000, 6000)).toEqual({ kind: 'exact', value: 1.32 });
		expect(of('1,500', 0, 1e5)).toMatch(/could be 1500 or 1.5: write 1500, or 1,5000/);
		expect(of('1,5000', 0, 1e5)).toEqual({ kind: 'exact', value: 1.5 });
		expect(of('-1,500', -1e5, 1e5)).toMatch(/could be -1500 or -1.5/);
	});
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
