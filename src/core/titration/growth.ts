import { type Light, type PrintedCard, patchOf, vialOf } from '../photograph';
import { seen, type Rgb } from './sight';

/** A comparator's dye as it grows after the last reagent: its card, and when it is due, s. */
export interface Growing {
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
