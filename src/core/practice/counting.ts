import type { Technique } from '../instruments';
import type { TechniqueResult } from './technique-schema';

/** What of a person's tries can be let count for a kind of instrument and a parameter, and by which lamp it was found. */
export interface Countable {
	instrument: string;
	parameter: string;
	light: string;
	/** Whether there are enough tries to go by. */
	enough: boolean;
	hand: Technique;
}

/**
 * What tries have shown, as readings take it. Who reads a plunger off by so much, and scatters by so much, reads each line of a syringe
 * within both.
 * @example countableOf({ endPoints: [], plunger: null, eyes: [] }) // → []
 */
export const countableOf = ({ endPoints, plunger, eyes }: TechniqueResult): Countable[] => [
	...endPoints.map((e): Countable => ({
		instrument: e.instrument,
		parameter: e.parameter,
		light: e.light,
		enough: e.enough,
		hand: {
			tries: e.tries,
			light: e.light,
			endPoint: { bias: e.bias, standardUncertainty: e.standardUncertainty, scatter: e.next },
			...(e.instrument === 'syringe' && plunger?.enough
				? { lines: Math.hypot(plunger.bias, plunger.next) }
				: {})
		}
	})),
	...eyes.map((e): Countable => ({
		instrument: 'shades',
		parameter: e.parameter,
		light: e.light,
		enough: e.enough,
		hand: { tries: e.looks, light: e.light, patches: e.scatter }
	}))
];
