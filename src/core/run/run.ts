import { nth } from '../base';
import type { Method, Step } from '../instruments';
import { stepsOf, type RunStep } from './from-method';
import type { Mark, StepMark } from './mark';
import type { BeginEvent, RunEvent, RunTest, TakenReading } from './events';

/** One step as it was done; instants in ms. */
export interface DoneStep {
	step: number;
	start: number;
	end: number;
	marks: Mark[];
}

/** One test of the run as it stands. */
export interface RunningTest extends RunTest {
	steps: RunStep[];
	done: DoneStep[];
	/** How often it was begun anew. */
	attempt: number;
	dropped: boolean;
	/** The step whose wait was cut short. */
	early?: { step: number; at: number };
	taken?: TakenReading & { at: number };
	/** Readings of earlier attempts that stay, with how they were made. */
	before: { taken: TakenReading & { at: number }; done: DoneStep[] }[];
}

/** A run as it stands after some events. Instants in ms. */
export interface Run {
	startedAt: number;
	finishedAt?: number;
	people: number;
	order: string[];
	save: BeginEvent['save'];
	tests: RunningTest[];
	/** Steps that were taken up and are not over, one for each pair of hands. */
	inHand: { test: string; step: number; since: number }[];
	/** When the last event happened. */
	lastAt: number;
}

/** A shake this much shorter than it should be is no misreading of the thumb: the share of its time, and seconds. */
const SHORT_SHARE = 0.9;
const SHORT_SECONDS = 1;
/** A wait cut by less than this share is none: the tolerance leaflets give a minute glass. */
const EARLY_SHARE = 0.05;
/** A step that seems to last longer than this many times its usual was not taken up at once. */
const LONGEST = 2;
/** Steps that follow at once: after this long the mixture was left standing, s. */
export const AT_ONCE = 120;

/** The run that events make, in order of time; what makes no sense where it stands changes nothing. Undefined before it has begun. */
export function runOf(
	events: RunEvent[],
	methodOf: (versionId: string) => Method | undefined
): Run | undefined {
	const inOrder = meantOf(events);
	const begin = inOrder.find((e): e is BeginEvent => e.kind === 'begin');
	if (!begin) return undefined;
	const running = (test: RunTest): RunningTest[] => {
		const method = methodOf(test.methodVersionId);
		return method
			? [{ ...test, steps: stepsOf(method, test.thinned), done: [], attempt: 1, dropped: false, before: [] }]
			: [];
	};
	const startedAt = Date.parse(begin.at);
	const run: Run = {
		startedAt,
		people: begin.people,
		order: begin.order,
		save: begin.save,
		tests: begin.tests.flatMap(running),
		inHand: [],
		lastAt: startedAt
	};
	for (const event of inOrder) {
		const at = Math.max(run.lastAt, Date.parse(event.at));
		if (event === begin || Date.parse(event.at) < startedAt || run.finishedAt !== undefined) continue;
		if (event.kind === 'add') {
			if (!run.tests.some((t) => t.id === event.added.id)) run.tests.push(...running(event.added));
		} else if (event.kind === 'finish') run.finishedAt = at;
		else if (event.kind !== 'begin') {
			const test = run.tests.find((t) => t.id === event.test);
			if (!test || !happen(run, test, event, at)) continue;
		}
		run.lastAt = at;
	}
	return run;
}

type MeantEvent = Exclude<RunEvent, { kind: 'undo' }>;

/** Events in the order in which they happened, without those that were taken back; a run's beginning stays. */
function meantOf(events: RunEvent[]): MeantEvent[] {
	const undone = new Set(events.flatMap((e) => (e.kind === 'undo' ? [e.of] : [])));
	return events
		.filter((e): e is MeantEvent => e.kind === 'begin' || (e.kind !== 'undo' && !undone.has(e.id)))
		.sort((a, b) => Date.parse(a.at) - Date.parse(b.at) || a.id.localeCompare(b.id));
}

/** The last thing that happened and can be taken back. */
export const lastMeant = (events: RunEvent[]): MeantEvent | undefined =>
	meantOf(events).findLast((e) => e.kind !== 'begin' && e.kind !== 'finish');

type TestEvent = Exclude<RunEvent, { kind: 'begin' | 'add' | 'undo' | 'finish' }>;

