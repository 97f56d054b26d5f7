import type { Dilution, Method } from '../instruments';

/** What a dilution is drawn with by a keeper's hand: standard uncertainty of one draw, and the most of one, mL. */
const DRAWN_WITH: Record<NonNullable<Dilution['vessel']>, { off: number; most: number }> = {
	// A hundredth-marked syringe, its plunger's edge set by eye and its tip not always dry.
	'syringe-1': { off: 0.015, most: 1 },
	// Marks of 0.2 mL, set to a quarter of a mark.
	'syringe-5': { off: 0.05, most: 5 },
	pipette: { off: 0.05, most: 5 },
	// A meniscus at a line on a vial as wide as a thumb.
	line: { off: 0.1, most: Infinity }
};

/** Of the factor 1 + water/sample, as a fraction of it: both volumes are off by what they are drawn with, as often as it takes. */
export function dilutionError(method: Method, { sampleMl, waterMl, vessel }: Dilution): number {
	const { off, most } = DRAWN_WITH[vessel ?? 'syringe-5'];
	const one = vessel ? off : (method.uncertainty?.volumeMl ?? off);
	const share = (ml: number) => (one * Math.sqrt(Math.max(1, Math.ceil(ml / most)))) / ml;
	return (waterMl / (sampleMl + waterMl)) * Math.hypot(share(sampleMl), share(waterMl));
}
