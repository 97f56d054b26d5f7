import type { GivenReading, Method } from '../instruments';
import type { Expected, Proved, ReadingRequest, Water } from './schema';

/** A reading whose value is taken away from another's: value and errors in its parameter's unit. */
interface TakenAway {
	parameter: string;
	value: number | null;
	standardUncertainty: number | null;
	/** The part that changes from test to test; the rest stays with its kit. */
	repeatability?: number | null;
}

/** What goes along with what was seen on an instrument. */
interface Circumstances {
	/** The id of the sample size; only methods that offer sizes have one, and `read` refuses another. */
	sampleSize?: string | undefined;
	/** What the method takes away; without a value of its own (a bound) it cannot be. */
	other?: TakenAway | undefined;
	/** What the water is expected to have, in the method's unit. */
	expected?: Expected | undefined;
	/** The tank's own where it is not said. */
	water?: Water | undefined;
	/** What checks have taught of the kit. */
	proved?: Proved | undefined;
}

/**
 * The question `read` answers, from what stands on an instrument. One place, so that the page, a session, a correction and the server
 * ask the same.
 *
 * @example readingRequest(SHIPPED_METHODS[0], { left: 0.48 }, { sampleSize: 'full' }).sample // → 'full'
 */
export function readingRequest<R extends GivenReading>(
	method: Method,
	reading: R,
	{ sampleSize, other, expected, water, proved }: Circumstances = {}
): ReadingRequest & { reading: R } {
	return {
		method,
		reading,
		...(sampleSize === undefined ? {} : { sample: sampleSize }),
		...(other ? takenAway(other) : {}),
		...(expected ? { expected } : {}),
		...(water === undefined || water === 'tank' ? {} : { water }),
		...(proved ? { proved } : {})
	};
}

function takenAway({
	parameter,
	value,
	standardUncertainty,
	repeatability
}: TakenAway): Pick<ReadingRequest, 'other'> {
	if (value === null || standardUncertainty === null) return {};
	const stays =
		repeatability == null
			? {}
			: { trueness: Math.sqrt(Math.max(0, standardUncertainty ** 2 - repeatability ** 2)) };
	return { other: { [parameter]: { value, standardUncertainty, ...stays } } };
}
