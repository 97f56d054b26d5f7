import type { DatedEvent, TrendResult } from '../trend';
import { SAME_SESSION, type LookAgain, type Trigger } from './due';
import { placeInBand, type Band } from './placing';
import { POISONS } from './schools';

/**
 * Why an estimate asks for the test it asks for: its newest test (by its index) is odd, the water moved, it is out of its band, or it is not
 * sure enough any more.
 */
export function whyLook(
	{ odd, moved, now: level }: Pick<TrendResult, 'odd' | 'moved' | 'now'>,
	newest: number,
	band: Band | undefined
): LookAgain {
	if (odd.some((o) => o.index === newest)) return 'odd';
	if (moved) return 'moved';
	const place = band && placeInBand(level.value, Math.max(level.standardDeviation, 1e-9), band);
	return place?.state === 'below' || place?.state === 'above' ? 'out' : 'unsure';
}

/**
 * Whether a test is asked for again on the session of the newest: a poison that is out of its band is tested twice, and no more. `before`: when
 * it was tested before the newest, ms.
 *
 * @example isAgainTonight('ammonia', 'out', undefined, 0) // → true
 */
export const isAgainTonight = (
	parameter: string,
	why: LookAgain,
	before: number | undefined,
	now: number
): boolean =>
	POISONS.includes(parameter) && why !== 'unsure' && (before === undefined || now - before >= SAME_SESSION);

/** What of that which happened asks for tests of its own. */
export function triggersOf(events: DatedEvent[]): Trigger[] {
	return events.flatMap((e): Trigger[] => {
		const at = new Date(e.at);
		if (e.kind === 'water-change') return [{ at, kind: 'water change' }];
		if (e.kind === 'death') return [{ at, kind: 'death' }];
		return [];
	});
}
