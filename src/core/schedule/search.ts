import { lastOf, nth } from '../base';
import { lists, type Listed } from './lists';
import { SAME, children, emptyPlan, endOf, isWhole, nextOf, placed, timeOf, type Plan } from './plan';
import type { Work } from './work';

/** What the search knows while it works. */
export interface Progress {
	best: Plan | undefined;
	makespan: number;
	/** No plan ends earlier. */
	lowerBound: number;
	proved: boolean;
	/** Partial plans looked at, those of a long session counted as many: each takes so much longer. */
	looked: number;
	/** What one partial plan counts for. */
	weight: number;
}

/** How many partial plans are carried side by side while a first good plan is sought. */
const WIDTHS = [4, 40, 160];
/** Tasks of an ordinary session of eight tests. */
const ORDINARY = 25;
/** Dead ends remembered, so that memory stays small. */
const MOST_REMEMBERED = 300_000;
/** What a task placed by a list costs, in partial plans. */
const LIST_COST = 0.02;
/** Partial plans between two reports. */
const REPORT_EVERY = 1000;

/**
 * The least makespan, then what is preferred: the fewest switches, or what can be done now done now. List schedules,
 * then beams of growing width find good plans; where they do not meet the lower bound, branch and bound looks at everything that could be better, leaving
 * out what is dominated by a plan seen before. A last walk keeps that makespan and looks for fewer switches. Yields now and
 * then; `effort` limits the plans looked at.
 */
export function* search(
	work: Work,
	effort: number,
	prefer: 'fewest switches' | 'early' = 'fewest switches'
): Generator<Progress, Progress> {
	const early = prefer === 'early';
	/** Among plans on the way, and among whole ones, that end together: less is better. */
	const onTheWay = (a: Plan, b: Plan): number =>
		early ? a.idle - b.idle || a.hops - b.hops : a.hops - b.hops || a.idle - b.idle;
	const whole = (a: Plan, b: Plan): number => {
		const later = lateness(work, a) - lateness(work, b);
		const switches = a.switches - b.switches;
		return early ? (Math.abs(later) > SAME ? later : switches) : switches || later;
	};
	const root = emptyPlan(work);
	const state: Progress = {
		best: undefined,
		makespan: Infinity,
		lowerBound: root.bound,
		proved: false,
		looked: 0,
		weight: Math.max(1, (work.tasks.length / ORDINARY) ** 2)
	};
	const offer = (plan: Plan) => {
		const end = endOf(work, plan);
		const best = state.best;
		const better =
			!best || end < state.makespan - SAME || (end <= state.makespan + SAME && whole(plan, best) < -SAME);
		if (better) {
			state.best = plan;
			state.makespan = Math.min(end, state.makespan);
		}
	};
	let lookedAlone = 0;
	const met = () => state.makespan <= state.lowerBound + SAME;
	if (isWhole(work, root)) {
		offer(root);
		return { ...state, proved: true };
	}

	// Two people can do what one can: never later than that.
	if (root.free.length > 1) {
		const alone = { ...work, free: [Math.min(...work.free)] };
		const searching = search(alone, effort / 4, prefer);
		for (;;) {
			const { done, value } = searching.next();
			state.looked += value.looked - lookedAlone;
			lookedAlone = value.looked;
			if (done) {
				if (value.best) replay(work, root, value.best.order, offer);
				break;
			}
			yield state;
		}
	}
	const spend = (tasks: number) => {
		state.looked += tasks * LIST_COST * state.weight;
		return state.looked < effort / 2;
	};
	for (const list of lists(work, root.bound, spend)) {
		const plan = listedPlan(work, root, list);
		if (plan) offer(plan);
	}
	// One test after another is a plan nearly always, and the worst that should ever be given.
	beam(work, root, 2, state, Infinity, offer, (a, b) => a.hops - b.hops || a.bound - b.bound);
	yield state;
	for (const width of WIDTHS) {
		if (state.looked >= effort) break;
		beam(work, root, width, state, effort, offer, (a, b) => a.bound - b.bound || a.switches - b.switches);
		yield state;
		if (met()) break;
	}
	if (!met()) {
		const finished = yield* depthFirst(work, root, state, offer, effort / 2, (plan) =>
			plan.bound < state.makespan - SAME ? plan.bound : undefined
		);
		if (finished) state.lowerBound = state.makespan;
	}
	state.proved = met();
	if (!state.best) return state;

	const within = (plan: Plan) => plan.bound <= state.makespan + SAME;
	if (state.looked < effort) beam(work, root, 40, state, effort, offer, onTheWay, within);
	yield state;
	if (!early)
		yield* depthFirst(work, root, state, offer, Math.min(effort, state.looked + effort / 8), (plan) =>
			within(plan) && plan.hops < state.best!.switches ? plan.hops : undefined
		);
	return state;
}

/** How late the hands' work lies, each second of it weighed by when it begins: without idle time, every order is alike. */
const lateness = (work: Work, plan: Plan): number =>
	plan.order.reduce((sum, task) => sum + nth(work.tasks, task).hands * timeOf(plan.start, task), 0);

