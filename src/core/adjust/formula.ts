import { ATOM } from '../catalogue';
import { bad, good, nth, type Outcome } from '../base';

/** What a dissolved salt falls apart into. Charge in e; what an anion holds of alkalinity (eq/mol) and of inorganic carbon (mol/mol). */
export const CATIONS = { Na: 1, K: 1, Ca: 2, Mg: 2, Sr: 2 } as const;
/**
 * Alkalinity as Dickson 1981 counts it: H₂PO₄⁻ is the zero level of phosphate, so HPO₄²⁻ brings one and PO₄³⁻ two; nitrate
 * brings none while it stays nitrate.
 */
export const ANIONS = {
	Cl: { charge: 1, alkalinity: 0, carbon: 0 },
	SO4: { charge: 2, alkalinity: 0, carbon: 0 },
	HCO3: { charge: 1, alkalinity: 1, carbon: 1 },
	CO3: { charge: 2, alkalinity: 2, carbon: 1 },
	OH: { charge: 1, alkalinity: 1, carbon: 0 },
	NO3: { charge: 1, alkalinity: 0, carbon: 0 },
	PO4: { charge: 3, alkalinity: 2, carbon: 0 },
	HPO4: { charge: 2, alkalinity: 1, carbon: 0 },
	H2PO4: { charge: 1, alkalinity: 0, carbon: 0 }
} as const;
export type Cation = keyof typeof CATIONS;
export type Anion = keyof typeof ANIONS;

/** A salt by its formula: g/mol with its water, ions a formula unit, molecules of water. */
export interface Salt {
	mass: number;
	cation: Cation;
	cations: number;
	anion: Anion;
	anions: number;
	water: number;
}

/** g/mol of a group of atoms such as `SO4` or `H2PO4`. */
function massOf(group: string): number {
	let sum = 0;
	for (const [, element, count] of group.matchAll(/([A-Z][a-z]?)(\d*)/g))
		sum += ATOM[element as keyof typeof ATOM] * Number(count || 1);
	return sum;
}

/** g/mol of an ion. */
export const ionMass = (ion: Cation | Anion): number => massOf(ion);

/** Phosphates and sulphates crystallise with up to twelve. */
const MOST_WATER = 12;
const SHAPE = new RegExp(
	`^(${Object.keys(CATIONS).join('|')})(\\d?)(?:\\((${Object.keys(ANIONS).join('|')})\\)(\\d)|(${Object.keys(ANIONS).join('|')})(\\d?))(?:[.·*](\\d*)H2O)?$`
);

/**
 * A chloride, sulphate, bicarbonate, carbonate, hydroxide, nitrate or phosphate of sodium, potassium, calcium, magnesium or
 * strontium, with or without water. Problems: anything else, or charges that do not cancel.
 *
 * @example saltOf('CaCl2.2H2O').value.mass // → 147.01
 */
export function saltOf(formula: string): Outcome<Salt> {
	const match = SHAPE.exec(formula.replaceAll(/\s/g, ''));
	if (!match)
		return bad(
			'',
			'is not a salt known here: write a chloride, sulphate, bicarbonate, carbonate, hydroxide, nitrate or phosphate of Na, K, Ca, Mg or Sr, such as CaCl2.2H2O'
		);
	const cation = nth(match, 1) as Cation;
	const anion = (match[3] ?? match[5]) as Anion;
	const cations = Number(match[2] || 1);
	const anions = Number((match[4] ?? match[6]) || 1);
	const water = match[7] === undefined ? 0 : Number(match[7] || 1);
	if (water > MOST_WATER) return bad('', `has more water than any salt: ${formula}`);
	if (CATIONS[cation] * cations !== ANIONS[anion].charge * anions)
		return bad('', `has charges that do not cancel; check the numbers in ${formula}`);
	const mass = ionMass(cation) * cations + ionMass(anion) * anions + massOf('H2O') * water;
	return good({ mass, cation, cations, anion, anions, water });
}
