/**
 * Equilibrium constants of sea water at one atmosphere on the total pH scale, mol/kg of solution; `t` in °C, `s` in PSU.
 * Collected in Dickson, Sabine & Christian 2007 (PICES Special Publication 3), whose printed check values are the tests.
 */

/** Where the dissociation constants were measured, PSU (Lueker et al. 2000). */
export const CONSTANTS_HOLD = { from: 19, to: 43 };

export const kelvin = (t: number): number => t + 273.15;

/** First dissociation of carbonic acid (Lueker, Dickson & Keeling 2000; 2 to 35 °C, 19 to 43 PSU). */
export function k1(s: number, t: number): number {
	const T = kelvin(t);
	return 10 ** -(3633.86 / T - 61.2172 + 9.6777 * Math.log(T) - 0.011555 * s + 0.0001152 * s * s);
}

/** Second dissociation of carbonic acid (Lueker, Dickson & Keeling 2000). */
export function k2(s: number, t: number): number {
	const T = kelvin(t);
	return 10 ** -(471.78 / T + 25.929 - 3.16967 * Math.log(T) - 0.01781 * s + 0.0001122 * s * s);
}

/** Boric acid (Dickson 1990). */
export function kb(s: number, t: number): number {
	const T = kelvin(t);
	const r = Math.sqrt(s);
	return Math.exp(
		(-8966.9 - 2890.53 * r - 77.942 * s + 1.728 * s * r - 0.0996 * s * s) / T +
			(148.0248 + 137.1942 * r + 1.62142 * s) +
			(-24.4344 - 25.085 * r - 0.2474 * s) * Math.log(T) +
			0.053105 * r * T
	);
}

/** Water (Millero 1995), (mol/kg)². */
export function kw(s: number, t: number): number {
	const T = kelvin(t);
	return Math.exp(
		148.9652 -
			13847.26 / T -
			23.6521 * Math.log(T) +
			(118.67 / T - 5.977 + 1.0495 * Math.log(T)) * Math.sqrt(s) -
			0.01615 * s
	);
}

/** Solubility of CO2 (Weiss 1974), mol/kg/atm. */
export function k0(s: number, t: number): number {
	const h = kelvin(t) / 100;
	return Math.exp(
		93.4517 / h - 60.2409 + 23.3585 * Math.log(h) + s * (0.023517 - 0.023656 * h + 0.0047036 * h * h)
	);
}

/** Total boron (Uppström 1974), mol/kg: 0.232 mg/kg for each unit of chlorinity. */
export const totalBoron = (s: number): number => ((0.000232 / 10.811) * s) / 1.80655;

/** Solubility product of aragonite (Mucci 1983), (mol/kg)². */
export function kspAragonite(s: number, t: number): number {
	const T = kelvin(t);
	const r = Math.sqrt(s);
	return (
		10 **
		(-171.945 -
			0.077993 * T +
			2903.293 / T +
			71.595 * Math.log10(T) +
			(-0.068393 + 0.0017276 * T + 88.135 / T) * r -
			0.10018 * s +
			0.0059415 * s * r)
	);
}

/** Solubility product of calcite (Mucci 1983), (mol/kg)². */
export function kspCalcite(s: number, t: number): number {
	const T = kelvin(t);
	const r = Math.sqrt(s);
	return (
		10 **
		(-171.9065 -
			0.077993 * T +
			2839.319 / T +
			71.595 * Math.log10(T) +
			(-0.77712 + 0.0028426 * T + 178.34 / T) * r -
			0.07711 * s +
			0.0041249 * s * r)
	);
}

/**
 * What a sea water's acids and bases go by, for pH along a titration: PSU, °C; total scale, mol/kg.
 *
 * @example Math.log10(dissociation(35, 25).k1) // → -5.847
 */
export const dissociation = (s: number, t: number) => ({
	k1: k1(s, t),
	k2: k2(s, t),
	kb: kb(s, t),
	kw: kw(s, t),
	boron: totalBoron(s)
});
