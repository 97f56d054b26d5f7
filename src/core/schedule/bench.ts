import { bad, good, nth, type Outcome } from '../base';
import type { BenchRequest, BenchResult, BenchTest, PlannedStep } from './schema';
import { MOST_EFFORT } from './effort';
import { SAME, timeOf } from './plan';
import { search, type Progress } from './search';
import { workOf, type Work } from './work';

/**
 * The session in the least time one pair of hands (or several) can do it, with the fewest switches among equals.
 *
 * Takes tests of steps in seconds with gaps between them; gives every step its start and end, a bound no plan can beat,
 * and whether this one is proved the shortest. With `done` it plans the rest and moves nothing that has begun. Problems:
 * what is unknown or contradicts itself, and the step that cannot be done in its time. Method: list schedules, then branch and bound over the
 * order in which tasks start; times follow from the order as longest paths in the network of least and greatest
 * gaps; bound by Jackson's preemptive schedule (Carlier 1982, European Journal of Operational Research 11).
 *
 * @example bench({ tests: [{ id: 'a', steps: [{ label: 'shake', hands: 60, then: { wait: 300 } }, { label: 'read', hands: 20 }] }, { id: 'b', steps: [{ label: 'drip', hands: 200 }] }] }).value.makespan // → 380
 */
export function bench(request: BenchRequest): Outcome<BenchResult> {
	const steps = planning(request);
	for (;;) {
		const { done, value } = steps.next();
		if (done) return value;
	}
}

/** The same, reporting on the way: each report is the best plan so far, or undefined while there is none. */
export function* planning(request: BenchRequest): Generator<BenchResult | undefined, Outcome<BenchResult>> {
	const found = workOf(request);
	if (!found.ok) return found;
	const searching = search(found.value, request.effort ?? MOST_EFFORT, request.prefer);
	for (;;) {
		const { done, value } = searching.next();
		const result = resultOf(request, found.value, value);
		if (!done) yield result;
		else if (!result) return infeasible(request, found.value);
		else {
			const apart = result.proved ? undefined : eachTheirOwn(request, result);
			return good(apart && apart.makespan < result.makespan ? apart : result);
		}
	}
}

function resultOf(request: BenchRequest, work: Work, { best, makespan, lowerBound, proved }: Progress) {
	if (!best) return undefined;
	const begun = (request.done ?? []).map(({ test, step, start, end }) => {
		const { hands } = nth(request.tests.find((t) => t.id === test)!.steps, step);
		return { test, step, start, end: end ?? Math.max(work.now, start + hands) };
	});
	const planned = best.order.flatMap((index) => {
		const { test, parts } = nth(work.tasks, index);
		return parts.map(({ step, at, hands }): PlannedStep => {
			const start = timeOf(best.start, index) + at;
			return { test: nth(request.tests, test).id, step, start, end: start + hands };
		});
	});
	const result: BenchResult = {
		steps: [...begun, ...planned].sort((a, b) => a.start - b.start),
		makespan,
		lowerBound: Math.min(lowerBound, makespan),
		oneAfterAnother: request.tests.reduce((sum, test) => sum + aloneSeconds(test), 0),
		switches: best.switches,
		proved,
		...(request.startedAt === undefined ? {} : { startedAt: request.startedAt })
	};
	return result;
}

/** Tests shared out among people for good, each their own session: where windows are tight, often the better plan. */
function eachTheirOwn(request: BenchRequest, found: BenchResult): BenchResult | undefined {
	const { people = 1, tests, effort = MOST_EFFORT } = request;
	const tied =
		request.done?.length ||
		request.order?.length ||
		tests.some((t) => t.after?.length || t.steps.some((s) => s.uses?.length));
	if (people < 2 || tied) return undefined;
	const handsOf = (t: BenchTest) => t.steps.reduce((sum, s) => sum + s.hands, 0);
	const shares = Array.from({ length: people }, () => ({ tests: [] as BenchTest[], hands: 0 }));
	for (const test of [...tests].sort((a, b) => handsOf(b) - handsOf(a))) {
		const [least] = [...shares].sort((a, b) => a.hands - b.hands);
		least!.tests.push(test);
		least!.hands += handsOf(test);
	}
	const parts = shares
		.filter((s) => s.tests.length)
		.map((s) => bench({ ...request, people: 1, tests: s.tests, effort: Math.ceil(effort / (2 * people)) }));
	const steps: PlannedStep[] = [];
	let [makespan, switches] = [0, 0];
	for (const part of parts) {
		if (!part.ok) return undefined;
		steps.push(...part.value.steps);
		makespan = Math.max(makespan, part.value.makespan);
		switches += part.value.switches;
	}
	return {
		...found,
		steps: steps.sort((a, b) => a.start - b.start),
		makespan,
		switches,
		lowerBound: Math.min(found.lowerBound, makespan),
		proved: makespan <= found.lowerBound + SAME
	};
}

/**
 * One test by itself, s.
 *
 * @example aloneSeconds({ id: 'a', steps: [{ label: 'shake', hands: 60, then: { wait: 300 } }, { label: 'read', hands: 20 }] }) // → 380
 */
export const aloneSeconds = ({ steps }: BenchTest): number =>
	steps.reduce((sum, s, i) => sum + s.hands + (i < steps.length - 1 ? (s.then?.wait ?? 0) : 0), 0);

/** Partial plans looked at to find out which window is to blame. */
const BLAME_EFFORT = 2000;

/** The first step whose window, were it open for ever, would let the rest be planned. */
function infeasible(request: BenchRequest, work: Work): Outcome<never> {
	const running = work.tests
		.map((test, index) => ({ test, index }))
		.filter(({ test }) => test.first < test.last && test.deadline < Infinity)
		.sort((a, b) => a.test.deadline - b.test.deadline);
	const blamed =
		running.find(({ index }) => {
			const eased = {
				...work,
				tests: work.tests.map((t, i) => (i === index ? { ...t, deadline: Infinity } : t))
			};
			const searching = search(eased, BLAME_EFFORT);
			for (;;) {
				const { done, value } = searching.next();
				if (value.best) return true;
				if (done) return false;
			}
		}) ?? running[0];
	if (!blamed) return bad('/tests', 'cannot be fitted into one evening: too many windows close together');
	const step = nth(nth(work.tasks, blamed.test.first).parts, 0).step;
	return bad(
		`/tests/${blamed.index}/steps/${step}`,
		`cannot begin by second ${Math.round(blamed.test.deadline)} beside what else is under way`
	);
}
