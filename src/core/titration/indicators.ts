import { bells, type Spectrum } from '../photograph';

/** One dye in the vial: absorbance of its two forms through the vial, and what turns it. */
interface Form {
	before: Spectrum;
	after: Spectrum;
	/** pH (total scale) at which half of it has turned; of metal indicators the constants of `turns`. */
	pK?: number;
}

/**
 * Indicators by their spectra: bands where textbooks have them, depths as drops and a level spoon make them in 20 mm of water. Acid dyes go by
 * their pK in sea water: bromocresol green 4.42 (Breland and Byrne 1993); methyl red about 4.8.
 */
export const INDICATORS = {
	'bromocresol green': {
		by: 'acid',
		turnsAt: 4.42,
		forms: [
			{
				before: bells([0.95, 614, 46], [0.25, 572, 28], [0.1, 400, 30]),
				after: bells([0.5, 444, 34]),
				pK: 4.42
			}
		]
	},
	'bromocresol green and methyl red': {
		by: 'acid',
		turnsAt: 4.55,
		forms: [
			{
				before: bells([0.95, 614, 46], [0.25, 572, 28], [0.1, 400, 30]),
				after: bells([0.5, 444, 34]),
				pK: 4.42
			},
			{ before: bells([0.28, 430, 36]), after: bells([0.85, 523, 32]), pK: 4.8 }
		]
	},
	calcon: {
		by: 'metal',
		forms: [
			{
				before: bells([0.8, 526, 44], [0.16, 420, 40]),
				after: bells([0.85, 600, 54], [0.4, 680, 50], [0.06, 420, 30])
			}
		]
	},
	eriochrome: {
		by: 'metal',
		forms: [
			{
				before: bells([0.8, 534, 44], [0.16, 430, 40]),
				after: bells([0.7, 612, 54], [0.3, 690, 50], [0.2, 470, 40])
			}
		]
	},
	'eriochrome screened with yellow': {
		by: 'metal',
		forms: [{ before: bells([0.8, 534, 44], [0.55, 430, 36]), after: bells([0.8, 625, 50], [0.55, 430, 36]) }]
	},
	'bromophenol blue': {
		by: 'titrant',
		/** Decimal logarithm of the constant with the titrant: half of it has turned where so little is left over. */
		constant: 5.3,
		forms: [{ before: bells([0.75, 436, 34]), after: bells([0.9, 603, 38]) }]
	}
} satisfies Record<
	string,
	{ by: 'acid' | 'metal' | 'titrant'; turnsAt?: number; constant?: number; forms: Form[] }
>;
export type Indicator = keyof typeof INDICATORS;

/** How much of a form of pK has turned at a pH: the acid is what it turns into (Henderson and Hasselbalch). */
export const turnedAt = (ph: number, pK: number): number => 1 / (1 + 10 ** (ph - pK));

/** What is titrated, with what it shows its end by where nothing else is asked for. */
export const USUAL_INDICATOR = {
	alkalinity: 'bromocresol green and methyl red',
	calcium: 'calcon',
	magnesium: 'eriochrome',
	hardness: 'eriochrome screened with yellow',
	potassium: 'bromophenol blue'
} satisfies Record<string, Indicator>;
export type Titrated = keyof typeof USUAL_INDICATOR;

/**
 * Decimal logarithms of conditional constants with EDTA and with the indicator (Harris, Quantitative Chemical Analysis; Ringbom 1963).
 * Calcium is titrated at pH 12.5, where magnesium lies on the bottom as hydroxide; magnesium and hardness at pH 10.
 */
export const CONSTANTS = {
	calcium: { calcium: { agent: 10.6, dye: 5.85 } },
	magnesium: { magnesium: { agent: 8.3, dye: 5.4 } },
	hardness: { magnesium: { agent: 8.3, dye: 5.4 }, calcium: { agent: 10.2, dye: 3.8 } },
	/** What is left of a precipitant is met one to one by a titrant that falls out with it. */
	potassium: { potassium: { agent: 8, dye: 0 } }
} satisfies Record<Exclude<Titrated, 'alkalinity'>, Record<string, { agent: number; dye: number }>>;

/** Indicator in the vial, mol/L: some drops or a level spoon. */
export const DYE_MOLAR = 2e-5;
