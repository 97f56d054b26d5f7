/** A jug is filled up to its line within a hundredth of its volume, standard uncertainty. */
const JUG = 0.01;
/** A scale whose step is not said is off by a hundredth of what it weighs. */
const UNKNOWN_SCALE = 0.01;

/**
 * A salt that was weighed and filled up with water: how strong the solution is, g/L, and its standard uncertainty as a share.
 * @param step of the scale, g; it is off by up to half of it, all as likely (GUM 4.3.7)
 * @example weighed(80, 1, 1) // → { gramsPerL: 80, relativeError: 0.0106 }
 */
export function weighed(
	grams: number,
	litres: number,
	step: number | undefined
): { gramsPerL: number; relativeError: number } {
	const scale = step === undefined ? UNKNOWN_SCALE : step / Math.sqrt(12) / grams;
	return {
		gramsPerL: Number((grams / litres).toPrecision(6)),
		relativeError: Math.min(0.5, Number(Math.hypot(scale, JUG).toPrecision(3)))
	};
}
