import { nth } from '../nth';
import { inUnitOf, isYoung, valueOf, type Case } from './case';
import type { JudgedTest, Judgement } from './judge-schema';

const DAY = 86_400_000;
/** A cycle is over when so many tests in a row, over so many days, see nothing; and what is nothing, mg/L. */
const QUIET_TESTS = 3;

const QUIET_DAYS = 2;

const QUIET: Record<string, number> = { ammonia: 0.15, nitrite: 0.1 };

/** Nitrate fit for the first fish, as a multiple of the school's ideal: the usual upper edge of the schools. */
const NITRATE_OF_IDEAL = 2.5;

/** Most of the water that one change takes. */
const LARGEST_CHANGE = 0.9;

/** Whether the cycle of a cycling tank is over: neither ammonia nor nitrite seen in several tests of several days, where there was ammonia before. */
export function cycle(
	ammonia: Case | undefined,
	nitrite: Case | undefined,
	nitrate: Case | undefined
): Judgement[] {
	if (!ammonia?.tests.length) return [];
	const isQuiet = (c: Case, t: JudgedTest) =>
		(t.below ?? valueOf(t) ?? Infinity) <= inUnitOf(c, QUIET[c.parameter]!);
	const quietOf = (c: Case) => {
		const loud = c.tests.findIndex((t) => !isQuiet(c, t));
		const tests = loud < 0 ? c.tests : c.tests.slice(0, loud);
		const days = tests.length ? (Date.parse(nth(tests, 0).at) - Date.parse(tests.at(-1)!.at)) / DAY : 0;
		return { tests: tests.length, days, wasLoud: loud >= 0 };
	};
	const chain = [ammonia, ...(nitrite?.tests.length ? [nitrite] : [])];
	const quiet = chain.map(quietOf);
	// Nitrate may come with the water or the rock; what has to be seen is ammonia that was there and went.
	const began = nth(quiet, 0).wasLoud;
	const tests = Math.min(...quiet.map((q) => q.tests));
	const days = Math.min(...quiet.map((q) => q.days));
	const waiting =
		tests < QUIET_TESTS || days < QUIET_DAYS
			? 'quiet'
			: !chain.every(isYoung)
				? 'age'
				: chain.length < 2
					? 'nitrite'
					: undefined;
	const over = began && !waiting;
	if (!over)
		return [
			{
				kind: 'cycle-waits',
				parameter: 'ammonia',
				rank: 3,
				numbers: {
					tests,
					days,
					wantedTests: QUIET_TESTS,
					wantedDays: QUIET_DAYS,
					reason: began ? waiting! : 'not begun'
				},
				helps: 'test'
			}
		];
	const level = nitrate && isYoung(nitrate) ? nitrate.known.now.value : undefined;
	const wanted = nitrate?.target?.ideal === undefined ? undefined : NITRATE_OF_IDEAL * nitrate.target.ideal;
	const change = level !== undefined && wanted !== undefined && level > wanted ? 1 - wanted / level : 0;
	return [
		{
			kind: 'cycle-over',
			parameter: 'ammonia',
			rank: 3,
			numbers: {
				tests,
				days,
				...(level === undefined ? {} : { nitrate: level }),
				...(change ? { change: Math.min(LARGEST_CHANGE, change), wanted: wanted! } : {})
			},
			also: ['nitrite'],
			helps: 'look'
		}
	];
}
