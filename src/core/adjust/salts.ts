import { saltOf, type Anion, type Cation, type Salt } from './formula';

/**
 * What is known of a pure salt beyond its formula. `solubility`: g without water of crystallisation in 100 g of water at 20 °C
 * (Lange's Handbook of Chemistry, 15th ed., table 5.1).
 */
export interface PureSalt {
	formula: string;
	title: string;
	solubility: number;
	cautions: Caution[];
}

/** What to mind when a supplement is mixed or poured; sentences are the interface's. */
export const CAUTIONS = [
	/** Burns eyes and skin. */
	'burns',
	/** Grows hot in water: powder into water, never water onto powder. */
	'hot',
	/** Raises pH at once: in the morning, slowly, into flow. */
	'raises-ph',
	'lowers-ph',
	/** Calcium and alkalinity fall out where they meet. */
	'apart',
	/** Feeds algae and pests beyond what is meant. */
	'feeds',
	/** Feeds fire: away from what burns. */
	'oxidises'
] as const;
export type Caution = (typeof CAUTIONS)[number];

/** Pure salts that ship: chemistry, no brands. */
export const PURE_SALTS: PureSalt[] = [
	{ formula: 'NaHCO3', title: 'Sodium bicarbonate', solubility: 9.6, cautions: ['lowers-ph', 'apart'] },
	{ formula: 'KHCO3', title: 'Potassium bicarbonate', solubility: 33.7, cautions: ['lowers-ph', 'apart'] },
	{
		formula: 'Na2CO3',
		title: 'Sodium carbonate',
		solubility: 21.5,
		cautions: ['burns', 'raises-ph', 'apart']
	},
	{
		formula: 'Na2CO3.10H2O',
		title: 'Sodium carbonate, washing soda',
		solubility: 21.5,
		cautions: ['burns', 'raises-ph', 'apart']
	},
	{
		formula: 'K2CO3',
		title: 'Potassium carbonate',
		solubility: 111,
		cautions: ['burns', 'hot', 'raises-ph', 'apart']
	},
	{
		formula: 'NaOH',
		title: 'Sodium hydroxide',
		solubility: 109,
		cautions: ['burns', 'hot', 'raises-ph', 'apart']
	},
	{
		formula: 'KOH',
		title: 'Potassium hydroxide',
		solubility: 112,
		cautions: ['burns', 'hot', 'raises-ph', 'apart']
	},
	{
		formula: 'Ca(OH)2',
		title: 'Calcium hydroxide, for lime water',
		solubility: 0.173,
		cautions: ['burns', 'raises-ph', 'apart']
	},
	{ formula: 'CaCl2', title: 'Calcium chloride, dry', solubility: 74.5, cautions: ['hot', 'apart'] },
	{
		formula: 'CaCl2.2H2O',
		title: 'Calcium chloride dihydrate',
		solubility: 74.5,
		cautions: ['hot', 'apart']
	},
	{ formula: 'CaCl2.6H2O', title: 'Calcium chloride hexahydrate', solubility: 74.5, cautions: ['apart'] },
	{
		formula: 'Ca(NO3)2.4H2O',
		title: 'Calcium nitrate tetrahydrate',
		solubility: 129,
		cautions: ['oxidises', 'feeds', 'apart']
	},
	{ formula: 'MgCl2.6H2O', title: 'Magnesium chloride hexahydrate', solubility: 54.6, cautions: [] },
	{ formula: 'MgSO4', title: 'Magnesium sulphate, dry', solubility: 33.7, cautions: ['hot'] },
	{ formula: 'MgSO4.7H2O', title: 'Magnesium sulphate heptahydrate', solubility: 33.7, cautions: [] },
	{
		formula: 'Mg(NO3)2.6H2O',
		title: 'Magnesium nitrate hexahydrate',
		solubility: 69.5,
		cautions: ['oxidises', 'feeds']
	},
	{ formula: 'KCl', title: 'Potassium chloride', solubility: 34.2, cautions: [] },
	{ formula: 'K2SO4', title: 'Potassium sulphate', solubility: 11.1, cautions: [] },
	{ formula: 'KNO3', title: 'Potassium nitrate', solubility: 31.6, cautions: ['oxidises', 'feeds'] },
	{ formula: 'KH2PO4', title: 'Potassium dihydrogen phosphate', solubility: 22.6, cautions: ['feeds'] },
	{ formula: 'NaNO3', title: 'Sodium nitrate', solubility: 87.6, cautions: ['oxidises', 'feeds'] },
	{ formula: 'NaH2PO4', title: 'Sodium dihydrogen phosphate', solubility: 86.9, cautions: ['feeds'] },
	{ formula: 'Na2HPO4', title: 'Disodium hydrogen phosphate', solubility: 7.83, cautions: ['feeds'] },
	{
		formula: 'Na3PO4.12H2O',
		title: 'Trisodium phosphate dodecahydrate',
		solubility: 12.1,
		cautions: ['burns', 'raises-ph', 'feeds']
	},
	{ formula: 'NaCl', title: 'Sodium chloride', solubility: 35.9, cautions: [] },
	{ formula: 'Na2SO4', title: 'Sodium sulphate', solubility: 19.5, cautions: [] },
	{ formula: 'SrCl2.6H2O', title: 'Strontium chloride hexahydrate', solubility: 53.1, cautions: [] },
	{ formula: 'Sr(NO3)2', title: 'Strontium nitrate', solubility: 69.5, cautions: ['oxidises', 'feeds'] }
];

