import { possibleRange } from '../../quantities';
import { PARAMETERS } from '../../catalogue';
import type { Method } from '../../instruments';

/** Half-width of what a value of unknown origin may be off, as a fraction: what good kits promise. */
const UNKNOWN_RELATIVE = 0.05;

/** Last digit such values are given to, as a share of the plausible range: a hundredth of it, to a round step. */
function stepOf(range: readonly [number, number]): number {
	return 10 ** Math.floor(Math.log10((range[1] - range[0]) / 50));
}

/** For every parameter, a value somebody else read: a lab, a friend, an old note book. */
export const KNOWN_VALUES: Method[] = PARAMETERS.map((p) => {
	const [low, high] = possibleRange(p.id);
	const absolute = p.id === 'temperature' || p.id === 'ph';
	return {
		format: 'tevrik.method/1',
		id: `known-${p.id}`,
		name: `${p.title}, a value from elsewhere`,
		parameter: p.id,
		unit: p.unit,
		reads: 'display',
		display: {
			resolution: stepOf(p.plausible),
			...(absolute ? { absolute: 0.2 } : { relative: UNKNOWN_RELATIVE }),
			unit: p.unit,
			range: [low, Math.min(high, 1e6)]
		},
		notes:
			'For values from a lab or a note book. Their error is a guess: give the instrument where you know it.'
	};
});
