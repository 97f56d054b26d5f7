import { DYES, PAPER, patchOf, through, vialOf, type Dye, type Light, type PrintedCard } from '../photograph';
import { seen, type Rgb } from './sight';

/** A comparator's dye as it grows after the last reagent: its card, and when it is due, s. */
interface Growing {
	card: PrintedCard;
	dueSeconds: number;
	withinSeconds: number;
}

/** When it is due the dye has grown to this share of all it will: first-order growth. */
const GROWN_WHEN_DUE = 0.97;
/** Past its time reagents colour the water by themselves: by so much of its own in each span it may be read within. */
const CREEPS = 0.12;

/**
 * How deep a vial stands against what its card allows for, 1 when it is due: paler before, deeper after.
 *
 * @example grownTo({ dueSeconds: 300, withinSeconds: 120 }, 100) // → 0.7106
 */
export function grownTo({ dueSeconds, withinSeconds }: Omit<Growing, 'card'>, seconds: number): number {
	const rate = -Math.log(1 - GROWN_WHEN_DUE) / dueSeconds;
	const grown = Math.min(1, (1 - Math.exp(-rate * Math.max(0, seconds))) / GROWN_WHEN_DUE);
	const late = Math.max(0, seconds - dueSeconds - withinSeconds) / withinSeconds;
	return grown + CREEPS * late;
}

/** Colours of a vial of so much, some seconds after its last reagent, and of its card's patches, in a light. */
export const vialColour = (growing: Growing, value: number, seconds: number, light: Light): Rgb =>
	seen(vialOf(growing.card, value * grownTo(growing, seconds)), light);
export const patchColours = ({ card }: Growing, light: Light): Rgb[] =>
	card.values.map((v) => seen(patchOf(card, v), light));

/**
 * Comparators by Beer and Lambert: the dye each gives, its absorbance through 20 mm for one of the parameter's unit, and when it is due. As
 * shipped kits have their waits.
 */
export const COMPARATORS = {
	nitrate: { dye: 'pink', perUnit: 0.05, dueSeconds: 300, withinSeconds: 120 },
	nitrite: { dye: 'pink', perUnit: 0.8, dueSeconds: 180, withinSeconds: 120 },
	phosphate: { dye: 'blue', perUnit: 1.6, dueSeconds: 300, withinSeconds: 180 },
	ammonia: { dye: 'green', perUnit: 0.3, dueSeconds: 900, withinSeconds: 300 },
	silicate: { dye: 'yellow', perUnit: 0.35, dueSeconds: 600, withinSeconds: 300 }
} satisfies Record<string, { dye: Dye; perUnit: number; dueSeconds: number; withinSeconds: number }>;
export type Compared = keyof typeof COMPARATORS;

/** The colour of a vial of so much of what is compared, s after its last reagent, in a light. */
export function comparedColour(of: Compared, value: number, seconds: number, light: Light): Rgb {
	const { dye, perUnit, ...growing } = COMPARATORS[of];
	const deep = perUnit * value * grownTo(growing, seconds);
	return seen(
		through(
			PAPER,
			DYES[dye].map((v) => v * deep)
		),
		light
	);
}
