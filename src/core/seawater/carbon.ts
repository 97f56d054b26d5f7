import { carbonateSystem, type Water } from './seawater';

/** Between these every water of these pages has its pH, total scale. */
const PH_RANGE = [4, 12] as const;
const HALVINGS = 50;

/**
 * The pH (total scale) at which a water of that salinity, temperature and alkalinity holds so much inorganic carbon (`dic`, µmol/kg) or
 * stands under so much carbon dioxide (`pco2`, µatm): both fall as pH rises, so by halving. Undefined where none does.
 *
 * @example phOf({ s: 35, t: 25, dkh: 6.6 }, 'pco2', 420) // → 8.025
 */
export function phOf(
	water: Omit<Water, 'ph' | 'calcium'>,
	by: 'dic' | 'pco2',
	wanted: number
): number | undefined {
	let [low, high] = PH_RANGE as unknown as [number, number];
	for (let i = 0; i < HALVINGS; i++) {
		const ph = (low + high) / 2;
		// So high a pH that hydroxide alone is more than the alkalinity: nothing of carbon is left.
		const its = carbonateSystem({ ...water, calcium: undefined, ph })?.[by] ?? -1;
		if (its > wanted) low = ph;
		else high = ph;
	}
	return high - PH_RANGE[0] < 1e-9 || PH_RANGE[1] - low < 1e-9 ? undefined : (low + high) / 2;
}
