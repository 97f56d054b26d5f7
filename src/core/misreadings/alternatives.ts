import { instrumentOf, tagged, type RawReading, type Misread } from '../instruments';
import type { ReadingRequest } from '../methods';

/** What a keeper may have done instead of reading right, and the reading that would then be the true one. */
interface Alternative extends Omit<Misread<never, never>, 'method' | 'reading'> {
	request: ReadingRequest & { reading: RawReading };
}

/**
 * Every misreading this method allows, with what would have been read without it.
 *
 * @example alternatives({ method: SHIPPED_METHODS[0], reading: { left: 0.3 } }).some((a) => a.slip === 'left-used-swapped') // → true
 */
export function alternatives(request: ReadingRequest): Alternative[] {
	const { method } = request;
	const asked = { ...request, reading: tagged(method, request.reading) };
	const own = instrumentOf(method)
		.misreadings(method, asked.reading)
		.map(({ method: kit = method, reading = asked.reading, ...slip }) => ({
			...slip,
			request: { ...asked, method: kit, reading }
		}));
	return [...own, ...sampleMisreadings(asked), ...subtractionMisreadings(asked)];
}

/** The chart of one sample used with another. */
function sampleMisreadings(request: Alternative['request']): Alternative[] {
	const { method } = request;
	const samples = method.samples ?? [];
	const drawn = samples.find((s) => s.id === request.sample) ?? samples[0];
	return samples
		.filter((s) => s !== drawn)
		.map((s) => ({
			slip: 'sample-size',
			request: { ...request, sample: s.id },
			stretch: s.times / drawn!.times,
			ask: `Was it the ${s.id} sample, ${s.ml} mL?`
		}));
}

/** The other parameter had been taken away already. */
function subtractionMisreadings(request: Alternative['request']): Alternative[] {
	const { takeAway, ...method } = request.method;
	if (!takeAway) return [];
	return [
		{
			slip: 'not-subtracted',
			request: { ...request, method },
			stretch: 1,
			ask: `Was the ${takeAway.parameter} taken away already, by a fresh start of the syringe?`
		}
	];
}
