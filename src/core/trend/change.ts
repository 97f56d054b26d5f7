import { normalBelow } from '../statistics';

/** One answer as a change is judged: its value, its whole error, and the part that changes from test to test. */
interface Judged {
	value: number;
	standardUncertainty: number;
	repeatability: number;
	/** Two tests by the same method share what stays with the kit. */
	methodId: string;
}

export interface Change {
	difference: number;
	standardUncertainty: number;
	/** Chance that noise alone, with no change in the water, gives a difference at least this large. */
	noiseAlone: number;
	/** Whether it is more than the tests' noise: outside its own 95 % interval. */
	real: boolean;
}

/**
 * Judges the difference of two tests of one water; all in the same unit.
 *
 * @example changeBetween({ value: 8.4, standardUncertainty: 0.15, repeatability: 0.1, methodId: 'a' }, { value: 7.8, standardUncertainty: 0.15, repeatability: 0.1, methodId: 'a' }) // → { difference: -0.6, standardUncertainty: 0.1414, noiseAlone: 2.211e-05, real: true }
 */
export function changeBetween(earlier: Judged, later: Judged): Change {
	const difference = later.value - earlier.value;
	const u =
		earlier.methodId === later.methodId
			? Math.hypot(earlier.repeatability, later.repeatability)
			: Math.hypot(earlier.standardUncertainty, later.standardUncertainty);
	const noiseAlone = 2 * (1 - normalBelow(Math.abs(difference) / u));
	return { difference, standardUncertainty: u, noiseAlone, real: noiseAlone < 0.05 };
}
