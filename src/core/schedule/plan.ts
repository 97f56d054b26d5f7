import { lastOf, nth } from '../base';
import type { Work } from './work';

/**
 * A plan of the session up to some moment: which tasks have been given a place, in the order of their starts. Their times
 * are the earliest that all rules between them allow, so a later task can still push an earlier one.
 */
export interface Plan {
	/** The next task of each test. */
	next: Int16Array;
	order: number[];
	who: number[];
	/** Of each placed task, by its index. */
	start: Float64Array;
	/** A task that uses a thing, and the last task of another test that has to put it down first. */
	yields: [task: number, holder: number][];
	/** When each person is free. */
	free: number[];
	/** No way of going on ends earlier. */
	bound: number;
	switches: number;
	/** Switches so far and those that must come: every other test that is not over has to be taken up again. */
	hops: number;
	/** How long hands were free so far, s. */
	idle: number;
	inHand: number;
}

/** The start of a task that has been placed. */
export const timeOf = (start: Float64Array, task: number): number => start[task] as number;
/** The next task of a test. */
export const nextOf = ({ next }: Plan, test: number): number => next[test] as number;

/** Seconds closer together than this are the same. */
export const SAME = 1e-6;

export function emptyPlan(work: Work): Plan {
	const plan: Plan = {
		next: Int16Array.from(work.tests, (t) => t.first),
		order: [],
		who: [],
		start: new Float64Array(work.tasks.length),
		yields: [],
		free: [...work.free],
		bound: 0,
		switches: 0,
		hops: 0,
		idle: 0,
		inHand: work.inHand
	};
	return judged(work, plan);
}

export const isWhole = (work: Work, plan: Plan): boolean => plan.order.length === work.tasks.length;

/** When the last step of a whole plan is over. */
export const endOf = (work: Work, plan: Plan): number =>
	plan.order.reduce(
		(end, t) => Math.max(end, timeOf(plan.start, t) + nth(work.tasks, t).hands),
		work.begunUntil
	);

/** Every way to place one more task, each with its bound; none where this plan leads nowhere. */
export function children(work: Work, plan: Plan): Plan[] {
	const found: Plan[] = [];
	for (const [index, test] of work.tests.entries()) {
		const task = nextOf(plan, index);
		if (task >= test.last || !mayBegin(work, plan, index)) continue;
		for (let person = 0; person < plan.free.length; person++) {
			// Two people who are free at the same time are the same to the plan.
			if (plan.free.indexOf(nth(plan.free, person)) !== person) continue;
			const child = placed(work, plan, task, person);
			if (child) found.push(child);
		}
	}
	return found;
}

/** Its turn in the wanted order, the tests it waits for over, and what it uses not held by others for good. */
function mayBegin(work: Work, plan: Plan, index: number): boolean {
	const test = nth(work.tests, index);
	const task = nextOf(plan, index);
	if (task === test.first) {
		if (test.behind.some((other) => plan.next[other] === nth(work.tests, other).first)) return false;
		if (test.after.some((other) => nextOf(plan, other) < nth(work.tests, other).last)) return false;
	}
	return nth(work.tasks, task).uses.every(
		(thing) => holders(work, plan, thing, index) < nth(work.capacity, thing)
	);
}

/** How many tests but this one have a thing that only their next task gives back. */
function holders(work: Work, plan: Plan, thing: number, but: number): number {
	let held = 0;
	for (const [index, test] of work.tests.entries()) {
		const next = nextOf(plan, index);
		if (index === but || next >= test.last) continue;
		const holds = next === test.first ? test.holds : nth(work.tasks, next - 1).uses;
		if (holds.includes(thing)) held++;
	}
	return held;
}

/** The plan with one more task, the next of its test, by one person; undefined where that leads nowhere. */
export function placed(work: Work, plan: Plan, task: number, person: number): Plan | undefined {
	const index = nth(work.tasks, task).test;
	const test = nth(work.tests, index);
	const { hands } = nth(work.tasks, task);
	const start = plan.start.slice();
	const order = [...plan.order, task];
	const who = [...plan.who, person];
	const next = plan.next.slice();
	next[index] = task + 1;
	const yields = [...plan.yields, ...holdersBefore(work, plan, index, task)];
	start[task] = earliest(work, plan, index, task, person);
	for (const [user, holder] of yields)
		if (user === task)
			start[task] = Math.max(timeOf(start, task), timeOf(start, holder) + nth(work.tasks, holder).hands);
	if (task === test.first && timeOf(start, task) > test.deadline + SAME) return undefined;
	if (task > test.first && timeOf(start, task) > latestAfter(work, start, task) + SAME)
		if (!settle(work, order, who, start, yields)) return undefined;
	const free = [...work.free];
	for (const [i, t] of order.entries())
		free[nth(who, i)] = Math.max(nth(free, nth(who, i)), timeOf(start, t) + nth(work.tasks, t).hands);
	// In whatever order it is read, a person is busy until their last task is over.
	free[person] = timeOf(start, task) + hands;
	const child: Plan = {
		next,
		order,
		who,
		start,
		yields,
		free,
		bound: 0,
		switches: plan.switches + (plan.inHand === index ? 0 : 1),
		hops: 0,
		idle: 0,
		inHand: index
	};
	return leadsNowhere(work, child) ? undefined : judged(work, child);
}

