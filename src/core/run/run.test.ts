import { describe, expect, it } from 'vitest';
import { type Method } from '../instruments';
import { SHIPPED_METHODS } from '../methods';
import { momentOf, restOf } from './remaining';
import { conductOf, lastMeant, runOf, type Run } from './run';
import type { RunEvent, RunTest } from './events';

const T0 = Date.parse('2026-05-06T18:00:00Z');
const methodOf = (id: string): Method | undefined => SHIPPED_METHODS.find((m) => m.id === id);
const test = (id: string, methodVersionId: string, vial: number, more: Partial<RunTest> = {}): RunTest => ({
	id,
	methodVersionId,
	vial,
	...more
});

/** Writes down a run: each thing said happens so many seconds after its start. */
function startRun(tests: RunTest[], people = 1) {
	const events: RunEvent[] = [];
	let count = 0;
	const say = (seconds: number, event: Record<string, unknown>) => {
		events.push({
			id: `e${String(count++).padStart(5, '0')}`,
			at: new Date(T0 + seconds * 1000).toISOString(),
			...event
		} as RunEvent);
	};
	say(0, { kind: 'begin', tests, people, order: [], save: 'together' });
	const run = (): Run => runOf(events, methodOf)!;
	return { events, say, run, moment: () => momentOf(run(), restOf(run())) };
}
const READ = { readingId: 'r', reading: { shade: 1 } };

