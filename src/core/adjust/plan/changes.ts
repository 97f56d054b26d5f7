import { DAY } from '../../base';
import { COVERAGE_95 } from '../../statistics';
import type { CorrectRequest, CorrectResult, PlanStep } from './schema';

/** Less than this share of what is left to pour is no news. */
const NEWS = 0.1;

/** Why a plan made now is another than the one that is followed: what is known of a level now, and what was expected of it. */
export interface PlanChange {
	parameter: string;
	expected: number;
	now: number;
	/** Of the difference of both. */
	standardDeviation: number;
	/** What tells them apart: more than both errors, or not. */
	beyondNoise: boolean;
	/** By how much what is left to pour still moves the level, by the plan of before and of now, in `unit`, the parameter's own. */
	before: number;
	after: number;
	unit: string;
	/** Why nothing is poured for it, before and now; null: something may be. */
	refusedBefore: string | null;
	refusedNow: string | null;
}

/** Of a plan: what is done, and why not. */
type Made = Pick<CorrectResult, 'steps' | 'refused'>;
/** The plan that is followed. */
interface Followed {
	/** ISO 8601. */
	madeAt: string;
	request: Pick<CorrectRequest, 'days'>;
	result: Made & Pick<CorrectResult, 'path'>;
	/** By the place of a step: it was done, or left out. */
	done: Record<string, unknown>;
}

/**
 * What is known of levels now that the plan which is followed did not know, and what that makes of what is left to pour. `tested`: the
 * parameters measured since it was made; of others nothing is known that was not.
 * @example changesOf({ madeAt: '2026-05-01T08:00:00Z', request: { days: 14 }, result: { steps: [], refused: [], path: { alkalinity: [{ day: 0, mean: 7, sd: 0.1 }] } }, done: {} }, { now: '2026-05-01T20:00:00Z', parameters: [{ parameter: 'alkalinity', unit: 'dKH', now: { mean: 8, standardDeviation: 0.1 } }] }, { steps: [], refused: [] }, ['alkalinity'])[0].beyondNoise // → true
 */
export function changesOf(
	followed: Followed,
	request: {
		now: string;
		parameters: Pick<CorrectRequest['parameters'][number], 'parameter' | 'unit' | 'now'>[];
	},
	result: Made,
	tested: string[]
): PlanChange[] {
	const day = Math.max(0, Math.floor((Date.parse(request.now) - Date.parse(followed.madeAt)) / DAY));
	// A plan made now looks further ahead: both are compared by the days they share.
	const shared = followed.request.days - day;
	return request.parameters.flatMap(({ parameter, unit, now }): PlanChange[] => {
		const path = followed.result.path[parameter];
		const expected = path?.[Math.min(day, path.length - 1)];
		if (!expected || !tested.includes(parameter)) return [];
		const standardDeviation = Math.hypot(expected.sd, now.standardDeviation);
		const before = toPour(followed.result.steps, parameter, (_, place) => !followed.done[place]);
		const after = toPour(result.steps, parameter, (step) => step.day < shared);
		const change: PlanChange = {
			parameter,
			expected: expected.mean,
			now: now.mean,
			standardDeviation,
			beyondNoise: Math.abs(now.mean - expected.mean) > COVERAGE_95 * standardDeviation,
			before,
			after,
			unit,
			refusedBefore: refusalOf(followed.result, parameter),
			refusedNow: refusalOf(result, parameter)
		};
		const tells =
			change.beyondNoise ||
			change.refusedBefore !== change.refusedNow ||
			Math.abs(after - before) > NEWS * Math.max(after, before);
		return tells ? [change] : [];
	});
}

/** By how much the open doses for a parameter move it together, whatever they are of, in its own unit. */
const toPour = (
	steps: PlanStep[],
	parameter: string,
	isOpen: (step: PlanStep, place: number) => boolean
): number =>
	steps.reduce(
		(sum, step, place) =>
			step.kind === 'dose' && step.parameter === parameter && isOpen(step, place)
				? sum + (step.changes?.[parameter] ?? 0)
				: sum,
		0
	);

const refusalOf = (result: Made, parameter: string): string | null =>
	result.refused.find((r) => r.parameter === parameter)?.why ?? null;
