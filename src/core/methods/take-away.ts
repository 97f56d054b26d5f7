import { parametersWith, hasTrait, parameterOf } from '../catalogue';

/** What one titration of metals answers for together. */
export const TITRATED_TOGETHER: readonly string[] = parametersWith('metal');
/** g/mol of a metal. */
const massOf = (id: string): number | undefined =>
	hasTrait(id, 'metal') ? Object.values(parameterOf(id)?.ions ?? {})[0] : undefined;

/**
 * How many times another answer (mg/L) is taken away from a total that is titrated as if all of it were `parameter`: an atom of the other takes
 * as much titrant as one of its own. 1 where one of them is no metal by itself.
 *
 * @example timesTaken('magnesium', 'calcium') // → 0.6064
 */
export function timesTaken(parameter: string, other: string): number {
	const [own, its] = [massOf(parameter), massOf(other)];
	return own === undefined || its === undefined ? 1 : own / its;
}