/** A list schedule as a plan: its order, each task by whom the list has it. */
function listedPlan(work: Work, root: Plan, { order, who }: Listed): Plan | undefined {
	let plan: Plan | undefined = root;
	for (const [i, task] of order.entries()) if (plan) plan = placed(work, plan, task, nth(who, i));
	return plan;
}

/** One person's order done by several: each task as soon as somebody can, or else all by the first of them. */
function replay(work: Work, root: Plan, order: number[], offer: (plan: Plan) => void): void {
	const first = root.free.indexOf(Math.min(...root.free));
	for (const all of [true, false]) {
		let plan: Plan | undefined = root;
		for (const task of order) {
			const next: Plan[] = plan ? children(work, plan).filter((c) => c.order.at(-1) === task) : [];
			const mine = all ? next : next.filter((c) => c.who.at(-1) === first);
			plan = mine.sort((a, b) => timeOf(a.start, task) - timeOf(b.start, task))[0];
			if (!plan) break;
		}
		if (plan && isWhole(work, plan)) offer(plan);
	}
}

function beam(
	work: Work,
	root: Plan,
	width: number,
	state: Progress,
	effort: number,
	offer: (plan: Plan) => void,
	better: (a: Plan, b: Plan) => number,
	keep: (plan: Plan) => boolean = () => true
): void {
	let front = [root];
	for (let depth = 0; depth < work.tasks.length && front.length; depth++) {
		if (state.looked >= effort) return;
		const found = front.flatMap((plan) => children(work, plan)).filter(keep);
		state.looked += found.length * state.weight;
		// Of plans that have placed the same tasks the best two stay, so that the beam does not fill with twins.
		const twins = new Map<string, number>();
		front = found
			.sort(better)
			.filter((plan) => {
				const key = plan.next.join();
				const seen = twins.get(key) ?? 0;
				twins.set(key, seen + 1);
				return seen < 2;
			})
			.slice(0, width);
	}
	for (const plan of front) offer(plan);
}

/** Looks at every plan that `cost` does not rule out (undefined), cheapest first; true where nothing was left out. */
function* depthFirst(
	work: Work,
	root: Plan,
	state: Progress,
	offer: (plan: Plan) => void,
	limit: number,
	cost: (plan: Plan) => number | undefined
): Generator<Progress, boolean> {
	const seen = new Map<string, number[][]>();
	const stack: Plan[] = [root];
	let reportAt = state.looked + REPORT_EVERY;
	for (let plan = stack.pop(); plan; plan = stack.pop()) {
		if (state.looked >= limit) return false;
		if (state.looked >= reportAt) {
			reportAt = state.looked + REPORT_EVERY;
			yield state;
		}
		if (cost(plan) === undefined) continue;
		if (isWhole(work, plan)) {
			offer(plan);
			continue;
		}
		const found = children(work, plan)
			.map((child) => ({ child, cost: cost(child) }))
			.filter((c): c is { child: Plan; cost: number } => c.cost !== undefined)
			.filter(({ child }) => isNew(work, child, seen));
		state.looked += (found.length + 1) * state.weight;
		found.sort(
			(a, b) => b.cost - a.cost || b.child.switches - a.child.switches || b.child.bound - a.child.bound
		);
		for (const { child } of found) stack.push(child);
	}
	return true;
}

/**
 * Whether no plan seen before can do all that this one can, as early and with as few switches. Windows that are open, or
 * tied to ones that are, can still push what was placed: from the first task they touch both plans must have the same order,
 * and none of its starts be later. Whatever lies before that only says when hands and tests are ready.
 */
function isNew(work: Work, plan: Plan, seen: Map<string, number[][]>): boolean {
	const placeOf = (task: number) => plan.order.indexOf(task);
	let from = plan.order.length;
	for (const [index, test] of work.tests.entries()) {
		const last = nextOf(plan, index) - 1;
		if (last >= test.first && nextOf(plan, index) < test.last && nth(work.tasks, last).gapMost < Infinity)
			from = Math.min(from, placeOf(last));
	}
	for (let i = plan.order.length - 1; i >= from; i--) {
		const task = nth(plan.order, i);
		if (
			task > nth(work.tests, nth(work.tasks, task).test).first &&
			nth(work.tasks, task - 1).gapMost < Infinity
		)
			from = Math.min(from, placeOf(task - 1));
	}
	const pushed = plan.order.slice(from);
	const key = `${plan.next.join()}|${pushed.join()}|${plan.who.slice(from).join()}|${plan.inHand}`;
	const state = [
		plan.switches,
		...(plan.free.length > 1 ? plan.free : [nth(plan.free, 0)]),
		plan.order.length ? timeOf(plan.start, lastOf(plan.order)) : 0,
		...pushed.map((task) => timeOf(plan.start, task)),
		...work.tests.map((test, i) => {
			const next = nextOf(plan, i);
			return next > test.first ? timeOf(plan.start, next - 1) : 0;
		})
	];
	const before = seen.get(key);
	if (before?.some((other) => other.every((x, i) => x <= nth(state, i) + SAME))) return false;
	if (seen.size >= MOST_REMEMBERED) return true;
	seen.set(key, [
		...(before ?? []).filter((other) => !state.every((x, i) => x <= nth(other, i) + SAME)),
		state
	]);
	return true;
}
