import { instrumentOf, tagged, type Misreading } from '../instruments';
import type { ReadingRequest } from '../methods';
import { alternatives } from '../misreadings';

/**
 * A reading as it would be given by someone who makes this misreading, or undefined where the misreading is not possible on this
 * reading. The reading is sought whose alternative under that misreading is what was truly seen.
 */
export function misread(
	request: ReadingRequest,
	slip: Misreading,
	random: () => number
): ReadingRequest | undefined {
	const candidates = forward(request, slip, random);
	return candidates[Math.floor(random() * candidates.length)];
}

function forward(request: ReadingRequest, slip: Misreading, random: () => number): ReadingRequest[] {
	const { method } = request;
	// The alternative of the alternative is the reading.
	if (slip === 'sample-size')
		return alternatives(request).flatMap((a) => (a.slip === slip ? [a.request] : []));
	return instrumentOf(method)
		.misread(method, tagged(method, request.reading), slip, random)
		.map((reading) => ({ ...request, reading }))
		.filter((r) => slip !== 'decimal' || alternatives(r).some((a) => a.slip === slip));
}
