import { v7 as uuid } from 'uuid';
import type { Method } from '$core/instruments';
import {
	isOver,
	lastMeant,
	momentOf,
	runOf,
	type Happening,
	type Moment,
	type Rest,
	type Run,
	type RunEvent,
	type RunningTest,
	type RunTest,
	type Turn
} from '$core/run';
import type { Pack } from '$lib/api/methods';
import type { EarlierReading, SaveReading } from '$lib/api/readings';
import { savesReading, savingReading, voiding } from '$lib/client/commands';
import { movePhoto, sendPhoto } from '$lib/client/photo-drafts';
import type { PendingWrite } from '$lib/client/pending-write';
import { inWords } from '$lib/ui/wording';
import { WARN, alarmsBetween } from './alarms';
import { addedTest, needsVial, titlesOf, type Choice } from './choices';
import { letterOf, resultsOf, type ProvedOf, type Result } from './results';

/** A press this soon after the one before is the same press, ms. */
const SAME_PRESS = 400;
/** A step that begins this soon is not waited for, ms. */
const AT_ONCE = 500;

/** A session as its events tell it, with the plan of what is left. */
interface RunView {
	/** Nothing where the events do not begin a session. */
	run: Run | undefined;
	moment: Moment | undefined;
	/** Whether the plan is of these events, or of those before the last. */
	planned: boolean;
	/** Nothing is left to do, or nothing more is to be done. */
	over: boolean;
	/** By test. */
	titles: Record<string, string>;
	/** The vial's number by test; undefined where none is needed. */
	vials: Record<string, number | undefined>;
	results: Result[];
	/** What can be taken back. */
	last: RunEvent | undefined;
}

/**
 * What the events of a session come to. `planned` is the last plan that was made and of which events; `closing` whether the keeper
 * ends it early. Pure.
 */
export function runView(
	events: RunEvent[],
	planned: { of: unknown; rest: Rest | undefined } | undefined,
	closing: boolean,
	methodOf: (versionId: string) => Method | undefined,
	latest: EarlierReading[],
	provedOf?: ProvedOf,
	waterOf: (sourceId: string) => string | undefined = () => undefined
): RunView {
	const run = runOf(events, methodOf);
	const tests = run?.tests ?? [];
	return {
		run,
		moment: run && momentOf(run, planned?.rest),
		planned: planned?.of === events,
		over: !!run && (tests.every(isOver) || closing || run.finishedAt !== undefined),
		titles: titlesOf(
			tests.flatMap((t) => {
				const profile = methodOf(t.methodVersionId);
				const water = t.sourceId === undefined ? undefined : waterOf(t.sourceId);
				return profile ? [{ id: t.id, profile, water, ...(t.thinned ? { thinned: t.thinned } : {}) }] : [];
			})
		),
		vials: Object.fromEntries(tests.map((t) => [t.id, needsVial(t.steps) ? t.vial : undefined])),
		results: run ? resultsOf(run, methodOf, latest, provedOf) : [],
		last: lastMeant(events)
	};
}

/** A test of the session; it is one of its own. */
export function testOf(run: Run, id: string): RunningTest {
	const found = run.tests.find((t) => t.id === id);
	if (!found) throw new Error(`no test “${id}” in this evening`);
	return found;
}

export interface RunParts {
	runId: string;
	sourceId: () => string;
	/** The session as it stands. */
	view: () => RunView;
	methodOf: (versionId: string) => Method | undefined;
	packs: () => Pack[];
	/** Now by the server's clock, ms since 1970. */
	now: () => number;
	/** A clock that nobody sets, ms: two presses are told apart by it. */
	steady: () => number;
	say: (happening: Happening, at: Date) => void;
	/** A test's own tone, so many times; a line aloud. Both do nothing where the keeper does not want to hear them. */
	sound: (test: number, times: number) => void;
	speak: (words: string) => void;
	post: (write: PendingWrite) => void;
	/** Takes back a write that has not left; false where it has. */
	unsend: (isIt: (write: PendingWrite) => boolean) => boolean;
}

