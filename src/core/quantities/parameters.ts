import type { Quantity } from './units';

/** What a keeper measures: how it is called, shown and in what range reef water and its neighbours are found. */
export interface Parameter {
	id: Quantity;
	title: string;
	/** At most four characters, for a label on glass. */
	symbol: string;
	/** The unit it is kept and shown in unless the keeper chooses another. */
	unit: string;
	/** 95 % of honest readings with no history lie here, in `unit`. Source: natural sea water, salt mixes and tanks out of hand, as in domain terms. */
	plausible: [number, number];
	/** What the axis of its tube spans, in `unit`. */
	shown: [number, number];
	hint: string;
}

export const PARAMETERS = [
	{
		id: 'alkalinity',
		title: 'Alkalinity',
		symbol: 'Alk',
		unit: 'dKH',
		plausible: [5, 13],
		shown: [4, 14],
		hint: 'What corals build skeleton from. It falls fastest; steady matters more than the exact number.'
	},
	{
		id: 'calcium',
		title: 'Calcium',
		symbol: 'Ca',
		unit: 'mg/L',
		plausible: [320, 520],
		shown: [300, 550],
		hint: 'Skeleton. Falls in step with alkalinity: 7.15 mg/L for each dKH.'
	},
	{
		id: 'magnesium',
		title: 'Magnesium',
		symbol: 'Mg',
		unit: 'mg/L',
		plausible: [1050, 1550],
		shown: [1000, 1600],
		hint: 'Keeps calcium and alkalinity from falling out together.'
	},
	{
		id: 'potassium',
		title: 'Potassium',
		symbol: 'K',
		unit: 'mg/L',
		plausible: [300, 480],
		shown: [280, 500],
		hint: 'Colour and growth where nutrients are low.'
	},
	{
		id: 'nitrate',
		title: 'Nitrate',
		symbol: 'NO₃',
		unit: 'mg/L NO3',
		plausible: [0, 60],
		shown: [0, 50],
		hint: 'Food for algae and corals. A long zero invites pests.'
	},
	{
		id: 'phosphate',
		title: 'Phosphate',
		symbol: 'PO₄',
		unit: 'mg/L PO4',
		plausible: [0, 0.5],
		shown: [0, 0.3],
		hint: 'Feeds algae, slows skeleton.'
	},
	{
		id: 'salinity',
		title: 'Salinity',
		symbol: 'Sal',
		unit: 'PSU',
		plausible: [28, 39],
		shown: [28, 40],
		hint: 'Every other number scales with it: correct it first.'
	},
	{
		id: 'ph',
		title: 'pH',
		symbol: 'pH',
		unit: 'pH',
		plausible: [7.6, 8.6],
		shown: [7.4, 8.8],
		hint: 'Swings through the day; note the hour.'
	},
	{
		id: 'temperature',
		title: 'Temperature',
		symbol: 'T',
		unit: 'C',
		plausible: [21, 29],
		shown: [20, 30],
		hint: 'Of the water.'
	},
	{
		id: 'ammonia',
		title: 'Ammonia',
		symbol: 'NH₄',
		unit: 'mg/L NH4',
		plausible: [0, 4],
		shown: [0, 4],
		hint: 'Only while a tank cycles, or when something died.'
	},
	{
		id: 'nitrite',
		title: 'Nitrite',
		symbol: 'NO₂',
		unit: 'mg/L NO2',
		plausible: [0, 5],
		shown: [0, 5],
		hint: 'Only while a tank cycles; many skip it from their second tank on.'
	},
	{
		id: 'hardness',
		title: 'General hardness',
		symbol: 'GH',
		unit: 'dGH',
		plausible: [0, 450],
		shown: [0, 450],
		hint: 'Calcium and magnesium together; of use for tap and purified water.'
	},
	{
		id: 'strontium',
		title: 'Strontium',
		symbol: 'Sr',
		unit: 'mg/L',
		plausible: [2, 20],
		shown: [0, 20],
		hint: 'Built into skeleton beside calcium.'
	},
	{
		id: 'iodine',
		title: 'Iodine',
		symbol: 'I',
		unit: 'mg/L',
		plausible: [0, 0.2],
		shown: [0, 0.2],
		hint: 'Used up fast; wide error.'
	},
	{
		id: 'iron',
		title: 'Iron',
		symbol: 'Fe',
		unit: 'mg/L',
		plausible: [0, 0.3],
		shown: [0, 0.3],
		hint: 'Feeds algae kept on purpose; wide error.'
	},
	{
		id: 'silicate',
		title: 'Silicate',
		symbol: 'Si',
		unit: 'mg/L',
		plausible: [0, 4],
		shown: [0, 4],
		hint: 'As SiO₂. Feeds diatoms; comes with tap water.'
	}
] as const satisfies Parameter[];

export type ParameterId = (typeof PARAMETERS)[number]['id'];

/**
 * The parameter of that name, or undefined for one of the keeper's own.
 *
 * @example parameterOf('alkalinity').unit // → 'dKH'
 */
export const parameterOf = (id: string): Parameter | undefined => PARAMETERS.find((p) => p.id === id);

/**
 * What a parameter is called where a name stands alone; one of the keeper's own by its id.
 *
 * @example titleOf('ph') // → 'pH'
 */
export const titleOf = (id: string): string => parameterOf(id)?.title ?? id;

/**
 * What a parameter is called within a sentence: small, but a symbol as it is written.
 *
 * @example nameInSentence('ph') // → 'pH'
 */
export const nameInSentence = (id: string): string => inSentence(titleOf(id));
/** A title within a sentence: small, but what begins small ("pH") as it is written. */
export const inSentence = (title: string): string => (/^[A-Z]/.test(title) ? title.toLowerCase() : title);
