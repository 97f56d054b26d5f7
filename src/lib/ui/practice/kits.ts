import { nth } from '$core/base';
import type { PrintedCard } from '$core/photograph';
import { ATOM, CAO_PER_DEGREE, MOLECULE } from '$core/catalogue';
import { SEA, endPointOf, type Indicator, type Recipe, type Titrated, type VialWater } from '$core/titration';

/** A kit to practise with: of nobody's make, in the strengths of those that ship with Tevrik. */
export interface PracticeKit {
	parameter: string;
	title: string;
	unit: string;
	reads: 'syringe' | 'drops';
	analyte: Titrated;
	sampleMl: number;
	molar: number;
	indicator: Indicator;
	/** Of the syringe, or of what a squeeze of the bottle gives at most. */
	fillMl: number;
	graduationMl: number;
	dropMl: number;
	readAs: 'left' | 'used';
	flipped: boolean;
	/** What it turns from and to, in words. */
	turns: [string, string];
}

const syringe = { reads: 'syringe', fillMl: 1, graduationMl: 0.01, dropMl: 0.012 } as const;
const bottle = { reads: 'drops', fillMl: 4, graduationMl: 0.05, dropMl: 0.05 } as const;

export const KITS = {
	alkalinity: {
		...syringe,
		parameter: 'alkalinity',
		title: 'Alkalinity, syringe',
		unit: 'dKH',
		analyte: 'alkalinity',
		sampleMl: 6,
		molar: 0.036,
		indicator: 'bromocresol green and methyl red',
		readAs: 'left',
		flipped: false,
		turns: ['blue', 'rose']
	},
	calcium: {
		...syringe,
		parameter: 'calcium',
		title: 'Calcium, syringe',
		unit: 'mg/L',
		analyte: 'calcium',
		sampleMl: 5,
		molar: 0.0625,
		indicator: 'calcon',
		readAs: 'left',
		flipped: true,
		turns: ['rose', 'clear blue']
	},
	calciumUsed: {
		...syringe,
		parameter: 'calcium',
		title: 'Calcium, by what was used',
		unit: 'mg/L',
		analyte: 'calcium',
		sampleMl: 5,
		molar: 0.0625,
		indicator: 'calcon',
		graduationMl: 0.02,
		readAs: 'used',
		flipped: true,
		turns: ['rose', 'clear blue']
	},
	total: {
		...syringe,
		parameter: 'magnesium',
		title: 'Calcium and magnesium together',
		unit: 'mg/L',
		analyte: 'hardness',
		sampleMl: 2,
		molar: 0.2,
		indicator: 'eriochrome screened with yellow',
		readAs: 'used',
		flipped: true,
		turns: ['red', 'green']
	},
	alkalinityDrops: {
		...bottle,
		parameter: 'alkalinity',
		title: 'Alkalinity, drops',
		unit: 'dKH',
		analyte: 'alkalinity',
		sampleMl: 10,
		molar: 0.05,
		indicator: 'bromocresol green',
		readAs: 'used',
		flipped: false,
		turns: ['blue', 'yellow']
	},
	potassiumDrops: {
		...bottle,
		parameter: 'potassium',
		title: 'Potassium, filtered, drops',
		unit: 'mg/L',
		analyte: 'potassium',
		sampleMl: 1.25,
		molar: 0.00625,
		indicator: 'bromophenol blue',
		readAs: 'used',
		flipped: false,
		turns: ['yellow', 'blue']
	}
} satisfies Record<string, PracticeKit>;
export type KitName = keyof typeof KITS;

/** Comparators to practise with: their cards, and when they are due. */
export const CARDS = {
	nitrate: {
		parameter: 'nitrate',
		title: 'Nitrate, card',
		unit: 'mg/L NO3',
		form: 'card',
		card: { values: [0, 2, 5, 10, 20, 40], dye: 'pink', top: 1.1, flattens: 2.2, ink: 0.3 },
		dueSeconds: 300,
		withinSeconds: 120
	},
	phosphate: {
		parameter: 'phosphate',
		title: 'Phosphate, wheel',
		unit: 'mg/L PO4',
		form: 'wheel',
		card: { values: [0, 0.02, 0.05, 0.1, 0.2, 0.4, 0.8], dye: 'blue', top: 1.2, flattens: 1.5, ink: 0.3 },
		dueSeconds: 300,
		withinSeconds: 180
	},
	nitrateBlock: {
		parameter: 'nitrate',
		title: 'Nitrate, sliding block',
		unit: 'mg/L NO3',
		form: 'block',
		card: { values: [1, 5, 10, 25, 50, 100], dye: 'yellow', top: 1.4, flattens: 2.5, ink: 0.2 },
		dueSeconds: 600,
		withinSeconds: 180
	}
} satisfies Record<
	string,
	{
		parameter: string;
		title: string;
		unit: string;
		form: 'card' | 'wheel' | 'block';
		card: PrintedCard;
		dueSeconds: number;
		withinSeconds: number;
	}
>;
export type CardName = keyof typeof CARDS;

/** A comparator's clock runs so many times faster than a real one: a minute is six seconds. */
export const FASTER = 10;
/** What such a clock shows, s, of one that began at a moment of performance.now(). */
export const clockSince = (since: number): number => ((performance.now() - since) / 1000) * FASTER;
/** "4:05". */
export const clockFace = (seconds: number): string =>
	`${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** Sea water with this much of what a kit measures. */
function waterWith(kit: PracticeKit, value: number): VialWater {
	if (kit.analyte === 'hardness') {
		const mmolar = SEA.calcium / ATOM.Ca + value / ATOM.Mg;
		return { ...SEA, magnesium: value, hardness: (mmolar * MOLECULE.CaO) / CAO_PER_DEGREE };
	}
	return { ...SEA, [kit.parameter]: value };
}

export const recipeOf = (kit: PracticeKit, value: number, sampleShare = 1): Recipe => ({
	analyte: kit.analyte,
	water: waterWith(kit, value),
	sampleMl: kit.sampleMl * sampleShare,
	molar: kit.molar,
	indicator: kit.indicator
});

/** mL to the end, and the value each mL stands for: a kit's chart is made for its own end point. */
export function chartOf(kit: PracticeKit, value: number, sampleShare = 1): { endMl: number; perMl: number } {
	const endMl = endPointOf(recipeOf(kit, value, sampleShare)).ml ?? 1;
	const counted = kit.analyte === 'hardness' ? value + (SEA.calcium * ATOM.Mg) / ATOM.Ca : value;
	return { endMl, perMl: counted / endMl };
}

/** A value so many patches along a card, and where on it a value stands; both go straight on past its ends. */
export function valueAtPlace({ values }: PrintedCard, place: number): number {
	const i = Math.max(0, Math.min(values.length - 2, Math.floor(place)));
	return nth(values, i) + (place - i) * (nth(values, i + 1) - nth(values, i));
}
export function placeOfValue({ values }: PrintedCard, value: number): number {
	const i = Math.max(
		0,
		Math.min(
			values.length - 2,
			values.findLastIndex((v) => v <= value)
		)
	);
	return i + (value - nth(values, i)) / (nth(values, i + 1) - nth(values, i));
}
