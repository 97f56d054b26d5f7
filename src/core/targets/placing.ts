import { normalBelow } from '../probability';

export interface Band {
	lower: number;
	upper: number;
}

/** Where a value stands against a band, given its error. */
export interface Placing {
	state: 'inside' | 'unsure' | 'below' | 'above';
	/** Chance that the true value is inside, 0 to 1. */
	inside: number;
}

/**
 * From this chance on one side a value counts as in or out; between, the error is too wide to tell. One in six is about
 * what a standard deviation leaves on one side: a keeper who asks for more certainty repeats the test.
 */
const CLEAR = 5 / 6;

/** Places a value (standard uncertainty u, same unit) in a band. */
export function placeInBand(value: number, u: number, band: Band): Placing {
	const below = normalBelow((band.lower - value) / u);
	const above = 1 - normalBelow((band.upper - value) / u);
	const inside = Math.max(0, 1 - below - above);
	if (inside >= CLEAR) return { state: 'inside', inside };
	if (1 - inside < CLEAR) return { state: 'unsure', inside };
	return { state: below > above ? 'below' : 'above', inside };
}