/** Fills in what plans are compared by. */
function judged(work: Work, plan: Plan): Plan {
	plan.bound = boundOf(work, plan);
	plan.hops = plan.switches;
	for (const [i, test] of work.tests.entries())
		if (i !== plan.inHand && nextOf(plan, i) < test.last) plan.hops++;
	const busy = plan.order.reduce((sum, task) => sum + nth(work.tasks, task).hands, 0);
	plan.idle = plan.free.reduce((sum, free, i) => sum + free - nth(work.free, i), 0) - busy;
	return plan;
}

function earliest(work: Work, plan: Plan, index: number, task: number, person: number): number {
	const test = nth(work.tests, index);
	const last = plan.order.at(-1);
	let at = Math.max(nth(plan.free, person), last === undefined ? work.now : timeOf(plan.start, last));
	if (task === test.first) {
		at = Math.max(at, test.ready);
		for (const other of test.after) at = Math.max(at, overAt(work, plan, other));
	} else {
		const before = nth(work.tasks, task - 1);
		at = Math.max(at, timeOf(plan.start, task - 1) + before.hands + before.gapLeast);
	}
	return at;
}

const overAt = (work: Work, plan: Plan, index: number): number => {
	const { first, last, over } = nth(work.tests, index);
	return last === first ? over : timeOf(plan.start, last - 1) + nth(work.tasks, last - 1).hands;
};

/** A test's last task gives its things back at its end: with two people that can be later than the next start. */
function holdersBefore(work: Work, plan: Plan, index: number, task: number): [number, number][] {
	if (plan.free.length === 1) return [];
	const end = (holder: number) => timeOf(plan.start, holder) + nth(work.tasks, holder).hands;
	return nth(work.tasks, task).uses.flatMap((thing): [number, number][] => {
		const spare = nth(work.capacity, thing) - holders(work, plan, thing, index);
		const last = work.tests
			.flatMap((t, i) =>
				i !== index &&
				t.last > t.first &&
				plan.next[i] === t.last &&
				nth(work.tasks, t.last - 1).uses.includes(thing)
					? [t.last - 1]
					: []
			)
			.sort((a, b) => end(b) - end(a));
		return last.slice(spare - 1).map((holder) => [task, holder]);
	});
}

const latestAfter = (work: Work, start: Float64Array, task: number): number => {
	const before = nth(work.tasks, task - 1);
	return timeOf(start, task - 1) + before.hands + before.gapMost;
};

/** The earliest times that obey every rule among the placed tasks; false where rules contradict each other. */
function settle(
	work: Work,
	order: number[],
	who: number[],
	start: Float64Array,
	yields: [number, number][]
): boolean {
	for (let pass = 0; pass <= order.length; pass++) {
		const busy = [...work.free];
		let from = work.now;
		for (const [i, task] of order.entries()) {
			const { test } = nth(work.tasks, task);
			const { first, ready, deadline, after } = nth(work.tests, test);
			let at = Math.max(timeOf(start, task), from, nth(busy, nth(who, i)));
			if (task === first) {
				at = Math.max(at, ready);
				for (const other of after) {
					const { last, first: begin } = nth(work.tests, other);
					if (last > begin) at = Math.max(at, timeOf(start, last - 1) + nth(work.tasks, last - 1).hands);
				}
				if (at > deadline + SAME) return false;
			} else {
				const before = nth(work.tasks, task - 1);
				at = Math.max(at, timeOf(start, task - 1) + before.hands + before.gapLeast);
			}
			for (const [user, holder] of yields)
				if (user === task) at = Math.max(at, timeOf(start, holder) + nth(work.tasks, holder).hands);
			start[task] = at;
			from = at;
			busy[nth(who, i)] = at + nth(work.tasks, task).hands;
		}
		let moved = false;
		for (let i = order.length - 1; i >= 0; i--) {
			const task = nth(order, i);
			if (task === nth(work.tests, nth(work.tasks, task).test).first) continue;
			const before = nth(work.tasks, task - 1);
			const least = timeOf(start, task) - before.gapMost - before.hands;
			if (timeOf(start, task - 1) < least - SAME) {
				start[task - 1] = least;
				moved = true;
			}
		}
		if (!moved) return true;
	}
	return false;
}

