import { nth } from '../base';

/** A line of more points than a wide screen has for it looks the same with fewer. */
const MOST_POINTS = 700;

/**
 * Every so many of a long line's points, at most `most`, the last always among them.
 *
 * @example downsample([9, 8, 7, 6, 5, 4, 3], 3) // → [9, 6, 3]
 */
export function downsample<T>(points: T[], most = MOST_POINTS): T[] {
	const every = Math.ceil(points.length / most);
	return every <= 1 ? points : points.filter((_, i) => (points.length - 1 - i) % every === 0);
}

/** Marks that can be told apart across a wide screen. */
const MOST_MARKS = 500;

/**
 * Of many marks in order of time only the lowest and the highest of each of {@link MOST_MARKS} equal spans: what is drawn on
 * top of one another shows nothing more, what stands out stays. `y` is undefined for marks that are always kept.
 */
export function outermost<T>(marks: T[], at: (mark: T) => number, y: (mark: T) => number | undefined): T[] {
	if (marks.length <= 2 * MOST_MARKS) return marks;
	const from = at(nth(marks, 0));
	const width = (at(marks.at(-1)!) - from) / MOST_MARKS || 1;
	const ends = new Map<number, { low: T; high: T }>();
	const always = new Set<T>();
	for (const mark of marks) {
		const height = y(mark);
		if (height === undefined) always.add(mark);
		else {
			const span = Math.floor((at(mark) - from) / width);
			const { low, high } = ends.get(span) ?? { low: mark, high: mark };
			ends.set(span, { low: height < y(low)! ? mark : low, high: height > y(high)! ? mark : high });
		}
	}
	const kept = new Set([...always, ...[...ends.values()].flatMap(({ low, high }) => [low, high])]);
	return marks.filter((mark) => kept.has(mark));
}