/** The shipped salt with the same ions and water, however the formula is spelt. */
export const pureSalt = (salt: Salt): PureSalt | undefined =>
	PURE_SALTS.find((known) => {
		const its = saltOf(known.formula);
		return (
			its.ok &&
			its.value.cation === salt.cation &&
			its.value.anion === salt.anion &&
			its.value.water === salt.water
		);
	});

/** Room an ion takes in water, mL/mol at 25 °C and no concentration (Millero 1971, Chem. Rev. 71, 147). */
const VOLUMES: Record<Cation | Anion, number> = {
	Na: -1.21,
	K: 9.02,
	Ca: -17.85,
	Mg: -21.17,
	Sr: -18.16,
	Cl: 17.83,
	SO4: 13.98,
	HCO3: 23.4,
	CO3: -4.3,
	OH: -4.04,
	NO3: 29,
	PO4: -15,
	HPO4: 4,
	H2PO4: 29.1
};
/** g/mL of water at 20 °C, and g/mol. */
const WATER_DENSITY = 0.9982;
const WATER_MASS = 18.015;
/** mL a gram of dry salt takes in a solution that is half salt by mass: what is common to densities in the CRC Handbook. */
const CROWDED = 0.35;

/**
 * Density of a solution at 20 °C, kg/L, from the share of its mass that is salt without water of crystallisation: the room a gram takes
 * grows from that of its ions alone in water to `CROWDED`. Within 4 % of the CRC Handbook's densities up to saturation.
 *
 * @example densityOf({ mass: 58.44, cation: 'Na', cations: 1, anion: 'Cl', anions: 1, water: 0 }, 0.26) // → 1.213
 */
export function densityOf(salt: Salt, share: number): number {
	const dry = salt.mass - salt.water * WATER_MASS;
	const alone = (salt.cations * VOLUMES[salt.cation] + salt.anions * VOLUMES[salt.anion]) / dry;
	const room = alone + (CROWDED - alone) * Math.min(1, share / 0.5);
	return 1 / ((1 - share) / WATER_DENSITY + share * room);
}

/** The most of a salt (g with its own water) that a litre of solution holds at 20 °C, by its solubility. */
export function mostPerL(salt: Salt, solubility: number): number {
	const share = solubility / (100 + solubility);
	const dry = 1000 * densityOf(salt, share) * share;
	return (dry * salt.mass) / (salt.mass - salt.water * WATER_MASS);
}
