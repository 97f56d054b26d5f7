import type { Problem } from '../base';
import { INSTRUMENTS, type Method, type RawReading } from './all';
import type { Instrument } from './instrument';
import type { GivenReading } from './schemas';

/**
 * What is known of the instrument a method is read by, or a reading was seen on.
 *
 * @example instrumentOf({ reads: 'syringe' }).name // → 'a syringe'
 */
export const instrumentOf = ({ reads }: Pick<Method, 'reads'>): Instrument<Method, RawReading> =>
	INSTRUMENTS[reads];

/**
 * A reading that belongs to another kind of instrument, as a problem.
 *
 * @example misfit({ reads: 'syringe' }, { drops: 12 }).message // → 'must give left or used: this method reads a syringe'
 */
export function misfit(method: Pick<Method, 'reads'>, reading: GivenReading): Problem | undefined {
	const { fields, name } = instrumentOf(method);
	if ((reading.reads ?? method.reads) === method.reads && fields.some((field) => field in reading))
		return undefined;
	return { path: '/reading', message: `must give ${fields.join(' or ')}: this method reads ${name}` };
}

/**
 * A raw reading with its tag. Those that are sent without it, and those that were stored before there was one, are of their method's kind.
 *
 * @example tagged({ reads: 'syringe' }, { left: 0.48 }) // → { reads: 'syringe', left: 0.48 }
 */
export const tagged = ({ reads }: Pick<Method, 'reads'>, reading: GivenReading): RawReading =>
	({ ...reading, reads }) as RawReading;

/**
 * What was seen, in a few words, for a table.
 *
 * @example seenInWords({ reads: 'syringe', left: 0.48 }) // → '0.48 left'
 */
export function seenInWords(reading: RawReading): string {
	const { dilution } = reading;
	const photographed = 'camera' in reading && reading.camera ? ', photographed' : '';
	return `${instrumentOf(reading).inWords(reading)}${photographed}${dilution ? `, diluted ${dilution.sampleMl} with ${dilution.waterMl} mL` : ''}`;
}
