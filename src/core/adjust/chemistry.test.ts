import { describe, expect, it } from 'vitest';
import { compositionOf } from './composition';
import { saltOf } from './formula';
import { PURE_SALTS } from './salts';
import { densityOf } from './solubility';
import type { Recipe, Supplement } from './supplement';
import { weighed } from './weighed';

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
		expect(salt.ok && salt.value.leaves.sodium).toBeCloseTo(393.4, 1);
		expect(salt.ok && salt.value.leaves.chloride).toBeCloseTo(606.6, 1);
		const epsom = compositionOf(powder('MgSO4.7H2O', 0.5));
		expect(epsom.ok && epsom.value.leaves.sulphate).toBeCloseTo(194.9, 1);
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
	it('of what cannot be are refused with the reason, whatever water the salt holds', () => {
		const made = (kind: Supplement['kind'], ...recipe: Recipe[]) => {
			const its = compositionOf({ ...powder('x'), kind, composition: { recipe } });
			return its.ok ? 'possible' : its.problems.map((p) => `${p.path}: ${p.message}`).join();
		};
		const litre = (salt: string, gramsPerL: number): Recipe => ({ salt, gramsPerL, purity: 1 });
		const part = (salt: string, purity: number): Recipe => ({ salt, purity });
		// Nothing of these dissolves (solubility tables), as a solution, a powder or a sediment.
		for (const salt of ['CaCO3', 'Mg(OH)2', 'SrSO4', 'CaHPO4.2H2O', 'Mg3(PO4)2'])
			for (const kind of ['solution', 'powder', 'saturated'] as const)
				expect(made(kind, litre(salt, 5)), salt).toMatch(/salt: does not dissolve/);
		// Hydrates that no catalogue here lists: 1 M of soda, 2.9 M of magnesium chloride are possible, 3 M and 8 M are not.
		expect(made('solution', litre('Na2CO3.H2O', 124))).toBe('possible');
		expect(made('solution', litre('Na2CO3.H2O', 372))).toMatch(/more than dissolves/);
		expect(made('solution', litre('MgCl2.2H2O', 1050))).toMatch(/more than dissolves/);
		expect(made('solution', litre('Na2HPO4.12H2O', 400))).toMatch(/more than dissolves/);
		expect(made('solution', litre('CaCl2.40H2O', 40))).toMatch(/more water than any salt/);
		// Two that meet: chalk, gypsum, magnesium hydroxide, calcium phosphate, celestine.
		for (const [one, other, falls] of [
			['CaCl2.2H2O', 'NaHCO3', /CaCO3/],
			['CaCl2.2H2O', 'Na2CO3', /CaCO3/],
			['CaCl2.2H2O', 'MgSO4.7H2O', /CaSO4/],
			['MgCl2.6H2O', 'NaOH', /Mg\(OH\)2/],
			['Ca(NO3)2.4H2O', 'K2HPO4', /CaHPO4/],
			['SrCl2.6H2O', 'K2SO4', /SrSO4/]
		] as const) {
			expect(made('solution', litre(one, 40), litre(other, 40)), one + other).toMatch(falls);
			expect(made('powder', part(one, 0.5), part(other, 0.5)), one + other).toMatch(falls);
		}
		// Potassium bicarbonate beside much sodium: sodium bicarbonate falls out, though each alone dissolves.
		expect(made('solution', litre('KHCO3', 300), litre('NaCl', 250))).toMatch(/NaHCO3/);
		for (const [one, other] of [
			['MgCl2.6H2O', 'MgSO4.7H2O'],
			['KCl', 'NaHCO3'],
			['CaCl2.2H2O', 'SrCl2.6H2O'],
			['KNO3', 'KH2PO4']
		] as const)
			expect(made('solution', litre(one, 60), litre(other, 40)), one + other).toBe('possible');
		expect(made('powder', part('KNO3', 0.7), part('KH2PO4', 0.5))).toMatch(/120 %/);
		expect(made('powder', { salt: 'KNO3' }, part('KH2PO4', 0.5))).toMatch(/0\/purity: must say/);
	});
	it('of salts that draw water hold less than was weighed, where nobody says how much', () => {
		const brings = (salt: string, purity?: number) => {
			const its = compositionOf({
				...powder('x'),
				composition: { recipe: purity === undefined ? { salt } : { salt, purity } }
			});
			if (!its.ok) throw new Error();
			return its.value;
		};
		for (const salt of ['CaCl2.2H2O', 'MgCl2.6H2O', 'K2CO3', 'NaOH', 'MgSO4']) {
			const { main, raises, relativeError } = brings(salt);
			const dry = brings(salt, 1);
			expect(raises[main]! / dry.raises[main]!, salt).toBeCloseTo(0.95, 9);
			// From an opened bag, 90 to 100 % of it: within twice the error.
			expect(2 * relativeError, salt).toBeGreaterThan(0.05);
			expect(relativeError, salt).toBeGreaterThan(dry.relativeError);
		}
		for (const salt of ['NaHCO3', 'KCl', 'MgSO4.7H2O']) expect(brings(salt)).toEqual(brings(salt, 1));
	});
	it('of two salts bring both', () => {
		const both = compositionOf({
			...powder('x'),
			kind: 'solution',
			composition: {
				recipe: [
					{ salt: 'MgCl2.6H2O', gramsPerL: 200, purity: 1 },
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

it('knows how strong a weighed solution is by its scale and its jug', () => {
	// A step of 1 g is off by 0.289 g (evenly over half a step each way): 2.89 % of 10 g, and a jug by 1 %.
	expect(weighed(10, 0.5, 1)).toEqual({ gramsPerL: 20, relativeError: 0.0306 });
	// Of much the scale says nothing, and the jug is left.
	expect(weighed(1000, 3, 0.01)).toEqual({ gramsPerL: 333.333, relativeError: 0.01 });
	expect(weighed(80, 1, undefined).relativeError).toBe(0.0141);
	expect(weighed(0.1, 1, 5).relativeError).toBe(0.5);
});
