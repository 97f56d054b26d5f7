import { numeral } from '$lib/ui/habits';

/** A plunger's place, or two it lies between, mL. */
export type Plunger = number | [number, number];

/** A plunger's place as written: to the graduation where it stands on a line, one digit more between two. */
export function written(ml: number, graduationMl: number): string {
	const decimals = Math.max(2, Math.ceil(-Math.log10(graduationMl / 2) - 1e-9));
	const onLine = Math.abs(ml / graduationMl - Math.round(ml / graduationMl)) < 1e-6;
	return numeral(ml, onLine ? Math.max(2, decimals - 1) : decimals);
}

export const writtenBoth = (ml: Plunger, graduationMl: number): string =>
	typeof ml === 'number'
		? written(ml, graduationMl)
		: `${written(ml[0], graduationMl)} to ${written(ml[1], graduationMl)}`;

/** What was used where this is left, and the other way round, of a filling of so many mL. */
export const complement = (ml: Plunger, fillMl: number): Plunger =>
	typeof ml === 'number' ? fillMl - ml : [fillMl - ml[1], fillMl - ml[0]];
