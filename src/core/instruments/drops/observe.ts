import { bad, good, type Outcome } from '../../base';
import { beyondEnd, lastDrop } from '../end-point';
import { rectangular, repeatability, type Observation } from '../observation';
import type { DropsMethod, DropsReading } from './schema';

/** Scatter of the mean drop from test to test, as a fraction: the bottle held a little aslant, a bubble. */
export const DEFAULT_DROP_RELATIVE = 0.02;

/**
 * Drops counted, confirming ones taken off where the kit does not count them. The last drop was needed only in part (`lastDrop`); each
 * doubtful drop is half a drop, rectangular between none and whole; drops differ in size.
 * Problems: more confirming or doubtful drops than drops.
 */
export function observeDrops(method: DropsMethod, reading: DropsReading): Outcome<Observation> {
	const { drops, confirming = 0, doubtful = 0 } = reading;
	if (confirming > drops) return bad('/reading/confirming', `cannot be more than the ${drops} drops counted`);
	if (doubtful > drops) return bad('/reading/doubtful', `cannot be more than the ${drops} drops counted`);
	const counted = method.countConfirming === false ? drops - confirming : drops;
	const oneDrop = rectangular(1 / 2);
	const endPoint = reading.hand?.endPoint;
	const errors = [
		...lastDrop(endPoint, method.endPoint, 1),
		repeatability('size of drops', counted * (method.uncertainty?.dropRelative ?? DEFAULT_DROP_RELATIVE))
	];
	if (doubtful > 0) errors.push(repeatability('doubtful drops', oneDrop * Math.sqrt(doubtful)));
	const beyond = beyondEnd(endPoint, method.endPoint) + doubtful / 2;
	return good({ kind: 'point', at: Math.max(0, counted - beyond), errors });
}
