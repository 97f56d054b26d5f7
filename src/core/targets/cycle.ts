import { DAY, nth } from '../base';
import { inUnitOf, isYoung, valueOf, type Case } from './case';
import type { JudgedTest, Judgement } from './judge-schema';

/** A cycle is over when so many tests in a row, over so many days, see nothing; and what is nothing, mg/L. */
const QUIET_TESTS = 3;

const QUIET_DAYS = 2;

const QUIET: Record<string, number> = { ammonia: 0.15, nitrite: 0.1 };
/**
 * A card that sees nothing says "below its first step": the best that it can say. That is enough while the step itself is harmless, mg/L: of 0.3
 * of ammonia a fifteenth is free at pH 8.2 and 25 °C, 0.02, over half of what harms (see `NH3_HARMS`); nitrite harms in sea water from
 * several mg/L on. A coarser kit cannot tell.
 */
const COARSEST: Record<string, number> = { ammonia: 0.3, nitrite: 0.5 };

/** Nitrate fit for the first fish, as a multiple of the school's ideal: the usual upper limit of the schools. */
const NITRATE_OF_IDEAL = 2.5;

/** Most of the water that one change takes. */
const LARGEST_CHANGE = 0.9;

const isQuiet = (c: Case, t: JudgedTest): boolean =>
	t.below === undefined
		? (valueOf(t) ?? Infinity) <= inUnitOf(c, QUIET[c.parameter]!)
		: t.below <= inUnitOf(c, COARSEST[c.parameter]!);

/** How many of the newest tests in a row see nothing, over how many days, and whether there was anything before them. */
function quietOf(c: Case) {
	const not = c.tests.findIndex((t) => !isQuiet(c, t));
	const tests = not < 0 ? c.tests : c.tests.slice(0, not);
	const days = tests.length ? (Date.parse(nth(tests, 0).at) - Date.parse(tests.at(-1)!.at)) / DAY : 0;
	return {
		parameter: c.parameter,
		tests: tests.length,
		days,
		wasLoud: c.tests.slice(tests.length).some((t) => t.below === undefined && !isQuiet(c, t)),
		/** What its kit says "below" of, where that says too little. */
		coarse: not < 0 || not >= QUIET_TESTS ? undefined : nth(c.tests, not).below
	};
}

/** What a cycle waits for: a finer kit, more quiet tests, newer ones, nitrite's own; nothing where it is over. */
function waitsFor(chain: Case[], tests: number, days: number, coarse: boolean) {
	if (tests < QUIET_TESTS || days < QUIET_DAYS) return coarse ? 'coarse' : 'quiet';
	if (!chain.every(isYoung)) return 'age';
	return chain.length < 2 ? 'nitrite' : undefined;
}

/** Whether the cycle of a cycling tank is over: neither ammonia nor nitrite seen in several tests of several days, where there was ammonia before. */
export function cycle(
	ammonia: Case | undefined,
	nitrite: Case | undefined,
	nitrate: Case | undefined
): Judgement[] {
	if (!ammonia?.tests.length) return [];
	const chain = [ammonia, ...(nitrite?.tests.length ? [nitrite] : [])];
	const quiet = chain.map(quietOf);
	// Nitrate may come with the water or the rock; what has to be seen is ammonia that was there and went.
	const began = nth(quiet, 0).wasLoud;
	const coarse = quiet.find((q) => q.coarse !== undefined);
	const tests = Math.min(...quiet.map((q) => q.tests));
	const days = Math.min(...quiet.map((q) => q.days));
	const waiting = waitsFor(chain, tests, days, coarse !== undefined);
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
					reason: began ? waiting! : 'not begun',
					...(began && waiting === 'coarse' && coarse
						? { coarse: coarse.parameter, below: coarse.coarse! }
						: {})
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
