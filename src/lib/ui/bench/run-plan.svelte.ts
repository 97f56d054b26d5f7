import type { Method } from '$core/instruments';
import type { RunTest } from '$core/run';
import type { BenchRequest, BenchResult } from '$core/schedule';
import { openPlanner, type Planner } from '$lib/client/planner';
import { requestOf } from './choices';

/** What a session is planned of. */
export interface Wanted {
	tests: RunTest[];
	methodOf: (versionId: string) => Method;
	people: number;
	/** Tests by id in the order they are wanted in; fewer than two are no order. */
	order: string[];
}

/** The plan of a session while it is thought out, and while what is wanted changes. `known`: the plan the page came with, and of what. */
export function openRunPlan(known: { request: BenchRequest; plan: BenchResult } | undefined) {
	let planner: Planner | undefined;
	let plan: BenchResult | undefined = $state.raw(known?.plan);
	let free: BenchResult | undefined = $state.raw();
	let problem: string | undefined = $state();
	let working = $state(false);
	let thought = 0;

	/** Whether the order can be kept: where it cannot, the plan is that of no order, and `problem` says why. */
	async function think({ tests, methodOf, people, order }: Wanted): Promise<boolean> {
		const mine = ++thought;
		if (!tests.length) plan = undefined;
		problem = undefined;
		working = false;
		if (!tests.length) return true;
		const request = requestOf(tests, methodOf, people, []);
		// The page came with a plan for this: where nothing can beat it there is nothing to think about.
		const isKnown = known?.plan.proved && JSON.stringify(known.request) === JSON.stringify(request);
		if (isKnown && order.length < 2) {
			plan = free = known.plan;
			return true;
		}
		working = true;
		planner ??= openPlanner();
		const asked = order.length > 1 ? [request, requestOf(tests, methodOf, people, order)] : [request];
		const outcomes = await planner.plan(asked, (best) => {
			if (asked.length === 1 && mine === thought) plan = best;
		});
		if (!outcomes || mine !== thought) return true;
		working = false;
		const [first, forced] = outcomes;
		free = first?.ok ? first.value : undefined;
		const shown = forced ?? first;
		plan = shown?.ok ? shown.value : free;
		problem = shown?.ok ? undefined : shown?.problems[0]?.message;
		return shown?.ok === true;
	}

	return {
		get plan() {
			return plan;
		},
		/** What the order costs beside the shortest session, s. */
		get price() {
			return plan && free ? plan.makespan - free.makespan : 0;
		},
		get problem() {
			return problem;
		},
		get working() {
			return working;
		},
		think,
		/** What was found so far is the plan. */
		stop: () => planner?.stop(),
		close: () => planner?.close()
	};
}
