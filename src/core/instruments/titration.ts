import { good, type Outcome } from '../base';
import { sortedPoints } from '../statistics';
import type { Observation } from './observation';
import type { Table } from './profile-parts';
import { movedBy, scaledBy } from './transforms';

type Points = [number, number][];
/** A scale over what is used of a titrant: a line, or lines of a chart. */
type Scale = { kind: 'linear'; atZero?: number } | Table;

/** What is used for water that has nothing of the parameter: none, or all where it is titrated back. `points` over what is used. */
export function usedByNothing(scale: Scale, points: (table: Table) => Points): number {
	if (scale.kind === 'linear') return 0;
	const sorted = sortedPoints(points(scale));
	const [first, last] = [sorted[0]!, sorted.at(-1)!];
	if (last[1] >= first[1]) return 0;
	const before = sorted.at(-2)!;
	return last[0] - (last[1] * (last[0] - before[0])) / (last[1] - before[1] || -1e-12);
}

/** What was used through a line. */
export const throughLine = (seen: Observation, per: number, atZero = 0): Outcome<Observation> =>
	good(movedBy(scaledBy(seen, per), atZero));
