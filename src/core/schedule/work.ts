import { bad, badAll, good, nth, type Outcome, type Problem } from '../base';
import type { BenchRequest, BenchTest, Done } from './schema';

/** One or more steps that follow each other without a gap, as the search sees them. */
export interface Task {
	test: number;
	/** Steps it consists of: their number in the test and when they begin after the task's start. */
	parts: { step: number; at: number; hands: number }[];
	hands: number;
	/** From its end to the start of the test's next task, least and most. */
	gapLeast: number;
	gapMost: number;
	/** From its end to the end of all that has to follow it. */
	tail: number;
	/** Indexes into `capacity`. */
	uses: number[];
}

/** Where one test stands when planning begins. */
export interface Standing {
	/** Its tasks yet to be done: from `first` up to, not including, `last`. */
	first: number;
	last: number;
	/** Its next task may begin from here and, where it has begun, not later than there. */
	ready: number;
	deadline: number;
	/** Tests (by index) that have to be over first. */
	after: number[];
	/** Tests (by index) that have to have begun first. */
	behind: number[];
	/** Things a step that has begun still holds. */
	holds: number[];
	/** When a test that is over was over. */
	over: number;
}

/** The session in numbers: everything the search needs and nothing it does not. */
export interface Work {
	tasks: Task[];
	tests: Standing[];
	capacity: number[];
	/** When each person is free. */
	free: number[];
	now: number;
	/** When the last step that has begun is over. */
	begunUntil: number;
	/** The test that was in hand last. */
	inHand: number;
}

/**
 * A request as the search sees it. Steps that follow at once become one task, which changes no plan. Problems: two tests
 * of one name, something unknown, a circle of tests that wait for each other, a step whose time has passed.
 */
export function workOf(request: BenchRequest): Outcome<Work> {
	const problems = flawsOf(request);
	if (problems.length) return badAll(problems);
	const things = [...new Set(request.tests.flatMap((t) => t.steps.flatMap((s) => s.uses ?? [])))];
	const happened = (request.done ?? []).filter((d) => request.tests.some((t) => t.id === d.test));
	const now = request.now ?? happened.reduce((latest, d) => Math.max(latest, d.end ?? d.start), 0);
	const free = Array.from({ length: request.people ?? 1 }, () => now);
	let begunUntil = 0;
	const underway: number[] = [];
	const tasks: Task[] = [];
	const tests = request.tests.map((test, index): Standing => {
		const done = doneOf(happened, test);
		const last = done.at(-1);
		const over = last ? (last.end ?? Math.max(now, last.start + nth(test.steps, last.step).hands)) : 0;
		if (last && last.end === undefined) underway.push(over);
		if (last) begunUntil = Math.max(begunUntil, over);
		const then = last && nth(test.steps, last.step).then;
		const first = tasks.length;
		tasks.push(...tasksOf(test, index, done.length, things));
		return {
			first,
			last: tasks.length,
			ready: Math.max(now, over + (then?.wait ?? 0)),
			deadline: last && then?.within !== undefined ? over + then.wait + then.within : Infinity,
			after: (test.after ?? [])
				.map((id) => request.tests.findIndex((t) => t.id === id))
				.filter((i) => nth(request.tests, i).steps.length > doneOf(happened, nth(request.tests, i)).length),
			behind: behindOf(request, index, happened),
			holds:
				last && done.length < test.steps.length
					? (nth(test.steps, last.step).uses ?? []).map((thing) => things.indexOf(thing))
					: [],
			over
		};
	});
	underway.sort((a, b) => b - a).forEach((end, i) => i < free.length && (free[i] = end));
	const work: Work = {
		tasks,
		tests,
		capacity: things.map((thing) => request.equipment?.[thing] ?? 1),
		free,
		now,
		begunUntil,
		inHand: request.tests.findIndex((t) => t.id === latest(happened)?.test)
	};
	measureTails(work, request.tests);
	for (const [i, test] of work.tests.entries())
		if (test.first < test.last && test.deadline < test.ready)
			return bad(
				`/tests/${i}/steps/${nth(nth(work.tasks, test.first).parts, 0).step}`,
				`had to begin by second ${Math.round(test.deadline)}; it is second ${Math.round(now)}`
			);
	return good(work);
}

const latest = (done: Done[]): Done | undefined =>
	done.reduce<Done | undefined>((a, d) => (!a || d.start >= a.start ? d : a), undefined);

const doneOf = (happened: Done[], test: BenchTest): Done[] =>
	happened.filter((d) => d.test === test.id).sort((a, b) => a.step - b.step);

/** Whoever stands before it in the wanted order and has not begun. */
function behindOf(request: BenchRequest, index: number, happened: Done[]): number[] {
	const order = request.order ?? [];
	const place = order.indexOf(nth(request.tests, index).id);
	return place < 0
		? []
		: order
				.slice(0, place)
				.map((id) => request.tests.findIndex((t) => t.id === id))
				.filter((i) => doneOf(happened, nth(request.tests, i)).length === 0);
}