/** A session under way: what a press, the clock and a reading do. Draws nothing. */
export function openRunSession(parts: RunParts) {
	let lastPress = -Infinity;
	const say = (happening: Happening, at = parts.now()) => parts.say(happening, new Date(at));
	const isWaiting = (hand: Turn, at: number) => !hand.started && hand.from > at + AT_ONCE;

	function save(result: Result): void {
		const { titles } = parts.view();
		const about = `${titles[result.test.id]} ${result.measured ? inWords(result.measured, result.unit) : ''}`;
		const { readingId } = result.taken;
		parts.post(savingReading(readingId, letterOf(parts.runId, parts.sourceId(), result), about));
		sendPhoto(readingId, readingId, parts.post);
	}

	return {
		say,
		isWaiting,

		/** The clock goes on from `before` to `at`, ms: shakes that are over end, and what has come about is heard. */
		turn(before: number, at: number): void {
			const { run, moment, over, titles } = parts.view();
			if (!run || over) return;
			for (const { test, since } of run.inHand) {
				const running = testOf(run, test);
				const end = since + (running.steps[running.done.length]?.countdown ?? Infinity) * 1000;
				if (at < end) continue;
				parts.sound(run.tests.indexOf(running), 2);
				say({ kind: 'end', test, step: running.done.length }, end);
			}
			for (const { clock, kind } of alarmsBetween(before, at, moment?.clocks ?? [])) {
				const test = testOf(run, clock.test);
				const title = titles[clock.test];
				parts.sound(run.tests.indexOf(test), { soon: 1, open: 2, closing: 3 }[kind]);
				if (kind === 'open') parts.speak(`${title}. ${test.steps[clock.step]?.label}`);
				if (kind === 'closing') parts.speak(`${title} closes in ${WARN / 1000} seconds`);
			}
		},

		/** Space, a tap, a pedal or two knocks: the step at hand is over, or its shake begins. */
		press(hand: Turn | undefined = parts.view().moment?.hands[0]): void {
			const { run, planned, over } = parts.view();
			const pressed = parts.steady();
			if (pressed - lastPress < SAME_PRESS || !planned || !hand || !run || over) return;
			lastPress = pressed;
			const at = parts.now();
			const step = testOf(run, hand.test).steps[hand.step];
			if (!step || isWaiting(hand, at) || step.reads) return;
			const about = { test: hand.test, step: hand.step };
			if (step.countdown && !hand.started) say({ kind: 'start', ...about }, at);
			// A shake that has begun ends by its clock, or by `early`: the tap that began it comes twice at times.
			else if (!step.countdown) say({ kind: 'end', ...about }, at);
		},

		/** A shake ends before its time, by a button of its own. */
		early(hand: Turn): void {
			say({ kind: 'end', test: hand.test, step: hand.step });
		},

		/** A reading was taken at a step; where each is saved as it comes, it goes out at once. */
		take(
			hand: Turn,
			taken: Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'>,
			photoName?: string
		): void {
			const readingId = uuid();
			if (photoName !== undefined) movePhoto(photoName, readingId);
			say({ kind: 'read', test: hand.test, step: hand.step, taken: { readingId, ...taken } });
			const { run, results } = parts.view();
			const result = results.find((r) => r.test.id === hand.test && !r.earlier);
			if (run?.save === 'each' && result) save(result);
		},

		/** What was said last was a mistake. A result that was saved as it came is taken back with it. */
		takeBack(): void {
			const { run, last } = parts.view();
			if (!last) return;
			say({ kind: 'undo', of: last.id });
			if (last.kind !== 'read' || run?.save !== 'each') return;
			const { readingId } = last.taken;
			if (!parts.unsend(savesReading(readingId)))
				parts.post(voiding('readings', readingId, 'taken back at the bench', 'taking back a result'));
		},

		/** One more test, from now on. */
		add(method: Choice, thinned?: RunTest['thinned']): void {
			const { run } = parts.view();
			if (!run) return;
			say({
				kind: 'add',
				added: addedTest(run.tests, parts.methodOf, method, parts.packs(), uuid(), thinned)
			});
		},

		/** The session is over; where results are saved together, those that were chosen go out. */
		finish(chosen: Result[]): void {
			if (parts.view().run?.save === 'together') chosen.forEach(save);
			say({ kind: 'finish' });
		}
	};
}
export type RunSession = ReturnType<typeof openRunSession>;
