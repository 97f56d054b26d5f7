import { density, PARAMETERS } from '../catalogue';

/** Salinity at which reference sea water is stated, PSU. */
export const SEA_PSU = 35;
const TEMPERATURE = 25;

/**
 * Reference sea water thinned or thickened to a salinity (PSU), in own units: mg/L, alkalinity in dKH. What is dissolved goes with salinity.
 *
 * @example seaAt(35).calcium // → 421.6
 */
export function seaAt(salinity: number): Record<string, number> {
	const perL = ((salinity / SEA_PSU) * density(salinity, TEMPERATURE)) / 1000;
	return Object.fromEntries(
		PARAMETERS.flatMap(({ id, sea, unit, units }) => {
			const own = units.find(({ name }) => name === unit);
			return own && sea && 'perKg' in sea ? [[id, own.fromBase(sea.perKg * perL)]] : [];
		})
	);
}
