import { ATOM, CAO_PER_DEGREE, MOLECULE } from './masses';
import {
	MAX_SALINITY,
	conductivityOf,
	salinityFromConductivity,
	salinityFromSpecificGravity,
	specificGravity
} from './salinity-scales';

/** One unit of a quantity: to the quantity's base unit and back. `factor` is there where the relation is a plain ratio. */
export interface Unit {
	name: string;
	toBase: (value: number) => number;
	fromBase: (base: number) => number;
	factor?: number;
}

const ratio = (name: string, factor: number): Unit => ({
	name,
	factor,
	toBase: (value) => value * factor,
	fromBase: (base) => base / factor
});

/** Specific gravity t/t, read at its reference temperature in °C. */
const gravity = (name: string, t: number): Unit => ({
	name,
	toBase: (sg) => salinityFromSpecificGravity(sg, t),
	fromBase: (salinity) => specificGravity(salinity, t)
});

/** Units of a dissolved element or compound of molar mass `mass`; base mg/L. */
const dissolved = (mass: number) => [
	ratio('mg/L', 1),
	ratio('ug/L', 1e-3),
	ratio('mmol/L', mass),
	ratio('umol/L', mass * 1e-3)
];

/** Base: meq/L, one meq/L of carbonate being half a mmol/L of Ca. */
const equivalents = (degree: string) => [
	ratio(degree, (2 * CAO_PER_DEGREE) / MOLECULE.CaO),
	ratio('meq/L', 1),
	ratio('ppm CaCO3', 2 / MOLECULE.CaCO3)
];

/** 1 US gallon = 231 cubic inches; 1 imperial gallon = 4.54609 L; 1 lb = 453.59237 g: by definition. */
const LITRES_PER_US_GALLON = 3.785411784;
const LITRES_PER_UK_GALLON = 4.54609;
const GRAMS_PER_POUND = 453.59237;

/** Every quantity's units; the first is the one the core and the database keep it in. */
export const UNITS = {
	alkalinity: equivalents('dKH'),
	hardness: equivalents('dGH'),
	calcium: dissolved(ATOM.Ca),
	magnesium: dissolved(ATOM.Mg),
	potassium: dissolved(ATOM.K),
	strontium: dissolved(ATOM.Sr),
	iodine: dissolved(ATOM.I),
	iron: dissolved(ATOM.Fe),
	silicate: dissolved(MOLECULE.SiO2),
	nitrate: [
		ratio('mg/L NO3', 1),
		ratio('mg/L NO3-N', MOLECULE.NO3 / ATOM.N),
		ratio('umol/L', MOLECULE.NO3 * 1e-3)
	],
	nitrite: [
		ratio('mg/L NO2', 1),
		ratio('mg/L NO2-N', MOLECULE.NO2 / ATOM.N),
		ratio('umol/L', MOLECULE.NO2 * 1e-3)
	],
	ammonia: [
		ratio('mg/L NH4', 1),
		ratio('mg/L NH3', MOLECULE.NH4 / MOLECULE.NH3),
		ratio('mg/L NH-N', MOLECULE.NH4 / ATOM.N),
		ratio('umol/L', MOLECULE.NH4 * 1e-3)
	],
	phosphate: [
		ratio('mg/L PO4', 1),
		ratio('mg/L PO4-P', MOLECULE.PO4 / ATOM.P),
		ratio('ug/L PO4', 1e-3),
		ratio('ug/L P', (MOLECULE.PO4 / ATOM.P) * 1e-3),
		ratio('umol/L', MOLECULE.PO4 * 1e-3)
	],
	salinity: [
		ratio('PSU', 1),
		gravity('SG 25/25', 25),
		gravity('SG 20/20', 20),
		gravity('SG 60/60F', (60 - 32) / 1.8),
		{
			name: 'mS/cm 25C',
			toBase: (c: number) => salinityFromConductivity(c, 25),
			fromBase: (s: number) => conductivityOf(s, 25)
		} as Unit
	],
	temperature: [
		ratio('C', 1),
		{ name: 'F', toBase: (f: number) => (f - 32) / 1.8, fromBase: (c: number) => c * 1.8 + 32 } as Unit
	],
	ph: [ratio('pH', 1)],
	volume: [
		ratio('L', 1),
		ratio('mL', 1e-3),
		ratio('US gal', LITRES_PER_US_GALLON),
		ratio('UK gal', LITRES_PER_UK_GALLON)
	],
	length: [ratio('cm', 1), ratio('mm', 0.1), ratio('m', 100), ratio('in', 2.54), ratio('ft', 30.48)],
	mass: [ratio('g', 1), ratio('kg', 1000), ratio('oz', GRAMS_PER_POUND / 16), ratio('lb', GRAMS_PER_POUND)]
} satisfies Record<string, Unit[]>;

export type Quantity = keyof typeof UNITS;
export const QUANTITIES = Object.keys(UNITS) as Quantity[];
/** @example isQuantity('alkalinity') // → true */
export const isQuantity = (name: string): name is Quantity => Object.hasOwn(UNITS, name);

/**
 * The unit of that name, or undefined.
 *
 * @example unitOf('alkalinity', 'dKH').name // → 'dKH'
 */
export const unitOf = (quantity: Quantity, name: string): Unit | undefined =>
	(UNITS[quantity] as Unit[]).find((u) => u.name === name);

/**
 * Values a quantity can take at all, in its base unit; outside is a mistake, not water.
 *
 * @example possibleRange('ph', 'pH') // → [-2, 16]
 */
export function possibleRange(quantity: Quantity): [number, number] {
	if (quantity === 'temperature') return [-273.15, 1000];
	if (quantity === 'ph') return [-2, 16];
	if (quantity === 'salinity') return [0, MAX_SALINITY];
	return [0, 1e9];
}
