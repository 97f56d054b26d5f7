import { nth } from '../base';

/** Half-width of a 95 % interval in standard uncertainties, normal distribution (GUM table G.1). */
export const COVERAGE_95 = 1.96;
/** So many standard uncertainties to one side hold 95 %, normal distribution (ibid.). */
export const ONE_SIDED_95 = 1.645;

/**
 * Chance that a standard normal number is below z. Absolute error under 7.5e-8 (Abramowitz & Stegun 26.2.17).
 *
 * @example normalBelow(1.96) // → 0.975
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

const CENTRE = [
	[
		-39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716,
		2.506628277459239
	],
	[-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572, 1]
];
const TAIL = [
	[
		-0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
		2.938163982698783
	],
	[0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416, 1]
];
const polynomial = (coefficients: number[], x: number): number =>
	coefficients.reduce((sum, c) => sum * x + c, 0);

/**
 * The standard normal number below which a chance lies, 0 to 1 (Acklam's rational functions; relative error under 1.2e-9).
 *
 * @example normalQuantile(0.975) // → 1.96
 */
export function normalQuantile(chance: number): number {
	if (chance <= 0) return -Infinity;
	if (chance >= 1) return Infinity;
	if (chance > 0.97575) return -normalQuantile(1 - chance);
	if (chance < 0.02425) {
		const q = Math.sqrt(-2 * Math.log(chance));
		return polynomial(nth(TAIL, 0), q) / polynomial(nth(TAIL, 1), q);
	}
	const q = chance - 0.5;
	return (q * polynomial(nth(CENTRE, 0), q * q)) / polynomial(nth(CENTRE, 1), q * q);
}

/**
 * Chance that a chi-square number of so many degrees of freedom lies above x: the regularised incomplete gamma function, by
 * its series below the mean and its continued fraction above (Abramowitz & Stegun 6.5.29, 6.5.31).
 *
 * @example chiSquareAbove(3.84, 1) // → 0.05004
 */
export function chiSquareAbove(x: number, freedom: number): number {
	if (!(x > 0)) return 1;
	const [a, z] = [freedom / 2, x / 2];
	const front = Math.exp(a * Math.log(z) - z - logGamma(a));
	if (z < a + 1) {
		let [term, sum] = [1 / a, 1 / a];
		for (let n = 1; n < 1000 && term > sum * 1e-12; n++) sum += term *= z / (a + n);
		return Math.max(0, 1 - front * sum);
	}
	// Lentz's method.
	let b = z + 1 - a;
	let c = 1e300;
	let d = 1 / b;
	let h = d;
	for (let n = 1; n < 1000; n++) {
		const an = -n * (n - a);
		b += 2;
		d = 1 / (an * d + b);
		c = b + an / c;
		const step = d * c;
		h *= step;
		if (Math.abs(step - 1) < 1e-12) break;
	}
	return Math.min(1, front * h);
}

/**
 * The chi-square number below which a chance lies, 0 to 1: by halving what `chiSquareAbove` says.
 *
 * @example chiSquareQuantile(0.95, 4) // → 9.488
 */
export function chiSquareQuantile(chance: number, freedom: number): number {
	let [low, high] = [0, freedom + 1];
	while (chiSquareAbove(high, freedom) > 1 - chance && high < 1e9) high *= 2;
	for (let i = 0; i < 100; i++) {
		const middle = (low + high) / 2;
		if (chiSquareAbove(middle, freedom) > 1 - chance) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}

/** Natural logarithm of the gamma function for x > 0 (Stirling's series, shifted to where it holds to 1e-10). */
function logGamma(x: number): number {
	let shift = 0;
	let at = x;
	for (; at < 10; at++) shift += Math.log(at);
	const series = 1 / (12 * at) - 1 / (360 * at ** 3) + 1 / (1260 * at ** 5);
	return (at - 0.5) * Math.log(at) - at + 0.5 * Math.log(2 * Math.PI) + series - shift;
}
