import { carbonateSystem, phOf } from '../seawater';
import type { Brings } from './composition';

/** Within these what becomes of pH and saturation is worked out: total scale, dKH, mg/L. */
export const AFTER_POUR = {
	ph: { minimum: 7, maximum: 9 },
	alkalinity: { minimum: 1, maximum: 20 },
	calcium: { minimum: 100, maximum: 900 }
};

/** Water a pour goes into: PSU, °C, total scale, dKH, mg/L. */
export interface PouredInto {
	salinity: number;
	temperatureC: number;
	ph: number;
	alkalinity: number;
	calcium: number;
}

/**
 * Saturation of aragonite that is never planned for in the tank: above it, on anything that lies about, carbonate falls out and takes
 * more with it (Moras et al. 2022, Biogeosciences 19, 3537: runaway above 7, advised below).
 */
export const OMEGA_TANK = 7;
/** And where the pour meets the water, for the moment it takes to mix: it falls out by itself from about 18 (Marion et al. 2009, Mar. Chem.). */
const OMEGA_POUR = 18;
/** pH there at which magnesium hydroxide clouds the water (brucite; Pokrovsky & Savenko 1995). */
const PH_POUR = 9.3;
/** How far one portion may move the pH of the whole tank: a third of a healthy day's (0.3). */
const PH_PORTION = 0.1;
/** Share of the water a slow pour into good flow meets at first: half a minute of a pump that turns the tank over twelve times an hour. */
const MEETS = 0.1;
/** More portions than this are not poured by hand: a dosing pump, or over night by drops. */
export const MOST_PORTIONS = 24;

/** pH and saturation of a water to which so much (mL or g) a litre was added, before it breathes. */
export function afterPour(
	water: PouredInto,
	brings: Brings,
	perL: number
): { ph: number; omega: number } | undefined {
	const { salinity: s, temperatureC: t, ph, alkalinity, calcium } = water;
	const before = carbonateSystem({ s, t, ph, dkh: alkalinity, calcium });
	if (!before) return undefined;
	const dkh = alkalinity + perL * (brings.raises['alkalinity'] ?? 0);
	const ca = calcium + perL * (brings.raises['calcium'] ?? 0);
	// mmol/L over kg/L is mmol/kg.
	const dic = before.dic + (perL * brings.carbon * 1000) / KG_PER_L;
	const after = phOf({ s, t, dkh }, 'dic', dic);
	if (after === undefined) return undefined;
	const omega = carbonateSystem({ s, t, ph: after, dkh, calcium: ca })?.omegaAragonite;
	return omega === undefined ? undefined : { ph: after, omega };
}
const KG_PER_L = 1.0233;

/**
 * In how many portions an amount (mL or g, into `litres`) has to be poured so that nothing falls out where it meets the water, and the
 * tank's pH moves little at once. More than `MOST_PORTIONS` means not by hand.
 */
export function portionsOf(amount: number, brings: Brings, litres: number, water: PouredInto): number {
	const moves = (brings.raises['alkalinity'] ?? 0) > 0 || (brings.raises['calcium'] ?? 0) > 0;
	if (!moves || !(amount > 0)) return 1;
	const safe = (portions: number): boolean => {
		const portion = amount / portions;
		const there = afterPour(water, brings, portion / (litres * MEETS));
		const all = afterPour(water, brings, portion / litres);
		return (
			there !== undefined &&
			all !== undefined &&
			there.omega <= OMEGA_POUR &&
			there.ph <= PH_POUR &&
			Math.abs(all.ph - water.ph) <= PH_PORTION
		);
	};
	if (safe(1)) return 1;
	// Less at once is always safer: by halving.
	let [low, high] = [1, MOST_PORTIONS + 1];
	while (high - low > 1) {
		const middle = Math.floor((low + high) / 2);
		if (safe(middle)) high = middle;
		else low = middle;
	}
	return high;
}
