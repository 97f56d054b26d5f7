import { COVERAGE_95 } from '../statistics';
import { DAY, good, type Outcome } from '../base';
import {
	atLikeHours,
	caseOf,
	inUnitOf,
	isMadeToMove,
	isOdd,
	isYoung,
	targetIn,
	valueOf,
	type Case
} from './case';
import { cycle } from './cycle';
import { KINDS, type Judgement, type JudgeRequest, type JudgeResult } from './judge-schema';
import { order, ratio, salinity } from './neighbours';
import { healsFast, standing } from './standing';

/** Nutrients at nothing for this long are a state, not a reading: days. */
const LONG_ZERO = 21;

/** Below these nitrate and phosphate are nothing to a reef, mg/L. */
const NOTHING: Record<string, number> = { nitrate: 0.5, phosphate: 0.015 };

/** Two tests this near in time make a swing, days. */
const SWING_DAYS = 2;

/**
 * Everything that deserves attention, the worst first, as kinds and numbers; the sentences are the interface's. Values in
 * each parameter's unit. Nothing is concluded from the absence of tests: what was not tested for long is `unknown`.
 */
export function judge({ now, phase, targets, parameters }: JudgeRequest): Outcome<JudgeResult> {
	const at = Date.parse(now);
	const all = Object.entries(parameters).map(([parameter, known]) =>
		caseOf(parameter, known, targetIn(phase, parameter, known, targets[parameter]), at, phase)
	);
	// What was read by a chart that is not the keeper's says nothing, of itself or of others.
	const cases = all.filter((c) => c.tests[0]?.ownChart !== false);
	const of = (parameter: string) => cases.find((c) => c.parameter === parameter);
	const standings = all.flatMap((c) => standing(c, cases, at, phase));
	const judgements = [
		...standings,
		...salinity(cases),
		...order(standings, cases),
		...ratio(of('alkalinity'), of('calcium')),
		...cases.filter((c) => !isMadeToMove(phase, c.parameter)).flatMap(swing),
		...(phase === 'young' || phase === 'settled' ? cases.flatMap((c) => longZero(c, at)) : []),
		...(phase === 'cycling' ? cycle(of('ammonia'), of('nitrite'), of('nitrate')) : [])
	];
	return good({
		judgements: judgements.sort((a, b) => a.rank - b.rank || KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind))
	});
}

/** Two tests that differ by more than both their errors and what was done on purpose, and by more than is healthy in the time between. */
function swing(c: Case): Judgement[] {
	const [last, before] = c.tests;
	const healthy = c.target?.healthyPerDay;
	if (healthy === undefined || last?.value === undefined || before?.value === undefined || isOdd(c))
		return [];
	if (!isYoung(c)) return [];
	const apart = Date.parse(last.at) - Date.parse(before.at);
	const days = apart / DAY;
	if (days > SWING_DAYS || days <= 0) return [];
	const done = (c.known.recorded ?? [])
		.filter(({ at }) => Date.parse(at) > Date.parse(before.at) && Date.parse(at) <= Date.parse(last.at))
		.reduce((sum, { change }) => sum + change, 0);
	const difference = last.value - before.value - done;
	const error = Math.hypot(last.standardUncertainty ?? 0, before.standardUncertainty ?? 0);
	if (Math.abs(difference) <= Math.max(healthy * Math.max(1, days), COVERAGE_95 * error)) return [];
	if (healsFast(c.parameter, difference < 0)) return [];
	if (c.parameter === 'ph' && !atLikeHours(last, before)) return [];
	return [
		{
			kind: 'swing',
			parameter: c.parameter,
			rank: 1,
			numbers: { from: before.value, to: last.value, days, healthyPerDay: healthy },
			helps: 'test'
		}
	];
}

function longZero(c: Case, now: number): Judgement[] {
	const nothing = NOTHING[c.parameter];
	if (nothing === undefined || !c.target || c.target.lower <= 0 || !isYoung(c)) return [];
	const limit = inUnitOf(c, nothing);
	const some = c.tests.findIndex(
		(t) => !(t.below !== undefined ? t.below <= 2 * limit : (valueOf(t) ?? Infinity) < limit)
	);
	const quiet = some < 0 ? c.tests : c.tests.slice(0, some);
	const since = quiet.at(-1);
	if (quiet.length < 2 || !since || now - Date.parse(since.at) < LONG_ZERO * DAY) return [];
	return [
		{
			kind: 'long-zero',
			parameter: c.parameter,
			rank: 2,
			numbers: { days: (now - Date.parse(since.at)) / DAY, tests: quiet.length },
			helps: 'look'
		}
	];
}
