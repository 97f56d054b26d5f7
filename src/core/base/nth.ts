/**
 * The item at a place that is known to be there. Throws where it is not: that is a fault of ours, and better seen at once than as
 * nothing further on.
 *
 * @example nth(['a', 'b'], 1) // → 'b'
 */
export function nth<T>(list: readonly T[], place: number): T {
	const item = list[place];
	if (item === undefined) throw new RangeError(`nothing stands at ${place} of ${list.length}`);
	return item;
}

/**
 * The last item of a list that is known to have one.
 *
 * @example lastOf([1, 2, 3]) // → 3
 */
export const lastOf = <T>(list: readonly T[]): T => nth(list, list.length - 1);
