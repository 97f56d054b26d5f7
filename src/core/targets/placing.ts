import { COVERAGE_95, normalBelow } from '../statistics';

export interface Band {
	lower: number;
	upper: number;
}

/** Where a value stands against a band, given its error. */
export interface Placing {
	/** `edge`: near a limit; `unknown`: the error is too wide for the band. */
	state: 'inside' | 'edge' | 'unknown' | 'below' | 'above';
	/** Chance that the true value is inside, 0 to 1. */
	inside: number;
}

/**
 * From this chance on one side a value counts as in or out; between, the error is too wide to tell. One in six is about
 * what a standard deviation leaves on one side: a keeper who asks for more certainty repeats the test.
 */
const CLEAR = 5 / 6;
/** A 95 % interval whose half is wider than this share of the band covers most of it wherever it lies. */
const WIDE = 0.5;

/**
 * Places a value (standard uncertainty u, same unit) in a band. A band that begins at 0 has no lower limit: nothing lies below.
 *
 * @example placeInBand(8.3, 0.15, { lower: 7.5, upper: 9 }) // → { state: 'inside', inside: 1 }
 */
export function placeInBand(value: number, u: number, band: Band): Placing {
	const below = band.lower === 0 ? 0 : normalBelow((band.lower - value) / u);
	const above = 1 - normalBelow((band.upper - value) / u);
	const inside = Math.max(0, 1 - below - above);
	if (inside >= CLEAR) return { state: 'inside', inside };
	if (1 - inside < CLEAR)
		return { state: COVERAGE_95 * u > WIDE * (band.upper - band.lower) ? 'unknown' : 'edge', inside };
	return { state: below > above ? 'below' : 'above', inside };
}
