/** A test that is due within so many days of another is done with it: sensible sessions rather than a test every day. */
const TOGETHER = 2;

/**
 * Tests by the day they are done on, soonest first: what is overdue is done today, and what is due within two days of the first of an
 * session is done with it.
 * @param due soonest first
 * @param dayOf days from today
 * @param most days ahead that are still of interest
 * @example dueTogether([-3, 1, 2, 5, 99], (d) => d, 60) // → [{ day: 0, tests: [-3, 1, 2] }, { day: 5, tests: [5] }]
 */
export function dueTogether<T>(
	due: T[],
	dayOf: (test: T) => number,
	most: number
): { day: number; tests: T[] }[] {
	const sessions: { day: number; tests: T[] }[] = [];
	for (const test of due) {
		const day = Math.max(0, dayOf(test));
		if (day > most) continue;
		const last = sessions.at(-1);
		if (last && day - last.day <= TOGETHER) last.tests.push(test);
		else sessions.push({ day, tests: [test] });
	}
	return sessions;
}
