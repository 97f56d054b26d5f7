import { repeatability, trueness } from './observation';
import type { Method } from './profile';
import type { Contribution, Hand, RawReading } from './schema';

/** The end of a titration by a hand that practice has measured: what one try scatters by, and how well its bias is known, which stays with the hand. */
export const ownEnd = (
	{ scatter, standardUncertainty }: NonNullable<Hand['endPoint']>,
	drop: number
): Contribution[] => [
	repeatability('your end point, by practice', scatter * drop),
	trueness('how well your end point is known', standardUncertainty * drop)
];

/** A kit whose chart allows for the drop that was too much has taken half a drop off already. */
const ALLOWED = 1 / 2;
/** How far past the chart's end this hand goes, in drops. */
export const beyondEnd = (
	{ bias }: NonNullable<Hand['endPoint']>,
	endPoint: 'mid-drop' | 'after-drop' | undefined
): number => bias - (endPoint === 'after-drop' ? ALLOWED : 0);

/**
 * What a hand is known for: one kind of instrument on one parameter. A colour that flips within a drop and one that turns slowly are not met alike.
 *
 * @example handFor(SHIPPED_METHODS[0]) // → 'syringe alkalinity'
 */
export const handFor = ({ reads, parameter }: Pick<Method, 'reads' | 'parameter'>): string =>
	`${reads} ${parameter}`;

/**
 * A raw reading with what practice has shown of the hand that read it. A photograph's reading needs no eye, and a display no hand.
 *
 * @example withHand({ drops: 12 }, { tries: 10, patches: 0.2 }).hand.tries // → 10
 */
export function withHand(reading: RawReading, hand: Hand | undefined): RawReading {
	if (!hand || 'shown' in reading || 'below' in reading || 'above' in reading) return reading;
	return { ...reading, hand } as RawReading;
}
