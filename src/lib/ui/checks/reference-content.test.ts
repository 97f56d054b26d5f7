import { describe, expect, it } from 'vitest';
import { NO_REFERENCE, contentOf } from './reference-content';

const PSU = { parameter: 'salinity', own: 'PSU', unit: 'PSU', by: 'refraction' } as const;
const typed = (part: Partial<typeof NO_REFERENCE>) => ({ ...NO_REFERENCE, name: 'A bottle', ...part });

describe('a reference as it is typed', () => {
	it('by its label is as uncertain in specific gravity as it is in PSU, and no surer', () => {
		const psu = contentOf(typed({ value: '35', error: '0.4' }), 'label', PSU);
		const gravity = contentOf(typed({ value: '1.0264', error: '0.0003' }), 'label', {
			...PSU,
			unit: 'SG 25/25'
		});
		if (!psu.ok || !gravity.ok) throw new Error('is understood');
		expect(gravity.value.value).toBeCloseTo(35.04, 2);
		// 0.0003 are 0.4 PSU there (EOS-80: 0.00075 of specific gravity a PSU).
		expect(gravity.value.standardUncertainty).toBeCloseTo(0.4 / 1.96, 2);
		expect(psu.value.standardUncertainty).toBeCloseTo(0.4 / 1.96, 6);
	});

	it('by weight says which field is wrong, and holds what was weighed in', () => {
		const weighed = typed({ salt: 'KCl', grams: '7,6', litres: '10' });
		const potassium = { parameter: 'potassium', own: 'mg/L', unit: 'mg/L', by: 'refraction' } as const;
		const made = contentOf(weighed, 'weighed', potassium);
		// 0.76 g/L of KCl, 52.44 % of it potassium.
		expect(made.ok && made.value.value).toBeCloseTo(398.6, 1);
		const wrong = (part: object, of = potassium) => {
			const said = contentOf({ ...weighed, ...part }, 'weighed', of);
			return said.ok ? '' : said.problems[0]!.path;
		};
		expect([
			wrong({ grams: '' }),
			wrong({ litres: '-1' }),
			wrong({ salt: 'NaCl' }),
			wrong({ name: ' ' })
		]).toEqual(['/grams', '/litres', '/salt', '/name']);
	});
});
