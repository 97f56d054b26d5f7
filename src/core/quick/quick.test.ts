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
		const method = SHIPPED_METHODS.find((m) => m.id === methodId)!;
		expect({ methodId, reading, ...(sample ? { sample } : {}) }).toEqual({
			...(({ temperatureC: _t, ...rest }) => rest)(meant),
			reading: { reads: method.reads, ...meant.reading }
		});
		if (meant.temperatureC !== undefined) expect(temperatureC).toBeCloseTo(meant.temperatureC, 9);
		// What is understood can be read.
		expect(read({ method, reading, ...(sample ? { sample } : {}) }).ok).toBe(true);
	});

	it.each([
		['alk left 0,46 yesterday', { day: { ago: 1 } }],
		['ca 17 drops 3 days ago 20:15', { day: { ago: 3 }, hour: '20:15' }],
		['no3 3-6 on 2026-05-03 7:30', { day: { on: '2026-05-03' }, hour: '7:30' }],
		['sg 1.0255 25C yesterday at 9:05', { day: { ago: 1 }, hour: '9:05' }],
		['alk 8.2 at 19:05', { day: { ago: 0 }, hour: '19:05' }],
		['alk 8.2', undefined]
	])('%s: takes the day out of the line', (text, when) => {
		const [dated, plain] = [text, text.replace(/ (yesterday|3 days|on|at) .*| yesterday$/, '')].map((t) => {
			const result = parseQuick(t, SHIPPED_METHODS);
			if (!result.ok) throw new Error(JSON.stringify(result.problems));
			return result.value;
		});
		expect(dated!.when).toEqual(when);
		const { when: _when, ...rest } = dated!;
		expect(rest).toEqual(plain);
	});

	it('takes a number that no water has for what another kit of the shelf shows, or asks', () => {
		const shelf = (...ids: string[]) =>
			SHIPPED_METHODS.filter((m) => ids.includes(m.id)).sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id));
		const seen = (text: string, ...ids: string[]) => {
			const result = parseQuick(text, shelf(...ids));
			return result.ok ? [result.value.methodId, result.value.reading] : result.problems[0]!.message;
		};
		const [drops, syringe] = ['ca-drops', 'ca-syringe-5'];
		expect(seen('ca 0.78', drops, syringe)).toEqual([syringe, { reads: 'syringe', left: 0.78 }]);
		expect(seen('ca 17', drops, syringe)).toEqual([drops, { reads: 'drops', drops: 17 }]);
		expect(seen('ca 420', drops, syringe)).toEqual(['known-calcium', { reads: 'display', shown: 420 }]);
		expect(seen('ca 0.78')).toMatch(/^0\.78 mg\/L is no calcium that water has/);
		expect(seen('alk 9.4 mg', syringe)).not.toMatch(/no alkalinity/);
	});
});
