import { density, valueIn } from '../quantities';

/** Salinity at which reference sea water is stated, PSU. */
export const SEA_PSU = 35;
/** At 35 PSU, per kg of it: ions in mg (Millero et al. 2008, Deep-Sea Res. I 55, 50, table 4), alkalinity in meq (ibid.). */
const PER_KG: Record<string, number> = { calcium: 412, magnesium: 1284, potassium: 399, strontium: 7.9 };
const ALKALINITY_PER_KG = 2.3;
const TEMPERATURE = 25;

/**
 * Reference sea water thinned or thickened to a salinity (PSU), in own units: mg/L, alkalinity in dKH. What is dissolved goes with salinity.
 *
 * @example seaAt(35).calcium // → 421.6
 */
export function seaAt(salinity: number): Record<string, number> {
	const perL = ((salinity / SEA_PSU) * density(salinity, TEMPERATURE)) / 1000;
	return {
		...Object.fromEntries(Object.entries(PER_KG).map(([parameter, mg]) => [parameter, mg * perL])),
		alkalinity: valueIn('alkalinity', ALKALINITY_PER_KG * perL, 'meq/L', 'dKH')
	};
}
