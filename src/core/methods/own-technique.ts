import { instrumentOf, type Technique, type Method, type RawReading } from '../instruments';

/**
 * What a hand is known for: one kind of instrument on one parameter. A colour that flips within a drop and one that turns slowly are not met alike.
 *
 * @example techniqueFor(SHIPPED_METHODS[0]) // → 'syringe alkalinity'
 */
export const techniqueFor = ({ reads, parameter }: Pick<Method, 'reads' | 'parameter'>): string =>
	`${reads} ${parameter}`;

/**
 * A raw reading with what practice has shown of the hand that read it. A photograph's reading needs no eye, and a display no hand.
 *
 * @example withTechnique({ reads: 'drops', drops: 12 }, { tries: 10, patches: 0.2 }).hand.tries // → 10
 */
export function withTechnique(reading: RawReading, hand: Technique | undefined): RawReading {
	return hand ? (instrumentOf(reading).withTechnique?.(reading, hand) ?? reading) : reading;
}
