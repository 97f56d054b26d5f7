import { v5 as uuidOf } from 'uuid';
import {
	conductOf,
	isOver,
	marksOf,
	type Mark,
	type Run,
	type RunningTest,
	type StepMark,
	type TakenReading
} from '$core/run';
import { instrumentOf, type Method, type Step } from '$core/instruments';
import {
	expressedIn,
	read,
	readingCounts,
	readingRequest,
	type Measured,
	type Proved,
	type ReadingRequest
} from '$core/methods';
import { repeats, type RepeatsResult } from '$core/quality';
import type { EarlierReading, SaveReading } from '$lib/api/readings';
import { unitFor } from '$lib/ui/habits';
import { inOwnUnit, type OtherReading } from '$lib/ui/instruments/other';
import { minutesAndSeconds } from './choices';

/** One result of a session as it stands before it is saved, in its parameter's own unit. */
export interface Result {
	test: RunningTest;
	taken: TakenReading & { at: number };
	method: Method;
	parameter: string;
	unit: string;
	request: ReadingRequest;
	measured: Measured | undefined;
	/** Whether it says something of the water: a chart of the keeper's own. */
	counts: boolean;
	marks: StepMark[];
	/** Whether the vial was begun anew after it. */
	earlier: boolean;
	/** Whether what it says is not shown yet. */
	hidden: boolean;
}

type MethodOf = (versionId: string) => Method | undefined;
/** What checks have taught of a kit. */
export type ProvedOf = (versionId: string) => Proved | undefined;

/** Everything read in a session, in the order of reading. `known` finds readings of other sessions that are taken away. */
export function resultsOf(
	run: Run,
	methodOf: MethodOf,
	known: EarlierReading[],
	provedOf: ProvedOf = () => undefined
): Result[] {
	const all = run.tests.flatMap((test) => [
		...test.before.map((b) => ({ test, taken: b.taken, done: b.done, earlier: true })),
		...(test.taken ? [{ test, taken: test.taken, done: test.done, earlier: false }] : [])
	]);
	const results: Result[] = [];
	const open = run.finishedAt === undefined && run.tests.some((t) => !isOver(t));
	for (const { test, taken, done, earlier } of all.sort((a, b) => a.taken.at - b.taken.at)) {
		const method = methodOf(test.methodVersionId);
		if (!method) continue;
		const other = taken.takenAwayId === undefined ? undefined : otherOf(taken.takenAwayId, results, known);
		const request = readingRequest(method, taken.reading, {
			sampleSize: taken.sampleSize,
			other: other && inOwnUnit(other),
			proved: provedOf(test.methodVersionId)
		});
		const outcome = read(request);
		const unit = unitFor(method.parameter) || method.unit;
		results.push({
			test,
			taken,
			method,
			parameter: method.parameter,
			unit,
			request,
			measured: outcome.ok ? expressedIn(outcome.value, method.parameter, unit) : undefined,
			counts: readingCounts(method, other),
			marks: marksOf(conductOf(test, done)),
			earlier,
			hidden: open && !!test.hidden
		});
	}
	return results;
}

function otherOf(id: string, results: Result[], known: EarlierReading[]): OtherReading | undefined {
	const here = results.find((r) => r.taken.readingId === id);
	return here?.measured ? asOther(here, here.measured) : known.find((r) => r.id === id);
}

/** What a method's answer takes away: measured in this session, or the newest of the same water. */
export function otherFor(
	method: Method,
	sourceId: string | undefined,
	results: Result[],
	newest: EarlierReading | undefined
): OtherReading | undefined {
	const here = results.find(
		(r) =>
			r.parameter === method.takeAway?.parameter && r.test.sourceId === sourceId && r.measured?.value != null
	);
	return here?.measured ? asOther(here, here.measured) : newest;
}

const asOther = ({ taken, parameter, unit, counts }: Result, measured: Measured): OtherReading => ({
	id: taken.readingId,
	parameter,
	takenAt: new Date(taken.at).toISOString(),
	...measured,
	unit,
	ownChart: counts
});

