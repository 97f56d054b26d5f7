import { saltOf, type Salt } from './formula';

/** What is known of a pure salt beyond its formula. */
interface PureSalt {
	formula: string;
	title: string;
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
	{ formula: 'NaHCO3', title: 'Sodium bicarbonate', cautions: ['lowers-ph', 'apart'] },
	{ formula: 'KHCO3', title: 'Potassium bicarbonate', cautions: ['lowers-ph', 'apart'] },
	{
		formula: 'Na2CO3',
		title: 'Sodium carbonate',
		cautions: ['burns', 'raises-ph', 'apart']
	},
	{
		formula: 'Na2CO3.10H2O',
		title: 'Sodium carbonate, washing soda',
		cautions: ['burns', 'raises-ph', 'apart']
	},
	{
		formula: 'K2CO3',
		title: 'Potassium carbonate',
		cautions: ['burns', 'hot', 'raises-ph', 'apart']
	},
	{
		formula: 'NaOH',
		title: 'Sodium hydroxide',
		cautions: ['burns', 'hot', 'raises-ph', 'apart']
	},
	{
		formula: 'KOH',
		title: 'Potassium hydroxide',
		cautions: ['burns', 'hot', 'raises-ph', 'apart']
	},
	{
		formula: 'Ca(OH)2',
		title: 'Calcium hydroxide, for lime water',
		cautions: ['burns', 'raises-ph', 'apart']
	},
	{ formula: 'CaCl2', title: 'Calcium chloride, dry', cautions: ['hot', 'apart'] },
	{
		formula: 'CaCl2.2H2O',
		title: 'Calcium chloride dihydrate',
		cautions: ['hot', 'apart']
	},
	{ formula: 'CaCl2.6H2O', title: 'Calcium chloride hexahydrate', cautions: ['apart'] },
	{
		formula: 'Ca(NO3)2.4H2O',
		title: 'Calcium nitrate tetrahydrate',
		cautions: ['oxidises', 'feeds', 'apart']
	},
	{ formula: 'MgCl2.6H2O', title: 'Magnesium chloride hexahydrate', cautions: [] },
	{ formula: 'MgSO4', title: 'Magnesium sulphate, dry', cautions: ['hot'] },
	{ formula: 'MgSO4.7H2O', title: 'Magnesium sulphate heptahydrate', cautions: [] },
	{
		formula: 'Mg(NO3)2.6H2O',
		title: 'Magnesium nitrate hexahydrate',
		cautions: ['oxidises', 'feeds']
	},
	{ formula: 'KCl', title: 'Potassium chloride', cautions: [] },
	{ formula: 'K2SO4', title: 'Potassium sulphate', cautions: [] },
	{ formula: 'KNO3', title: 'Potassium nitrate', cautions: ['oxidises', 'feeds'] },
	{ formula: 'KH2PO4', title: 'Potassium dihydrogen phosphate', cautions: ['feeds'] },
	{ formula: 'NaNO3', title: 'Sodium nitrate', cautions: ['oxidises', 'feeds'] },
	{ formula: 'NaH2PO4', title: 'Sodium dihydrogen phosphate', cautions: ['feeds'] },
	{ formula: 'Na2HPO4', title: 'Disodium hydrogen phosphate', cautions: ['feeds'] },
	{
		formula: 'Na3PO4.12H2O',
		title: 'Trisodium phosphate dodecahydrate',
		cautions: ['burns', 'raises-ph', 'feeds']
	},
	{ formula: 'NaCl', title: 'Sodium chloride', cautions: [] },
	{ formula: 'Na2SO4', title: 'Sodium sulphate', cautions: [] },
	{ formula: 'SrCl2.6H2O', title: 'Strontium chloride hexahydrate', cautions: [] },
	{ formula: 'Sr(NO3)2', title: 'Strontium nitrate', cautions: ['oxidises', 'feeds'] }
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