function tasksOf(test: BenchTest, index: number, from: number, things: string[]): Task[] {
	const tasks: Task[] = [];
	for (const [step, { hands, then, uses }] of test.steps.entries()) {
		if (step < from) continue;
		const before = tasks.at(-1);
		const gapMost = then?.within === undefined ? Infinity : then.wait + then.within;
		const held = (uses ?? []).map((thing) => things.indexOf(thing));
		if (before && before.gapMost === 0 && !before.uses.length && !held.length) {
			before.parts.push({ step, at: before.hands, hands });
			before.hands += hands;
			before.gapLeast = then?.wait ?? 0;
			before.gapMost = gapMost;
		} else
			tasks.push({
				test: index,
				parts: [{ step, at: 0, hands }],
				hands,
				gapLeast: then?.wait ?? 0,
				gapMost,
				tail: 0,
				uses: [...new Set(held)]
			});
	}
	return tasks;
}

/** From the last test of each chain backwards: what has to follow a task at least. */
function measureTails(work: Work, tests: BenchTest[]): void {
	const followers = tests.map((t) => tests.flatMap((other, i) => (other.after?.includes(t.id) ? [i] : [])));
	const measured = new Set<number>();
	const measure = (index: number): number => {
		const { first, last } = nth(work.tests, index);
		if (!measured.has(index)) {
			measured.add(index);
			let tail = Math.max(0, ...nth(followers, index).map(measure));
			for (let i = last - 1; i >= first; i--) {
				nth(work.tasks, i).tail = tail;
				tail += nth(work.tasks, i).hands + (i > first ? nth(work.tasks, i - 1).gapLeast : 0);
			}
		}
		const task = work.tasks[first];
		return first < last && task ? task.hands + task.tail : 0;
	};
	tests.forEach((_, i) => measure(i));
}

/** Steps of more tests than anyone does in a session; past this planning would take minutes. */
const MOST_STEPS = 240;

function flawsOf({ tests, equipment, done, order }: BenchRequest): Problem[] {
	const steps = tests.reduce((sum, t) => sum + t.steps.length, 0);
	if (steps > MOST_STEPS)
		return [
			{ path: '/tests', message: `have ${steps} steps; an evening has at most ${MOST_STEPS}: do it in two` }
		];
	const ids = tests.map((t) => t.id);
	const known = (id: string) => ids.includes(id);
	const flaws: Problem[] = [];
	ids.forEach((id, i) => {
		if (ids.indexOf(id) !== i)
			flaws.push({ path: `/tests/${i}/id`, message: `there are two tests called ${id}` });
	});
	tests.forEach((test, i) => {
		for (const [k, other] of (test.after ?? []).entries())
			if (!known(other)) flaws.push({ path: `/tests/${i}/after/${k}`, message: `there is no test ${other}` });
		for (const [k, step] of test.steps.entries())
			for (const thing of step.uses ?? [])
				if (equipment?.[thing] === 0)
					flaws.push({
						path: `/tests/${i}/steps/${k}/uses`,
						message: `needs a ${thing}, and there is none`
					});
	});
	for (const [i, id] of (order ?? []).entries())
		if (!known(id)) flaws.push({ path: `/order/${i}`, message: `there is no test ${id}` });
		else if (order!.indexOf(id) !== i)
			flaws.push({ path: `/order/${i}`, message: `${id} stands here twice` });
	if (flaws.length) return flaws;
	const circle = circleIn(tests, order ?? []);
	if (circle !== undefined)
		return [{ path: `/tests/${circle}/after`, message: 'waits for a test that waits for it' }];
	for (const test of tests) {
		const mine = (done ?? []).filter((d) => d.test === test.id).sort((a, b) => a.step - b.step);
		for (const [k, d] of mine.entries()) {
			const at = `/done/${done!.indexOf(d)}`;
			if (d.step !== k || k >= test.steps.length)
				flaws.push({ path: `${at}/step`, message: `of ${test.id} is not the one that comes next` });
			else if (d.end !== undefined && d.end < d.start)
				flaws.push({ path: `${at}/end`, message: 'lies before its start' });
			else if (d.end === undefined && k < mine.length - 1)
				flaws.push({ path: `${at}/end`, message: 'is missing, though the next step has begun' });
		}
	}
	for (const [i, d] of (done ?? []).entries())
		if (!known(d.test)) flaws.push({ path: `/done/${i}/test`, message: `there is no test ${d.test}` });
	return flaws;
}

/** A test that waits for itself by way of others, in `after` and `order` together. */
function circleIn(tests: BenchTest[], order: string[]): number | undefined {
	const state = new Map<string, 'open' | 'closed'>();
	const before = (id: string): string[] => [
		...(tests.find((t) => t.id === id)?.after ?? []),
		...(order.indexOf(id) > 0 ? [nth(order, order.indexOf(id) - 1)] : [])
	];
	const turns = (id: string): boolean => {
		if (state.has(id)) return state.get(id) === 'open';
		state.set(id, 'open');
		const found = before(id).some(turns);
		state.set(id, 'closed');
		return found;
	};
	const found = tests.findIndex((t) => turns(t.id));
	return found < 0 ? undefined : found;
}
