import { ATOM, CAO_PER_DEGREE, MOLECULE } from './masses';

/** One unit of a quantity: to the quantity's base unit and back. `factor` is there where the relation is a plain ratio. */
export interface Unit {
	name: string;
	toBase: (value: number) => number;
	fromBase: (base: number) => number;
	factor?: number;
}

/** @example ratio('mL', 1e-3).toBase(250) // → 0.25 */
export const ratio = (name: string, factor: number): Unit => ({
	name,
	factor,
	toBase: (value) => value * factor,
	fromBase: (base) => base / factor
});

/** Units of a dissolved element or compound of molar mass `mass`, g/mol; base mg/L. */
export const dissolved = (mass: number): Unit[] => [
	ratio('mg/L', 1),
	ratio('ug/L', 1e-3),
	ratio('mmol/L', mass),
	ratio('umol/L', mass * 1e-3)
];

/** Units of what is counted as carbonate; base: meq/L, one meq/L of carbonate being half a mmol/L of Ca. */
export const equivalents = (degree: string): Unit[] => [
	ratio(degree, (2 * CAO_PER_DEGREE) / MOLECULE.CaO),
	ratio('meq/L', 1),
	ratio('ppm CaCO3', 2 / MOLECULE.CaCO3)
];

/** Units of an oxide of nitrogen, by itself or as its nitrogen alone; base mg/L of it. */
export const nitrogenOxide = (formula: 'NO3' | 'NO2'): Unit[] => [
	ratio(`mg/L ${formula}`, 1),
	ratio(`mg/L ${formula}-N`, MOLECULE[formula] / ATOM.N),
	ratio('umol/L', MOLECULE[formula] * 1e-3)
];
