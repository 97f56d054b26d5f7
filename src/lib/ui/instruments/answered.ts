import { isKnownValue, type Method, type RawReading, type ReadingRequest } from '$core/methods';
import { typedAs } from '$lib/ui/habits';
import { valueFor } from '$lib/ui/mine';
import { alternatives } from '$core/slips';
import type { Draft } from './draft-reading';

/**
 * The instrument as it should stand if the keeper says yes to a question, as a change of the draft; undefined where the
 * slip lies in the choice of method, which only the keeper can change.
 */
export function answeredYes(
	request: ReadingRequest,
	slip: string,
	value: number,
	read: (r: ReadingRequest) => number | null
): Partial<Draft> | undefined {
	const meant = alternatives(request).find((a) => a.slip === slip && read(a.request) === value);
	if (!meant || meant.request.method !== request.method) return undefined;
	return {
		...draftOn(meant.request.method, meant.request.reading),
		...(meant.request.sample ? { sampleSize: meant.request.sample } : {})
	};
}

const text = (seen: number | [number, number]) => (typeof seen === 'number' ? String(seen) : seen.join('-'));

/** A raw reading as typed on a method: a value from elsewhere as this person counts it. */
export function draftOn(method: Method, reading: RawReading): Partial<Draft> {
	if (!isKnownValue(method)) return draftOf(reading);
	const mine = (x: number) => Number(typedAs(valueFor(method.parameter, x), 6).replace(',', '.'));
	if ('shown' in reading)
		return draftOf({
			...reading,
			shown: Array.isArray(reading.shown)
				? [mine(reading.shown[0]), mine(reading.shown[1])]
				: mine(reading.shown)
		});
	if ('below' in reading) return draftOf({ ...reading, below: mine(reading.below) });
	return 'above' in reading ? draftOf({ ...reading, above: mine(reading.above) }) : draftOf(reading);
}

/** A raw reading as typed, in the instrument's own numbers. */
export function draftOf(reading: RawReading): Partial<Draft> {
	const { dilution } = reading;
	const thinned: Partial<Draft> = dilution
		? {
				thinnedMl: String(dilution.sampleMl),
				withMl: String(dilution.waterMl),
				drawnWith: dilution.vessel ?? ''
			}
		: {};
	return { ...seenAs(reading), ...thinned };
}

function seenAs(reading: RawReading): Partial<Draft> {
	const seenPlunger = 'left' in reading || 'used' in reading ? reading.camera : undefined;
	if ('left' in reading)
		return { text: text(reading.left), readAs: 'left', refills: reading.refills ?? 0, seenPlunger };
	if ('used' in reading)
		return { text: text(reading.used), readAs: 'used', refills: reading.refills ?? 0, seenPlunger };
	if ('drops' in reading)
		return {
			text: String(reading.drops),
			doubtful: reading.doubtful ?? 0,
			confirming: reading.confirming ?? 0
		};
	const column = 'column' in reading ? (reading.column ?? '') : '';
	const photographed =
		'shown' in reading
			? {}
			: {
					column,
					...(reading.camera ? { seenShade: reading.camera } : {}),
					...(reading.eye ? { eye: reading.eye } : {})
				};
	if ('shade' in reading) return { text: String(reading.shade), ...photographed };
	if ('between' in reading) {
		const at = reading.position === undefined ? '' : ` @ ${reading.position}`;
		return {
			text: `${reading.between.join('-')}${at}`,
			placed: reading.position !== undefined,
			...photographed
		};
	}
	if ('below' in reading) return { text: `<${reading.below}`, ...photographed };
	if ('above' in reading) return { text: `>${reading.above}`, ...photographed };
	return {
		text: text(reading.shown),
		temperature:
			reading.temperatureC === undefined ? '' : typedAs(valueFor('temperature', reading.temperatureC), 4)
	};
}
