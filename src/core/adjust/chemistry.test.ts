import { describe, expect, it } from 'vitest';
import { compositionOf } from './composition';
import { saltOf } from './formula';
import { PURE_SALTS, densityOf } from './salts';
import type { Supplement } from './supplement';

const powder = (salt: string, purity = 1): Supplement => ({
	format: 'tevrik.supplement/1',
	id: 'x',
	name: 'X',
	kind: 'powder',
	composition: { recipe: { salt, purity } }
});

/** Molar masses as reagent catalogues print them, g/mol, and by hand: what 1 g brings to 1 L, in mg/L or dKH (1 meq/L = 2.8039 dKH). */
const PUBLISHED: [formula: string, mass: number, brings: Record<string, number>][] = [
	['NaHCO3', 84.01, { alkalinity: (1000 / 84.007) * 2.8039 }],
	['KHCO3', 100.12, { alkalinity: (1000 / 100.115) * 2.8039, potassium: 39098.3 / 100.115 }],
	['Na2CO3', 105.99, { alkalinity: (2000 / 105.988) * 2.8039 }],
	['Na2CO3.10H2O', 286.14, { alkalinity: (2000 / 286.141) * 2.8039 }],
	['K2CO3', 138.21, { alkalinity: (2000 / 138.205) * 2.8039, potassium: 2 * (39098.3 / 138.205) }],
	['NaOH', 40, { alkalinity: (1000 / 39.997) * 2.8039 }],
	['KOH', 56.11, { alkalinity: (1000 / 56.105) * 2.8039, potassium: 39098.3 / 56.105 }],
	['Ca(OH)2', 74.09, { alkalinity: (2000 / 74.092) * 2.8039, calcium: 40078 / 74.092 }],
	['CaCl2', 110.98, { calcium: 361.1 }],
	['CaCl2.2H2O', 147.01, { calcium: 272.6 }],
	['CaCl2.6H2O', 219.08, { calcium: 182.9 }],
	['Ca(NO3)2.4H2O', 236.15, { calcium: 169.7, nitrate: (2 * 62004) / 236.15 }],
	['MgCl2.6H2O', 203.3, { magnesium: 119.6 }],
	['MgSO4', 120.37, { magnesium: 201.9 }],
	['MgSO4.7H2O', 246.47, { magnesium: 98.6 }],
	['Mg(NO3)2.6H2O', 256.41, { magnesium: 94.8, nitrate: (2 * 62004) / 256.41 }],
	['KCl', 74.55, { potassium: 524.4 }],
	['K2SO4', 174.26, { potassium: 448.7 }],
	['KNO3', 101.1, { potassium: 386.7, nitrate: 613.3 }],
	['KH2PO4', 136.09, { potassium: 287.3, phosphate: 697.9 }],
	['NaNO3', 84.99, { nitrate: 729.5 }],
	['NaH2PO4', 119.98, { phosphate: 791.6 }],
	['Na2HPO4', 141.96, { phosphate: 669, alkalinity: (1000 / 141.96) * 2.8039 }],
	['Na3PO4.12H2O', 380.12, { phosphate: 249.8, alkalinity: (2000 / 380.12) * 2.8039 }],
	['NaCl', 58.44, {}],
	['Na2SO4', 142.04, {}],
	['SrCl2.6H2O', 266.62, { strontium: 328.6 }],
	['Sr(NO3)2', 211.63, { strontium: 414, nitrate: (2 * 62004) / 211.63 }]
];

