import { ANIONS, CATIONS, ionMass, type Anion, type Cation, type Salt } from './formula';

/**
 * What dissolves, by pairs of ions: g of the salt without water of crystallisation in 100 g of water at 20 °C (Lange's Handbook of
 * Chemistry, 15th ed., table 5.1; CRC Handbook, 97th ed.). Bicarbonates of calcium and strontium are given as their carbonate dissolves under
 * a whole atmosphere of carbon dioxide (Plummer & Busenberg 1982; Busenberg et al. 1984): more stays in no bottle.
 */
const SOLUBILITY: Record<Cation, Partial<Record<Anion, number>>> = {
	Na: { Cl: 35.9, SO4: 19.5, HCO3: 9.6, CO3: 21.5, OH: 109, NO3: 87.6, PO4: 12.1, HPO4: 7.83, H2PO4: 86.9 },
	K: { Cl: 34.2, SO4: 11.1, HCO3: 33.7, CO3: 111, OH: 112, NO3: 31.6, PO4: 98.5, HPO4: 150, H2PO4: 22.6 },
	Ca: {
		Cl: 74.5,
		SO4: 0.2,
		HCO3: 0.14,
		CO3: 0.0006,
		OH: 0.173,
		NO3: 129,
		PO4: 0.002,
		HPO4: 0.02,
		H2PO4: 1.8
	},
	Mg: { Cl: 54.6, SO4: 33.7, CO3: 0.04, OH: 0.001, NO3: 69.5, PO4: 0.0003, HPO4: 0.03 },
	Sr: { Cl: 53.1, SO4: 0.013, HCO3: 0.1, CO3: 0.001, OH: 0.8, NO3: 69.5, PO4: 0.0001, HPO4: 0.003 }
};
/** Below this, g in 100 g, a salt is no supplement, as a powder either: it lies in the tank. */
const INSOLUBLE = 0.1;
/** Densities and temperatures are known to a twentieth; only what is surely too much is refused. */
const SLACK = 1.05;
/** Other salts let up to four times as much of a sparing one stay dissolved: gypsum in brine (Marshall & Slusher 1966). */
const SLACK_IN_BRINE = 4;
/** Below this, g in 100 g, a salt is a sparing one. */
const SPARING = 3;
/** A powder of several salts is dissolved to be poured: g in a litre. */
const POWDER_G_PER_L = 100;

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

/** g (with its own water) of a salt that a litre of solution holds at 20 °C; `undefined`: nobody measured it. */
export function mostPerL(salt: Salt): number | undefined {
	const solubility = SOLUBILITY[salt.cation][salt.anion];
	if (solubility === undefined) return undefined;
	const share = solubility / (100 + solubility);
	const dry = 1000 * densityOf(salt, share) * share;
	return (dry * salt.mass) / (salt.mass - salt.water * WATER_MASS);
}

/** A salt that does not dissolve to speak of. */
export const isInsoluble = ({ cation, anion }: Salt): boolean =>
	(SOLUBILITY[cation][anion] ?? Infinity) < INSOLUBLE;

/** More of one salt than a litre holds, g with its own water. */
export function isTooMuch(salt: Salt, gramsPerL: number): boolean {
	const most = mostPerL(salt);
	return most !== undefined && gramsPerL > most * SLACK;
}

/**
 * The salt that falls out of a solution of several, by the product of its ions' concentrations beside that of its own saturated solution;
 * `undefined`: all stays dissolved, or nobody measured it. `gramsPerL` of each with its own water; for powders, any amounts in
 * proportion (dissolved 100 g in a litre).
 *
 * @example fallsOut([{ salt: saltOf('CaCl2').value, gramsPerL: 50 }, { salt: saltOf('MgSO4').value, gramsPerL: 50 }])?.formula // → 'CaSO4'
 */
export function fallsOut(
	parts: { salt: Salt; gramsPerL: number }[],
	powder = false
): { formula: string } | undefined {
	if (parts.length < 2) return undefined;
	const total = parts.reduce((sum, p) => sum + p.gramsPerL, 0);
	const scale = powder ? POWDER_G_PER_L / total : 1;
	/** mol/L */
	const ions: Partial<Record<Cation | Anion, number>> = {};
	for (const { salt, gramsPerL } of parts) {
		const moles = (scale * gramsPerL) / salt.mass;
		ions[salt.cation] = (ions[salt.cation] ?? 0) + moles * salt.cations;
		ions[salt.anion] = (ions[salt.anion] ?? 0) + moles * salt.anions;
	}
	for (const cation of Object.keys(CATIONS) as Cation[])
		for (const anion of Object.keys(ANIONS) as Anion[]) {
			const [there, its] = [ions[cation], ions[anion]];
			const pair = pairOf(cation, anion);
			const most = mostPerL(pair);
			if (!there || !its || most === undefined) continue;
			const saturated = most / pair.mass;
			const sparing = (SOLUBILITY[cation][anion] ?? 0) < SPARING;
			const slack = sparing ? SLACK_IN_BRINE : SLACK;
			// Logarithms: products of five concentrations reach far.
			const above =
				pair.cations * Math.log(there / (slack * saturated * pair.cations)) +
				pair.anions * Math.log(its / (slack * saturated * pair.anions));
			// Bicarbonate falls out as the carbonate.
			if (above > 0) return pairOf(cation, anion === 'HCO3' && CATIONS[cation] === 2 ? 'CO3' : anion);
		}
	return undefined;
}

/** The salt of two ions, without water. */
function pairOf(cation: Cation, anion: Anion): Salt & { formula: string } {
	const [plus, minus] = [CATIONS[cation], ANIONS[anion].charge];
	const both = plus === minus ? plus : plus * minus;
	const [cations, anions] = [both / plus, both / minus];
	const count = (n: number) => (n > 1 ? String(n) : '');
	const group = anions > 1 && anion !== 'Cl' ? `(${anion})` : anion;
	return {
		formula: `${cation}${count(cations)}${group}${count(anions)}`,
		mass: cations * ionMass(cation) + anions * ionMass(anion),
		cation,
		cations,
		anion,
		anions,
		water: 0
	};
}

/** Salts that take up water from the air of a room and run: their saturated solutions stand below 55 % humidity (Greenspan 1977). */
const DELIQUESCENT: Partial<Record<Cation, Anion[]>> = {
	Na: ['OH'],
	K: ['OH', 'CO3'],
	Ca: ['Cl', 'NO3'],
	Mg: ['Cl', 'NO3']
};
/** A dry magnesium sulphate takes up water too, up to its seven. */
const FULL_OF_WATER = 7;
/** An opened bag of such a salt holds up to a tenth of water that nobody weighed, evenly (GUM 4.3.7). */
export const DAMP = { purity: 0.95, relativeError: 0.1 / Math.sqrt(12) } as const;

/** A salt that is damp once its bag is open. */
export const isDamp = ({ cation, anion, water }: Salt): boolean =>
	(DELIQUESCENT[cation]?.includes(anion) ?? false) ||
	(cation === 'Mg' && anion === 'SO4' && water < FULL_OF_WATER);
