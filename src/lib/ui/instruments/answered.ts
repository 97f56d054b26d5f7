import type { ReadingRequest } from '$core/methods';
import { alternatives } from '$core/misreadings';
import { draftOn, type Draft } from './draft';

/**
 * The instrument as it should stand if the keeper says yes to a question, as a change of the draft; undefined where the
 * misreading lies in the choice of method, which only the keeper can change.
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