/** A window that has closed: more work was put behind a task than its gap holds. */
function leadsNowhere(work: Work, plan: Plan): boolean {
	const soonest = Math.min(...plan.free);
	for (const [index, test] of work.tests.entries()) {
		const next = nextOf(plan, index);
		if (next >= test.last) continue;
		if (next === test.first) {
			if (soonest > test.deadline + SAME) return true;
		} else if (plan.free.length === 1 && nth(work.tasks, next - 1).gapMost < Infinity) {
			let behind = 0;
			for (let i = plan.order.length - 1; plan.order[i] !== next - 1; i--)
				behind += nth(work.tasks, nth(plan.order, i)).hands;
			if (behind > nth(work.tasks, next - 1).gapMost + SAME) return true;
		}
	}
	return false;
}

/**
 * A time before which no way of going on can end: of each chain by itself, and of all that is left for the hands, or for
 * a thing there is one of, when it may be interrupted at will (Jackson's preemptive schedule).
 */
function boundOf(work: Work, plan: Plan): number {
	const soonest = Math.min(...plan.free);
	const from = Math.max(soonest, plan.order.length ? timeOf(plan.start, lastOf(plan.order)) : work.now);
	let bound = Math.max(work.begunUntil, ...plan.free);
	let left = 0;
	const hands: Load = { heads: [], lengths: [], tails: [] };
	const things: Load[] = work.capacity.map(() => ({ heads: [], lengths: [], tails: [] }));
	for (const [index, test] of work.tests.entries()) {
		let at = nextOf(plan, index);
		if (at >= test.last) continue;
		let head = Math.max(from, at === test.first ? test.ready : endOfTask(work, plan, at - 1));
		// What its last step holds is held until then.
		for (const thing of at === test.first ? test.holds : nth(work.tasks, at - 1).uses)
			add(nth(things, thing), from, head - from, nth(work.tasks, at).hands + nth(work.tasks, at).tail);
		if (at === test.first)
			for (const other of test.after) {
				const { last } = nth(work.tests, other);
				head = Math.max(
					head,
					nextOf(plan, other) >= last ? overAt(work, plan, other) : from + leftOf(work, plan, other)
				);
			}
		for (; at < test.last; at++) {
			const task = nth(work.tasks, at);
			const gap = at + 1 < test.last ? task.gapLeast : 0;
			add(hands, head, task.hands, task.tail);
			for (const thing of task.uses) add(nth(things, thing), head, task.hands + gap, task.tail - gap);
			left += task.hands;
			bound = Math.max(bound, head + task.hands + task.tail);
			head += task.hands + gap;
		}
	}
	for (const [thing, load] of things.entries())
		if (work.capacity[thing] === 1) bound = Math.max(bound, preemptive(load));
	if (plan.free.length > 1) {
		const busy = plan.free.reduce((sum, free) => sum + Math.max(free, from), 0);
		return Math.max(bound, (busy + left) / plan.free.length);
	}
	return Math.max(bound, preemptive(hands));
}

/** What still has to pass one pair of hands, or one thing: from when, how long, and what follows at least. */
interface Load {
	heads: number[];
	lengths: number[];
	tails: number[];
}

function add(load: Load, head: number, length: number, tail: number): void {
	load.heads.push(head);
	load.lengths.push(length);
	load.tails.push(tail);
}

const endOfTask = (work: Work, plan: Plan, task: number): number =>
	timeOf(plan.start, task) + nth(work.tasks, task).hands + nth(work.tasks, task).gapLeast;

/** The least time the rest of a test takes. */
function leftOf(work: Work, plan: Plan, index: number): number {
	let sum = 0;
	for (let i = nextOf(plan, index); i < nth(work.tests, index).last; i++)
		sum += nth(work.tasks, i).hands + (i + 1 < nth(work.tests, index).last ? nth(work.tasks, i).gapLeast : 0);
	return sum;
}

/** Jackson's rule: of what has been released the longest tail goes first, and gives way to a longer one. */
function preemptive({ heads, lengths, tails }: Load): number {
	const left = [...lengths];
	const byHead = heads.map((_, i) => i).sort((a, b) => nth(heads, a) - nth(heads, b));
	let released = 0;
	let at = 0;
	let end = 0;
	const waiting: number[] = [];
	while (released < byHead.length || waiting.length) {
		if (!waiting.length) at = Math.max(at, nth(heads, nth(byHead, released)));
		while (released < byHead.length && nth(heads, nth(byHead, released)) <= at)
			waiting.push(nth(byHead, released++));
		let best = 0;
		for (let i = 1; i < waiting.length; i++)
			if (nth(tails, nth(waiting, i)) > nth(tails, nth(waiting, best))) best = i;
		const chosen = nth(waiting, best);
		const until = released < byHead.length ? nth(heads, nth(byHead, released)) : Infinity;
		const spent = Math.min(nth(left, chosen), until - at);
		at += spent;
		left[chosen] = nth(left, chosen) - spent;
		if (nth(left, chosen) <= 0) {
			waiting.splice(best, 1);
			end = Math.max(end, at + nth(tails, chosen));
		}
	}
	return end;
}