describe('a run', () => {
	it('goes from step to step, starts clocks at the end of a step, and fills waits', () => {
		const e = startRun([test('no3', 'no3-card', 1), test('alk', 'alk-syringe-6', 2)]);
		// Nitrate has the wait: its seven steps come first, then alkalinity while it stands.
		let at = 0;
		for (let step = 0; step < 6; step++) {
			expect(e.moment().hands[0]).toMatchObject({ test: 'no3', step });
			e.say((at += 20), { kind: 'end', test: 'no3', step });
		}
		expect(e.moment()).toMatchObject({
			hands: [{ test: 'alk', step: 0, started: false }],
			clocks: [{ test: 'no3', step: 6, opens: T0 + (at + 300) * 1000, closes: T0 + (at + 420) * 1000 }]
		});
		for (let step = 0; step < 6; step++) e.say((at += 20), { kind: 'end', test: 'alk', step });
		// Nothing to do until the card may be read.
		expect(e.moment().hands[0]).toMatchObject({ test: 'no3', step: 6, from: T0 + (120 + 300) * 1000 });
		e.say(425, { kind: 'read', test: 'no3', step: 6, taken: READ });
		e.say(430, { kind: 'finish' });
		const run = e.run();
		expect(run.finishedAt).toBe(T0 + 430_000);
		expect(run.tests[0]!.taken).toMatchObject(READ);
		// The read began when the window opened.
		expect(conductOf(run.tests[0]!).at(-1)).toMatchObject({ start: '2026-05-06T18:07:00.000Z', marks: [] });
	});

	it('keeps what was done otherwise: a shake cut short, a step skipped, a wait cut, a late look', () => {
		const e = startRun([test('no3', 'no3-card', 1)]);
		e.say(20, { kind: 'end', test: 'no3', step: 0 });
		e.say(40, { kind: 'end', test: 'no3', step: 1 });
		e.say(55, { kind: 'end', test: 'no3', step: 2 });
		e.say(60, { kind: 'start', test: 'no3', step: 3 });
		e.say(85, { kind: 'end', test: 'no3', step: 3 });
		e.say(90, { kind: 'skip', test: 'no3', step: 4 });
		e.say(100, { kind: 'end', test: 'no3', step: 5 });
		e.say(200, { kind: 'early', test: 'no3', step: 6 });
		e.say(220, { kind: 'read', test: 'no3', step: 6, taken: READ });
		const marks = () => e.run().tests[0]!.done.map((d) => d.marks);
		expect(marks()).toEqual([
			[],
			[],
			[],
			[{ kind: 'short', seconds: 25, of: 60 }],
			[{ kind: 'skipped' }],
			[{ kind: 'short', seconds: 10, of: 15 }],
			[{ kind: 'early', seconds: 100, of: 300 }]
		]);
		// The vial is spoilt: again from the first step, and this time the look comes late.
		e.say(300, { kind: 'again', test: 'no3', spoilt: true });
		for (let step = 0; step < 6; step++) e.say(400 + 60 * step, { kind: 'end', test: 'no3', step });
		e.say(1200, { kind: 'start', test: 'no3', step: 6 });
		e.say(1210, { kind: 'read', test: 'no3', step: 6, taken: READ });
		// Window from 700 + 300 to 1120.
		expect(marks().at(-1)).toEqual([{ kind: 'late', seconds: 80 }]);
		expect(e.run().tests[0]).toMatchObject({ attempt: 2, before: [] });
	});

	it('re-plans at once: a test added, one left out, one taken up out of turn; what has started stays', () => {
		const e = startRun([test('k', 'k-drops-filter', 1), test('alk', 'alk-syringe-6', 2)]);
		for (let step = 0; step < 5; step++) e.say(30 * (step + 1), { kind: 'end', test: 'k', step });
		expect(e.moment().hands[0]!.test).toBe('alk');
		const before = restOf(e.run())!.plan.makespan;
		e.say(160, { kind: 'add', added: test('nh4', 'nh4-card', 3) });
		const plan = restOf(e.run())!.plan;
		expect(plan.steps.filter((s) => s.end <= 160 && s.test === 'k').map((s) => s.end)).toEqual([
			30, 60, 90, 120, 150
		]);
		// Fifteen minutes of standing fit beside the filter.
		expect(plan.makespan).toBe(before);
		e.say(161, { kind: 'start', test: 'nh4', step: 0 });
		expect(e.moment().hands[0]).toMatchObject({ test: 'nh4', step: 0, started: true });
		e.say(162, { kind: 'drop', test: 'nh4' });
		e.say(162, { kind: 'drop', test: 'k' });
		expect(e.moment()).toMatchObject({ hands: [{ test: 'alk', step: 0 }], clocks: [] });
	});

	it('holds a window open that cannot be kept, says so, and does it first', () => {
		const e = startRun([
			test('no3', 'no3-card', 1),
			test('po4', 'po4-wheel', 2),
			test('alk', 'alk-drops', 3)
		]);
		for (let step = 0; step < 6; step++) e.say(20 * (step + 1), { kind: 'end', test: 'no3', step });
		for (let step = 0; step < 6; step++) e.say(120 + 20 * (step + 1), { kind: 'end', test: 'po4', step });
		// The phone rang: both windows have closed.
		e.say(900, { kind: 'end', test: 'alk', step: 0 });
		const rest = restOf(e.run())!;
		expect(rest.late.map((l) => l.test).sort()).toEqual(['no3', 'po4']);
		const order = rest.plan.steps.filter((s) => s.start >= 900).map((s) => s.test);
		expect(order.slice(0, 2).sort()).toEqual(['no3', 'po4']);
	});

	it('is the same whatever order events arrive in, and twice changes nothing', () => {
		const e = startRun([test('no3', 'no3-card', 1), test('ca', 'ca-syringe-5', 2)]);
		e.say(20, { kind: 'end', test: 'no3', step: 0 });
		e.say(30, { kind: 'end', test: 'ca', step: 0 });
		e.say(31, { kind: 'end', test: 'ca', step: 0 });
		e.say(40, { kind: 'end', test: 'no3', step: 5 });
		const once = e.run();
		expect(once.tests.map((t) => t.done.length)).toEqual([1, 1]);
		expect(runOf([...e.events].reverse(), methodOf)).toEqual(once);
		expect(runOf([...e.events, ...e.events], methodOf)!.tests).toEqual(once.tests);
		// Taken back is as if it had not happened.
		e.say(50, { kind: 'undo', of: 'e00001' });
		expect(e.run().tests.map((t) => t.done.length)).toEqual([0, 1]);
	});

	it('gives two pairs of hands a step each', () => {
		const e = startRun([test('ca', 'ca-drops', 1), test('alk', 'alk-drops', 2)], 2);
		expect(
			e
				.moment()
				.hands.map((h) => h.test)
				.sort()
		).toEqual(['alk', 'ca']);
		e.say(5, { kind: 'start', test: 'alk', step: 0 });
		expect(e.moment().hands.map((h) => [h.test, h.started])).toEqual([
			['alk', true],
			['ca', false]
		]);
	});
});

