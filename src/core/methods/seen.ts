import type { RawReading } from './schema';

/** More than any instrument shows: what a value of another unit came to is not written out. */
const DIGITS = 6;
const short = (seen: number) => String(Number(seen.toPrecision(DIGITS)));
const text = (seen: number | [number, number]) =>
	typeof seen === 'number' ? short(seen) : seen.map(short).join('-');

/**
 * What was seen, in a few words, for a table.
 *
 * @example seenInWords({ left: 0.48 }) // → '0.48 left'
 */
export function seenInWords(reading: RawReading): string {
	const { dilution } = reading;
	const photographed = 'camera' in reading && reading.camera ? ', photographed' : '';
	return `${inFewWords(reading)}${photographed}${dilution ? `, diluted ${dilution.sampleMl} with ${dilution.waterMl} mL` : ''}`;
}

function inFewWords(reading: RawReading): string {
	if ('left' in reading) return `${text(reading.left)} left${fills(reading.refills)}`;
	if ('used' in reading) return `${text(reading.used)} used${fills(reading.refills)}`;
	if ('drops' in reading)
		return [
			`${reading.drops} drops`,
			reading.confirming ? `${reading.confirming} confirming` : '',
			reading.doubtful ? `${reading.doubtful} doubtful` : ''
		]
			.filter(Boolean)
			.join(', ');
	if ('shade' in reading) return `shade ${reading.shade}`;
	if ('between' in reading) return `between ${reading.between.join(' and ')}`;
	if ('below' in reading) return `below ${short(reading.below)}`;
	if ('above' in reading) return `above ${short(reading.above)}`;
	return `${text(reading.shown)} shown`;
}
const fills = (refills: number | undefined) => (refills ? ` + ${refills} full` : '');
