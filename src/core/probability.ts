/**
 * Chance that a standard normal number is below z. Absolute error under 7.5e-8 (Abramowitz & Stegun 26.2.17).
 */
export function normalBelow(z: number): number {
	const t = 1 / (1 + 0.2316419 * Math.abs(z));
	const density = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
	const tail =
		density *
		t *
		(0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
	return z >= 0 ? 1 - tail : tail;
}