describe('a run that is not as it should be', () => {
	it('ignores a reading where nothing is read, after the end, and of a test that was left out', () => {
		const e = startRun([test('alk', 'alk-drops', 1), test('ca', 'ca-drops', 2)]);
		e.say(5, { kind: 'read', test: 'alk', step: 0, taken: READ });
		e.say(10, { kind: 'read', test: 'alk', step: 3, taken: READ });
		e.say(11, { kind: 'read', test: 'nothing', step: 0, taken: READ });
		e.say(12, { kind: 'drop', test: 'ca' });
		e.say(13, { kind: 'read', test: 'ca', step: 0, taken: READ });
		expect(e.run().tests.map((t) => [t.done.length, t.taken])).toEqual([
			[0, undefined],
			[0, undefined]
		]);
		for (const step of [0, 1]) e.say(20 + step, { kind: 'end', test: 'alk', step });
		e.say(30, { kind: 'read', test: 'alk', step: 2, taken: READ });
		// After its last step there is none to read, and none to end.
		e.say(31, { kind: 'read', test: 'alk', step: 3, taken: { ...READ, readingId: 'late' } });
		e.say(32, { kind: 'end', test: 'alk', step: 3 });
		expect(e.run().tests[0]!.taken).toMatchObject(READ);
		// Read once more at the same step: what was read last counts, and the step was done once.
		e.say(33, { kind: 'read', test: 'alk', step: 2, taken: { ...READ, readingId: 'again' } });
		expect(e.run().tests[0]).toMatchObject({ taken: { readingId: 'again' }, done: { length: 3 } });
	});

	it('counts nothing after its end, and a test it has no method for is not there', () => {
		const e = startRun([test('alk', 'alk-drops', 1), test('odd', 'no-such-method', 2)]);
		expect(e.run().tests.map((t) => t.id)).toEqual(['alk']);
		e.say(5, { kind: 'finish' });
		e.say(9, { kind: 'end', test: 'alk', step: 0 });
		expect(e.run()).toMatchObject({ finishedAt: T0 + 5000, tests: [{ done: [] }] });
		expect(runOf([], methodOf)).toBeUndefined();
	});

	it('takes back the last thing that was meant, one after the other', () => {
		const e = startRun([test('alk', 'alk-drops', 1)]);
		expect(lastMeant(e.events)).toBeUndefined();
		e.say(5, { kind: 'end', test: 'alk', step: 0 });
		e.say(9, { kind: 'end', test: 'alk', step: 1 });
		expect(lastMeant(e.events)).toMatchObject({ step: 1 });
		e.say(10, { kind: 'undo', of: lastMeant(e.events)!.id });
		expect(lastMeant(e.events)).toMatchObject({ step: 0 });
		e.say(11, { kind: 'undo', of: lastMeant(e.events)!.id });
		expect(lastMeant(e.events)).toBeUndefined();
		expect(e.run().tests[0]!.done).toEqual([]);
	});

	it('plans on where two tests hold what the other needs', () => {
		const crossed = (id: string, mine: string, theirs: string): Method => ({
			...(methodOf('alk-drops') as Method),
			id,
			steps: [
				{ do: 'add', text: 'Take mine.', seconds: 10, uses: mine },
				{ do: 'add', text: 'Take theirs too.', seconds: 10, uses: theirs },
				{ do: 'titrate', text: 'Titrate.', seconds: 20, uses: theirs }
			]
		});
		const methods = [crossed('a', 'meter', 'stand'), crossed('b', 'stand', 'meter')];
		const events = [
			{ kind: 'begin', tests: [test('a', 'a', 1), test('b', 'b', 2)], people: 1, order: [], save: 'each' },
			{ kind: 'end', test: 'a', step: 0 },
			{ kind: 'end', test: 'b', step: 0 }
		].map((e, i) => ({ id: `e${i}`, at: new Date(T0 + 10_000 * i).toISOString(), ...e })) as RunEvent[];
		const rest = restOf(runOf(events, (id) => methods.find((m) => m.id === id))!)!;
		expect(rest.plan.steps.filter((s) => s.start >= 20).map((s) => s.end - s.start)).toEqual([
			10, 20, 10, 20
		]);
	});
});
