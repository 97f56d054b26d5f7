import { rectangular, repeatability, trueness } from './observation';
import type { Contribution, Technique } from './reading-parts';

/** The end of a titration by a hand that practice has measured: what one try scatters by, and how well its bias is known, which stays with the hand. */
const ownEnd = (
	{ scatter, standardUncertainty }: NonNullable<Technique['endPoint']>,
	drop: number
): Contribution[] => [
	repeatability('your end point, by practice', scatter * drop),
	trueness('how well your end point is known', standardUncertainty * drop)
];

/** A perfect hand stops when the drop is in that was not needed whole: on average half a drop past the end. */
const HALF = 1 / 2;
type Chart = 'mid-drop' | 'after-drop' | undefined;

/** How far past what the chart means this reading is, in drops. */
export const beyondEnd = (endPoint: Technique['endPoint'], chart: Chart): number =>
	(endPoint?.bias ?? HALF) - (chart === 'mid-drop' ? 0 : HALF);

/**
 * The last drop's errors. The end lies somewhere in it (rectangular over the drop, GUM 3.2.4), or where practice has measured that this
 * hand ends. Whether a leaflet's chart allows for the drop nobody says: if it does not, the true end is half a drop before (one-sided,
 * GUM 4.3.8); that stays with the kit, so a check with a reference finds it.
 */
export const lastDrop = (endPoint: Technique['endPoint'], chart: Chart, drop: number): Contribution[] => [
	...(endPoint ? ownEnd(endPoint, drop) : [repeatability('last drop', rectangular(drop / 2))]),
	...(chart === 'mid-drop'
		? []
		: [
				{
					...trueness('whether the chart allows for the last drop', HALF * drop * Math.SQRT1_2),
					mean: (-HALF * drop) / 2
				}
			])
];