/** Changes the run by one event; false where it makes no sense there, as when two devices ended one step. */
function happen(run: Run, test: RunningTest, event: TestEvent, at: number): boolean {
	const next = test.done.length;
	switch (event.kind) {
		case 'again':
			if (test.taken && !event.spoilt) test.before.push({ taken: test.taken, done: test.done });
			delete test.taken;
			delete test.early;
			test.done = [];
			test.attempt++;
			test.dropped = false;
			putDown(run, test);
			return true;
		case 'drop':
			test.dropped = true;
			putDown(run, test);
			return true;
		case 'read':
			if (event.step === next && test.steps[next]?.reads && !test.dropped) finishStep(run, test, at, []);
			// Read again: what was read last counts.
			else if (!test.taken || event.step !== next - 1) return false;
			test.taken = { ...event.taken, at };
			return true;
	}
	if (event.step !== next || next >= test.steps.length || test.dropped) return false;
	switch (event.kind) {
		case 'start':
			putDown(run, test);
			// Whoever takes up one step more than there are hands has put the oldest down.
			run.inHand = [...run.inHand, { test: test.id, step: next, since: at }].slice(-run.people);
			return true;
		case 'early':
			test.early = { step: next, at };
			return true;
		case 'skip':
			finishStep(run, test, at, [{ kind: 'skipped' }]);
			return true;
		case 'end':
			finishStep(run, test, at, []);
			return true;
	}
}

function finishStep(run: Run, test: RunningTest, at: number, marks: Mark[]): void {
	const step = test.done.length;
	const { countdown } = nth(test.steps, step);
	const skipped = marks.length > 0;
	const opens = window(test)?.opens ?? run.startedAt;
	const held = inHandOf(run, test)?.since;
	// Nobody says when they take up a step: it was free to begin from then, and took no longer than it might.
	const free = Math.max(
		run.lastAt,
		test.early ? run.lastAt : opens,
		at - LONGEST * 1000 * nth(test.steps, step).hands
	);
	const start = skipped ? at : Math.min(at, held ?? free);
	if (!skipped) {
		marks.push(...timingOf(test, start));
		const seconds = (at - start) / 1000;
		if (countdown && seconds < SHORT_SHARE * countdown - SHORT_SECONDS)
			marks.push({ kind: 'short', seconds, of: countdown });
	}
	test.done.push({ step, start, end: at, marks });
	delete test.early;
	putDown(run, test);
}

export const inHandOf = (run: Run, test: { id: string }) => run.inHand.find((h) => h.test === test.id);

function putDown(run: Run, test: RunningTest): void {
	run.inHand = run.inHand.filter((h) => h.test !== test.id);
}

/** Whether the next step begins before or after its time. */
function timingOf(test: RunningTest, start: number): Mark[] {
	const span = window(test);
	if (!span) return [];
	const wait = (span.opens - span.from) / 1000;
	const waited = (start - span.from) / 1000;
	if (waited < wait * (1 - EARLY_SHARE)) return [{ kind: 'early', seconds: waited, of: wait }];
	const grace = wait > 0 ? 0 : AT_ONCE;
	const late = span.closes === undefined ? 0 : (start - span.closes) / 1000 - grace;
	return late > 0 ? [{ kind: 'late', seconds: late + grace }] : [];
}

/** When a test's next step may begin: from the end of the step before. Undefined before its first step and after its last. */
export function window(test: RunningTest): { from: number; opens: number; closes?: number } | undefined {
	const last = test.done.at(-1);
	if (!last || test.done.length >= test.steps.length) return undefined;
	const { then } = nth(test.steps, last.step);
	const opens = last.end + (then?.wait ?? 0) * 1000;
	return {
		from: last.end,
		opens,
		...(then?.within === undefined ? {} : { closes: opens + then.within * 1000 })
	};
}

export const isOver = (test: RunningTest): boolean => test.dropped || test.done.length >= test.steps.length;

/** A test's steps as they were done, for keeping with its reading. */
export interface Conduct {
	act: Step['do'];
	label: string;
	start: string;
	end: string;
	marks: Mark[];
}

export const marksOf = (conduct: Conduct[]): StepMark[] =>
	conduct.flatMap(({ act, label, marks }) => marks.map((m) => ({ ...m, act, label })));

export const conductOf = (test: RunningTest, done: DoneStep[] = test.done): Conduct[] =>
	done.map(({ step, start, end, marks }) => ({
		act: nth(test.steps, step).act,
		label: nth(test.steps, step).label,
		start: new Date(start).toISOString(),
		end: new Date(end).toISOString(),
		marks
	}));