/** What the server is sent to keep a result. All results of one water are of one sample: the session's own has its id. */
export const letterOf = (runId: string, sourceId: string, { taken, test }: Result): SaveReading => ({
	sourceId: test.sourceId ?? sourceId,
	sampleId: test.sourceId === undefined ? runId : uuidOf(test.sourceId, runId),
	takenAt: new Date(taken.at).toISOString(),
	methodVersionId: test.methodVersionId,
	reading: taken.reading,
	...(taken.sampleSize === undefined ? {} : { sampleSize: taken.sampleSize }),
	...(taken.takenAwayId === undefined ? {} : { takenAwayId: taken.takenAwayId }),
	runId
});

const inTime = (seconds: number) =>
	seconds < 60 ? `${Math.round(seconds)} s` : minutesAndSeconds(seconds * 1000);

const ACTS: Record<Step['do'], string> = {
	rinse: 'rinsing',
	measure: 'drawing the sample',
	dilute: 'diluting',
	add: 'adding a reagent',
	mix: 'mixing',
	wait: 'waiting',
	filter: 'filtering',
	titrate: 'titrating',
	match: 'matching',
	read: 'reading'
};

/** What was done otherwise, in a few words. */
export function markInWords({ act, ...mark }: StepMark): string {
	switch (mark.kind) {
		case 'skipped':
			return `${ACTS[act]} skipped`;
		case 'short':
			return `${ACTS[act]} ${inTime(mark.seconds)} of ${inTime(mark.of)}`;
		case 'late':
			return `${ACTS[act]} ${inTime(mark.seconds)} late`;
		case 'early':
			return `${ACTS[act]} after ${inTime(mark.seconds)} of ${inTime(mark.of)}`;
	}
}

/** What a wait that was too long or too short does to a reading by this kind of method. */
export function effectOf(method: Method, kind: Mark['kind']): string {
	const colour = instrumentOf(method).develops;
	if (kind === 'late')
		return colour ? 'the colour goes on deepening: expect too high' : 'expect more scatter';
	if (kind === 'early' || kind === 'short')
		return colour ? 'the colour is not full yet: expect too low' : 'it may not have reacted fully';
	return 'the result is less sure';
}

/** Several readings of one water by one kit in a session, as one number; and whether one more is worth its minutes. */
export interface Repeated {
	title: string;
	unit: string;
	parameter: string;
	times: number;
	result: RepeatsResult;
	/** What one of them took, s. */
	seconds: number;
}

/** Those read more than once, each its own kind of test, once nothing of them is hidden any more. */
export function repeatedIn(results: Result[], titles: Record<string, string>): Repeated[] {
	const can = results.filter(
		(r) => r.counts && !r.hidden && r.measured?.qualifier === '=' && r.measured.repeatability
	);
	const kindOf = ({ test }: Result) =>
		`${test.methodVersionId}/${test.sourceId ?? ''}/${test.thinned ? 'thinned' : ''}`;
	return [...new Set(can.map(kindOf))].flatMap((kind) => {
		const group = can.filter((r) => kindOf(r) === kind);
		const [first] = group;
		if (!first || group.length < 2) return [];
		const made = repeats({
			readings: group.map(({ measured, method }) => ({
				value: measured!.value!,
				repeatability: measured!.repeatability!,
				quantisation: instrumentOf(method).rounding === 'all' ? measured!.repeatability! : 0,
				trueness: measured!.trueness ?? 0
			}))
		});
		const { done } = first.test;
		const seconds = done.length ? (done.at(-1)!.end - done[0]!.start) / 1000 : 0;
		return made.ok
			? [
					{
						title: (titles[first.test.id] ?? '').replace(/, \d+ of \d+$/, ''),
						unit: first.unit,
						parameter: first.parameter,
						times: group.length,
						result: made.value,
						seconds
					}
				]
			: [];
	});
}
