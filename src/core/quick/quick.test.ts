import { describe, expect, it } from 'vitest';
import { SHIPPED_METHODS, read } from '../methods';
import { parseQuick } from '.';
import { PHRASINGS } from '../../../tests/data/quick-phrasings';

describe('the quick line', () => {
	it.each(PHRASINGS)('%s', (text, meant) => {
		const result = parseQuick(text, SHIPPED_METHODS);
		if (typeof meant === 'string') {
			expect(result.ok ? JSON.stringify(result.value) : result.problems[0]!.message).toContain(meant);
			expect(result.ok).toBe(false);
			return;
		}
		if (!result.ok) throw new Error(result.problems[0]!.message);
		const { methodId, reading, sample, temperatureC } = result.value;
		expect({ methodId, reading, ...(sample ? { sample } : {}) }).toEqual(
			(({ temperatureC: _t, ...rest }) => rest)(meant)
		);
		if (meant.temperatureC !== undefined) expect(temperatureC).toBeCloseTo(meant.temperatureC, 9);
		// What is understood can be read.
		const method = SHIPPED_METHODS.find((m) => m.id === methodId)!;
		expect(read({ method, reading, ...(sample ? { sample } : {}) }).ok).toBe(true);
	});
});