describe('pure salts', () => {
	it('have their published masses, and every one that ships is here', () => {
		expect(PUBLISHED.map(([f]) => f).sort()).toEqual(PURE_SALTS.map((s) => s.formula).sort());
		for (const [formula, mass] of PUBLISHED) {
			const salt = saltOf(formula);
			expect(salt.ok && salt.value.mass, formula).toBeCloseTo(mass, 1);
		}
	});
	it('bring what a hand computes, and nothing else that is tested', () => {
		for (const [formula, , brings] of PUBLISHED) {
			const its = compositionOf(powder(formula));
			if (!its.ok) throw new Error(formula);
			const { salinity, ...raises } = its.value.raises;
			expect(Object.keys(raises).sort(), formula).toEqual(Object.keys(brings).sort());
			for (const [parameter, value] of Object.entries(brings))
				expect(raises[parameter]! / value, `${formula} ${parameter}`).toBeCloseTo(1, 3);
			// All of it but its water thickens: 0.973 PSU for a gram in a litre.
			expect(salinity, formula).toBeLessThanOrEqual(0.9727);
		}
	});
	it('leave sodium, chloride and sulphate behind by charge', () => {
		const salt = compositionOf(powder('NaCl'));
		expect(salt.ok && salt.value.leaves.sodium).toBeCloseTo(393.4, 0);
		expect(salt.ok && salt.value.leaves.chloride).toBeCloseTo(606.6, 0);
		const epsom = compositionOf(powder('MgSO4.7H2O', 0.5));
		expect(epsom.ok && epsom.value.leaves.sulphate).toBeCloseTo(194.9, 0);
	});
	it('are as dense in water as the CRC Handbook has them, within 4 %', () => {
		for (const [formula, share, density] of [
			['NaCl', 0.26, 1.1972],
			['NaOH', 0.5, 1.5253],
			['CaCl2', 0.4, 1.3957],
			['K2CO3', 0.5, 1.5404],
			['MgSO4', 0.26, 1.2961],
			['Na2CO3', 0.14, 1.1463],
			['KCl', 0.24, 1.1623],
			['NaNO3', 0.4, 1.3175],
			['NaHCO3', 0.08, 1.0581],
			['MgCl2.6H2O', 0.3, 1.2688]
		] as const) {
			const salt = saltOf(formula);
			expect(salt.ok && densityOf(salt.value, share) / density, formula).toSatisfy(
				(x: number) => Math.abs(x - 1) < 0.041
			);
		}
	});
});

describe('formulas', () => {
	it('are read however they are spelt', () => {
		for (const spelt of ['CaCl2.2H2O', 'CaCl2·2H2O', 'CaCl2 * 2 H2O'])
			expect(saltOf(spelt)).toMatchObject({ ok: true, value: { water: 2, cation: 'Ca', anions: 2 } });
	});
	it('are refused where charges do not cancel or nothing is known of them', () => {
		for (const wrong of ['NaCl2', 'CaCl', 'H2SO4', 'NH4Cl', '', 'CaCl2.H', 'Na(OH)'])
			expect(saltOf(wrong).ok, wrong).toBe(false);
	});
});

describe('solutions', () => {
	it('of more than dissolves are refused, with what does', () => {
		const soda = compositionOf({
			...powder('NaHCO3'),
			kind: 'solution',
			composition: { recipe: { salt: 'NaHCO3', gramsPerL: 150 } }
		});
		expect(soda).toMatchObject({ ok: false, problems: [{ path: '/composition/recipe/gramsPerL' }] });
		expect(JSON.stringify(soda)).toMatch(/about 9\d g/);
	});
	it('saturated with lime hold 1.7 g in a litre', () => {
		const lime = compositionOf({ ...powder('Ca(OH)2'), kind: 'saturated' });
		expect(lime.ok && lime.value.raises['alkalinity']).toBeCloseTo(0.131, 2);
		expect(lime.ok && lime.value.cautions).toContain('burns');
	});
	it('of two salts bring both', () => {
		const both = compositionOf({
			...powder('x'),
			kind: 'solution',
			composition: {
				recipe: [
					{ salt: 'MgCl2.6H2O', gramsPerL: 200 },
					{ salt: 'MgSO4.7H2O', gramsPerL: 50 }
				]
			}
		});
		expect(both.ok && both.value.raises['magnesium']).toBeCloseTo(0.2 * 119.6 + 0.05 * 98.6, 1);
		expect(both.ok && both.value.main).toBe('magnesium');
	});
});

describe('labels', () => {
	const label = (parameter: string, value: number, unit: string): Supplement => ({
		...powder('x'),
		kind: 'solution',
		composition: { label: { amount: 1, unit: 'mL', waterL: 100, raises: { parameter, value, unit } } }
	});
	it('are taken at their word in any unit', () => {
		const dkh = compositionOf(label('alkalinity', 0.25, 'dKH'));
		const ppm = compositionOf(label('alkalinity', 4.462, 'ppm CaCO3'));
		expect(dkh.ok && dkh.value.raises['alkalinity']).toBeCloseTo(25, 6);
		expect(ppm.ok && ppm.value.raises['alkalinity']).toBeCloseTo(25, 2);
		expect(dkh.ok && dkh.value.raises['salinity']).toBeGreaterThan(0.7);
	});
	it('in a unit that is no ratio, or of another parameter, are refused', () => {
		for (const wrong of [label('salinity', 1.001, 'SG 25/25'), label('calcium', 5, 'dKH')])
			expect(compositionOf(wrong)).toMatchObject({
				ok: false,
				problems: [{ path: '/composition/label/raises/unit' }]
			});
	});
	it('may be of something of the keeper’s own', () => {
		const own = compositionOf(label('boron', 0.5, 'mg/L'));
		expect(own.ok && own.value.raises).toEqual({ boron: 50 });
	});
});
