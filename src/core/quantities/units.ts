import { PARAMETERS, parameterOf, ratio, type ParameterId, type Unit } from '../catalogue';

/** 1 US gallon = 231 cubic inches; 1 imperial gallon = 4.54609 L; 1 lb = 453.59237 g: by definition. */
const LITRES_PER_US_GALLON = 3.785411784;
const LITRES_PER_UK_GALLON = 4.54609;
const GRAMS_PER_POUND = 453.59237;

/** Units of what is no parameter: water, glass, powders. */
const OF_THINGS = {
	volume: [
		ratio('L', 1),
		ratio('mL', 1e-3),
		ratio('US gal', LITRES_PER_US_GALLON),
		ratio('UK gal', LITRES_PER_UK_GALLON)
	],
	length: [ratio('cm', 1), ratio('mm', 0.1), ratio('m', 100), ratio('in', 2.54), ratio('ft', 30.48)],
	mass: [ratio('g', 1), ratio('kg', 1000), ratio('oz', GRAMS_PER_POUND / 16), ratio('lb', GRAMS_PER_POUND)]
} satisfies Record<string, Unit[]>;

export type Quantity = ParameterId | keyof typeof OF_THINGS;

/** Every quantity's units. */
export const UNITS = {
	...(Object.fromEntries(PARAMETERS.map((p) => [p.id, p.units])) as Record<ParameterId, readonly Unit[]>),
	...OF_THINGS
} satisfies Record<Quantity, readonly Unit[]>;
export const QUANTITIES = Object.keys(UNITS) as Quantity[];
/** @example isQuantity('alkalinity') // → true */
export const isQuantity = (name: string): name is Quantity => Object.hasOwn(UNITS, name);

/**
 * The unit of that name, or undefined.
 *
 * @example unitOf('alkalinity', 'dKH').name // → 'dKH'
 */
export const unitOf = (quantity: Quantity, name: string): Unit | undefined =>
	UNITS[quantity].find((u) => u.name === name);

/**
 * Values a quantity can take at all, in its base unit; outside is a mistake, not water.
 *
 * @example possibleRange('ph', 'pH') // → [-2, 16]
 */
export const possibleRange = (quantity: Quantity): readonly [number, number] =>
	parameterOf(quantity)?.possible ?? [0, 1e9];
