/**
 * Sea water at atmospheric pressure: practical salinity from conductivity (PSS-78) and density (EOS-80).
 * Source: UNESCO Technical Papers in Marine Science 44 (Fofonoff & Millard 1983). Temperatures in °C (IPTS-68,
 * which differs from a thermometer of today by 0.006 °C at most here), conductivity in mS/cm, density in kg/m³.
 */

/** mS/cm at 35 PSU and 15 °C: Culkin & Smith 1980, the constant PSS-78 is used with. */
const CONDUCTIVITY_35_15 = 42.914;

/** Both scales are defined up to 42 PSU; to here they go on smoothly enough for a tank that has run dry (0.1 PSU: Poisson et al. 1991). */
export const MAX_SALINITY = 50;

const polynomial = (x: number, ...c: number[]) => c.reduceRight((sum, ci) => sum * x + ci, 0);

/** Conductivity at 35 PSU and t over that at 35 PSU and 15 °C. */
const rt35 = (t: number) => polynomial(t, 0.6766097, 2.00564e-2, 1.104259e-4, -6.9698e-7, 1.0031e-9);

/** Practical salinity from the conductivity ratio at t, Rt = C(S,t) / C(35,t). */
function salinityFromRatio(ratio: number, t: number): number {
	const root = Math.sqrt(Math.max(ratio, 0));
	const k = (t - 15) / (1 + 0.0162 * (t - 15));
	const s =
		polynomial(root, 0.008, -0.1692, 25.3851, 14.0941, -7.0261, 2.7081) +
		k * polynomial(root, 0.0005, -0.0056, -0.0066, -0.0375, 0.0636, -0.0144);
	if (s >= 2) return s;
	// Below 2 PSU the polynomial does not go to zero; extension of Hill, Dauphinee & Woods 1986.
	const x = 400 * ratio;
	const y = 100 * ratio;
	return s - 0.008 / (1 + 1.5 * x + x * x) - (0.0005 * k) / (1 + Math.sqrt(y) + y ** 1.5);
}

/**
 * PSU from conductivity in mS/cm measured at (or compensated to) t °C.
 *
 * @example salinityFromConductivity(53.0, 25) // → 34.95
 */
export const salinityFromConductivity = (conductivity: number, t: number): number =>
	salinityFromRatio(conductivity / (CONDUCTIVITY_35_15 * rt35(t)), t);

/**
 * mS/cm at t °C of water of the given practical salinity.
 *
 * @example conductivityOf(35, 25) // → 53.06
 */
export const conductivityOf = (salinity: number, t: number): number =>
	salinity <= 0 ? 0 : inverse((c) => salinityFromConductivity(c, t), salinity, 0, 3 * CONDUCTIVITY_35_15);

/**
 * kg/m³ at one atmosphere (EOS-80).
 *
 * @example density(35, 25) // → 1023
 */
export function density(salinity: number, t: number): number {
	const pure = polynomial(t, 999.842594, 6.793952e-2, -9.09529e-3, 1.001685e-4, -1.120083e-6, 6.536332e-9);
	const a = polynomial(t, 8.24493e-1, -4.0899e-3, 7.6438e-5, -8.2467e-7, 5.3875e-9);
	const b = polynomial(t, -5.72466e-3, 1.0227e-4, -1.6546e-6);
	return pure + a * salinity + b * salinity ** 1.5 + 4.8314e-4 * salinity ** 2;
}

/**
 * Specific gravity: density over that of pure water, both at t °C.
 *
 * @example specificGravity(35, 25) // → 1.026
 */
export const specificGravity = (salinity: number, t: number): number => density(salinity, t) / density(0, t);

/**
 * PSU from specific gravity at t °C over pure water at t °C.
 *
 * @example salinityFromSpecificGravity(1.0264, 25) // → 35.04
 */
export const salinityFromSpecificGravity = (sg: number, t: number): number =>
	inverse((s) => specificGravity(s, t), sg, 0, MAX_SALINITY + 1);

/**
 * PSU from density in kg/m³ at t °C.
 *
 * @example salinityFromDensity(1023.34, 25) // → 35
 */
export const salinityFromDensity = (rho: number, t: number): number =>
	inverse((s) => density(s, t), rho, 0, MAX_SALINITY + 1);

/** Where a rising function takes the given value: bisection, 60 halvings reach double precision. */
function inverse(f: (x: number) => number, target: number, low: number, high: number): number {
	for (let i = 0; i < 60; i++) {
		const middle = (low + high) / 2;
		if (f(middle) < target) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}
