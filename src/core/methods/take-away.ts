import { ATOM } from '../quantities';

/** What one titration of metals answers for together. */
export const TITRATED_TOGETHER: readonly string[] = ['calcium', 'magnesium'];
const MASS: Record<string, number> = { calcium: ATOM.Ca, magnesium: ATOM.Mg };

/**
 * How many times another answer (mg/L) is taken away from a total that is titrated as if all of it were `parameter`: an atom of the other takes
 * as much titrant as one of its own. 1 where one of them is no metal by itself.
 *
 * @example timesTaken('magnesium', 'calcium') // → 0.6064
 */
export function timesTaken(parameter: string, other: string): number {
	const [own, its] = [MASS[parameter], MASS[other]];
	return own === undefined || its === undefined ? 1 : own / its;
}
