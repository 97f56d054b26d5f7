import { MINUTE } from '../base';
import { isOver, type Run, type RunningTest } from './run';
import type { Rest } from './remaining';

/** A time in which a pair of hands has nothing to do, ms since 1970. `waiting`: the test whose clock ends it; none after the last step. */
interface FreeTime {
	from: number;
	to: number;
	waiting?: string;
}
/** Something to pour, and the parameters it moves. */
export interface Pour {
	place: number;
	moves: string[];
}
/** When it is poured: in the wait of a test, or after the last one. */
export interface PouredAt {
	place: number;
	at: number;
	waiting?: string;
}

/** Measuring an amount and pouring it slowly into flow, ms. */
const POURING = MINUTE;

/** Where hands are free in the rest of a run, from now on; the last is without end. */
export function freeTimes(run: Run, rest: Rest | undefined, now: number): FreeTime[] {
	const steps = (rest?.plan.steps ?? [])
		.map(({ test, start, end }) => ({
			test,
			from: run.startedAt + 1000 * start,
			to: run.startedAt + 1000 * end
		}))
		.filter((s) => s.to > now)
		.sort((a, b) => a.from - b.from);
	const free: FreeTime[] = [];
	let at = now;
	for (const { from, test } of steps) {
		// Hands are free until the step that takes the last pair.
		const busy = steps.filter((s) => s.from <= from && s.to > from).length;
		if (busy < run.people) continue;
		if (from > at) free.push({ from: at, to: from, waiting: test });
		const over = steps.filter((s) => s.from <= from && s.to > from).map((s) => s.to);
		at = Math.max(at, Math.min(...over));
	}
	return [...free, { from: at, to: Infinity }];
}

/**
 * Places what is to be poured in the waits of a run, one after the other. Nothing is poured before the water is drawn of a test that measures
 * what it moves: it would measure the pour.
 */
export function pourTimes(
	run: Run,
	rest: Rest | undefined,
	now: number,
	pours: Pour[],
	measures: (test: RunningTest) => string | undefined
): PouredAt[] {
	const free = freeTimes(run, rest, now);
	const drawnAt = (test: RunningTest): number => {
		if (test.done[0]) return test.done[0].end;
		const first = rest?.plan.steps.find((s) => s.test === test.id && s.step === 0);
		return first ? run.startedAt + 1000 * first.end : now;
	};
	let at = now;
	return pours.flatMap(({ place, moves }): PouredAt[] => {
		const drawn = run.tests.filter((t) => !isOver(t) && moves.includes(measures(t) ?? '')).map(drawnAt);
		const from = Math.max(at, ...drawn);
		const gap = free.find((f) => f.to - Math.max(f.from, from) >= POURING);
		if (!gap) return [];
		const when = Math.max(gap.from, from);
		at = when + POURING;
		return [{ place, at: when, ...(gap.waiting === undefined ? {} : { waiting: gap.waiting }) }];
	});
}
