import { nth } from '../base';
import { bench } from '../schedule';
import { inHandOf, isOver, window, type Run, type RunningTest } from './run';
import type { BenchRequest, BenchResult, BenchTest, Done } from '../schedule';

/** The rest of a run as it should go on, in seconds from its start, and the steps that cannot keep their time. */
export interface Rest {
	plan: BenchResult;
	late: { test: string; step: number }[];
}

/** How often windows may be held open longer before the plan is given up: each time for twice as long. */
const MOST_EASED = 40;
/** The first extra time a window is held open, s. */
const EASE_BY = 15;

/**
 * Plans what is left, from the moment of the last event, so that every device that knows the events has the same plan. A
 * window that cannot be kept is held open for as long as it takes, and named; where even that does not help, windows and
 * things are let go. Undefined where nothing is left.
 */
export function restOf(run: Run, effort = 8000): Rest | undefined {
	const request = requestOf(run, effort);
	if (!request.tests.length) return undefined;
	const eased = new Map<string, number>();
	const late: Rest['late'] = [];
	for (let i = 0; i < MOST_EASED; i++) {
		const outcome = bench(request);
		if (outcome.ok) return { plan: outcome.value, late };
		const [, index, step] = /^\/tests\/(\d+)\/steps\/(\d+)$/.exec(nth(outcome.problems, 0).path) ?? [];
		const test = request.tests[Number(index)];
		const before = test?.steps[Number(step) - 1];
		if (!test || !before?.then) break;
		const last = request.done!.find((d) => d.test === test.id && d.step === Number(step) - 1)!;
		const passed = request.now! - last.end! - before.then.wait;
		const extra = eased.get(test.id);
		eased.set(test.id, extra === undefined ? 0 : Math.max(EASE_BY, 2 * extra));
		before.then.within = Math.max(before.then.within ?? 0, passed) + eased.get(test.id)!;
		if (!late.some((l) => l.test === test.id)) late.push({ test: test.id, step: Number(step) });
	}
	return { plan: withoutRules(request), late };
}

/** A plan that keeps order and hands and nothing else: what is left is still to be done, windows and things or not. */
function withoutRules(request: BenchRequest): BenchResult {
	const tests = request.tests.map(({ id, steps, after }) => ({
		id,
		steps: steps.map(({ label, hands, then }) => ({
			label,
			hands,
			...(then ? { then: { wait: then.wait } } : {})
		})),
		...(after ? { after } : {})
	}));
	const { order: _order, equipment: _equipment, ...rest } = request;
	const outcome = bench({ ...rest, tests });
	if (!outcome.ok) throw new Error(`the rest cannot be planned: ${nth(outcome.problems, 0).message}`);
	return outcome.value;
}

/** What has happened and what is left, as a question to `bench`. */
function requestOf(run: Run, effort: number): BenchRequest {
	const seconds = (at: number) => Math.max(0, (at - run.startedAt) / 1000);
	const kept = run.tests.filter((t) => !t.dropped);
	const begun = (t: RunningTest) => t.done.length > 0 || inHandOf(run, t) !== undefined;
	const done = kept.flatMap((t): Done[] => [
		...t.done.map(({ step, start, end }) => ({
			test: t.id,
			step,
			start: seconds(start),
			end: seconds(end)
		})),
		...run.inHand
			.filter((h) => h.test === t.id)
			.map(({ test, step, since }) => ({ test, step, start: seconds(since) }))
	]);
	return {
		tests: kept.some((t) => !isOver(t)) ? kept.map((t) => testOf(t, kept)) : [],
		people: run.people,
		done,
		now: seconds(run.lastAt),
		// Whoever waits while a test could be begun has no time to lose later.
		prefer: 'early',
		order: run.order.filter((id) => kept.some((t) => t.id === id && !begun(t))),
		effort
	};
}

function testOf(test: RunningTest, kept: RunningTest[]): BenchTest {
	const after = (test.after ?? []).filter((id) => kept.some((t) => t.id === id));
	return {
		id: test.id,
		steps: test.steps.map(({ label, hands, then, uses }, i) => {
			// A wait cut short is over.
			const cut = test.early?.step === i + 1 ? window(test) : undefined;
			const wait = cut ? Math.max(0, (test.early!.at - cut.from) / 1000) : (then?.wait ?? 0);
			return {
				label,
				hands,
				...(then ? { then: { ...then, wait } } : {}),
				...(uses ? { uses } : {})
			};
		}),
		...(after.length && !test.done.length ? { after } : {})
	};
}

/** A step on the screen: before `from` there is nothing to do but wait for it. Instants in ms. */
export interface Turn {
	test: string;
	step: number;
	from: number;
	started: boolean;
}

/** What is in each pair of hands now, what comes next, and every clock that runs. */
export interface Moment {
	hands: Turn[];
	next?: Turn;
	clocks: Clock[];
}

/** A wait that runs. Instants in ms. */
export interface Clock {
	test: string;
	/** The step it leads to. */
	step: number;
	from: number;
	opens: number;
	closes?: number;
}

/** What a run shows, given the plan of its rest. */
export function momentOf(run: Run, rest: Rest | undefined): Moment {
	const clocks = run.tests
		.filter((t) => !isOver(t) && !inHandOf(run, t) && !t.early)
		.flatMap((t): Clock[] => {
			const span = window(t);
			return span && span.opens > span.from ? [{ test: t.id, step: t.done.length, ...span }] : [];
		})
		.sort((a, b) => a.opens - b.opens);
	const held = run.inHand.map(({ test, step, since }): Turn => ({ test, step, from: since, started: true }));
	const left = (rest?.plan.steps ?? []).flatMap(({ test, step, start }): Turn[] => {
		const known = run.tests.find((t) => t.id === test);
		return known && !isOver(known) && step >= known.done.length && inHandOf(run, known)?.step !== step
			? [{ test, step, from: run.startedAt + 1000 * start, started: false }]
			: [];
	});
	const ready = left.filter(
		(turn) =>
			run.tests.find((t) => t.id === turn.test)!.done.length === turn.step &&
			!inHandOf(run, { id: turn.test })
	);
	const taken = ready.slice(0, Math.max(0, run.people - held.length));
	const next = left.find((turn) => !taken.includes(turn));
	return { hands: [...held, ...taken], ...(next ? { next } : {}), clocks };
}
