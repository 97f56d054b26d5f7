import { interpolate, type Points } from '../statistics';
import { density, salinityFromConductivity, salinityFromDensity } from '../catalogue';

/** What an instrument for salinity truly sees. */
export const READS_BY = ['refraction', 'density', 'conductivity'] as const;
export type ReadsBy = (typeof READS_BY)[number];

/**
 * What an instrument for salinity goes by, of its form and its unit; `undefined` where they do not say.
 *
 * @example readsBy('hydrometer', 'SG 25/25') // → 'density'
 */
export function readsBy(
	form: string | undefined | null,
	unit: string | undefined | null
): ReadsBy | undefined {
	if (form === 'refractometer') return 'refraction';
	if (form === 'hydrometer') return 'density';
	return unit?.startsWith('mS/cm') ? 'conductivity' : undefined;
}

/** °C at which glasses are read, and at which meters give conductivity. */
const [GLASS_C, METER_C] = [20, 25];
const MOLAR_MASS = 58.44;
/** g/mL of pure water. */
const PURE = 0.9982;
/** g/mL of sodium chloride by its mass in per cent, 20 °C (CRC Handbook, 97th ed., concentrative properties). */
const DENSITY: Points = [
	[0, PURE],
	[1, 1.0053],
	[2, 1.0125],
	[3, 1.0196],
	[4, 1.0268],
	[5, 1.034],
	[6, 1.0413],
	[7, 1.0486],
	[8, 1.0559]
];
/**
 * Rise of the refractive index (589 nm, 20 °C) for a per cent of sodium chloride (the same table: 1.3330 to 1.3505 at ten), and for one PSU of sea
 * water (Quan & Fry 1995, Applied Optics 34, 3477).
 */
const RISE_PER_PERCENT = 0.00175;
const RISE_PER_PSU = 1.829e-4;
/** mS/cm a mol/L by the root of mol/L, 25 °C (Robinson & Stokes 1959, appendix 6.3). */
const MOLAR_CONDUCTIVITY: Points = [
	[Math.sqrt(0.005), 120.59],
	[Math.sqrt(0.01), 118.45],
	[Math.sqrt(0.05), 111.01],
	[Math.sqrt(0.1), 106.69],
	[Math.sqrt(0.2), 101.71],
	[Math.sqrt(0.5), 93.62],
	[1, 85.76]
];
/** How well those tables tell a salinity, as a share: the last digit of the index is 0.3 PSU at 35. */
export const TABLES = 0.005;

/**
 * PSU that an instrument reads in a solution of so many g of sodium chloride in a litre: it is not sea salt, and refracts, floats and conducts each as
 * another salinity. `undefined` beyond the tables (0.3 to 58 g/L).
 *
 * @example salinityRead('refraction', 37.4) // → 34.94
 */
export function salinityRead(by: ReadsBy, gramsPerL: number): number | undefined {
	if (by === 'conductivity') {
		const molar = gramsPerL / MOLAR_MASS;
		const its = interpolate(MOLAR_CONDUCTIVITY, Math.sqrt(molar));
		return its && salinityFromConductivity(molar * its.value, METER_C);
	}
	// g/L over a share of itself: density hardly changes.
	let percent = gramsPerL / 10;
	for (let i = 0; i < 8; i++) percent = gramsPerL / 10 / (interpolate(DENSITY, percent)?.value ?? NaN);
	const its = interpolate(DENSITY, percent);
	if (!its) return undefined;
	return by === 'refraction'
		? (percent * RISE_PER_PERCENT) / RISE_PER_PSU
		: salinityFromDensity((its.value / PURE) * density(0, GLASS_C), GLASS_C);
}
