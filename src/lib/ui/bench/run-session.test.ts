import { beforeEach, describe, expect, it } from 'vitest';
import { SHIPPED_METHODS } from '$core/methods';
import { restOf, type Rest, type RunEvent } from '$core/run';
import type { PendingWrite } from '$lib/client/pending-write';
import { testsOf, type Choice } from './choices';
import { openRunSession, runView, testOf, type RunParts, type RunSession } from './run-session';

const profileOf = (id: string) => SHIPPED_METHODS.find((m) => m.id === id)!;
const choice = (id: string): Choice => ({ id: `m-${id}`, versionId: id, profile: profileOf(id) });
const BEGAN = Date.parse('2026-05-06T20:00:00Z');

/** A session of these methods whose clock goes on when the test says so, as a page would show and hear it. */
function startRun(ids: string[], save: 'each' | 'together' = 'together') {
	const heard: string[] = [];
	const posted: PendingWrite[] = [];
	const sent = new Set<PendingWrite>();
	let events: RunEvent[] = [
		{
			id: 'e0',
			at: new Date(BEGAN).toISOString(),
			kind: 'begin',
			people: 1,
			order: [],
			save,
			tests: testsOf(
				ids.map((id) => ({ choice: choice(id) })),
				[]
			)
		}
	];
	let at = BEGAN;
	let steady = 0;
	let planned: { of: unknown; rest: Rest | undefined } | undefined;
	const view = () => runView(events, planned, false, profileOf, []);
	/** The planner answers. */
	const plan = () => (planned = { of: events, rest: restOf(view().run!) });
	const parts: RunParts = {
		runId: 'run',
		sourceId: () => 'water',
		view,
		methodOf: profileOf,
		packs: () => [],
		now: () => at,
		steady: () => steady,
		say: (happening, when) => {
			events = [...events, { id: `e${events.length}`, at: when.toISOString(), ...happening } as RunEvent];
		},
		sound: (test, times) => heard.push(`tone ${test} ${times}`),
		speak: (words) => heard.push(words),
		post: (write) => posted.push(write),
		unsend: (isIt) => {
			const waiting = posted.find((w) => isIt(w) && !sent.has(w));
			if (waiting) posted.splice(posted.indexOf(waiting), 1);
			return waiting !== undefined;
		}
	};
	const session: RunSession = openRunSession(parts);
	plan();
	return {
		session,
		heard,
		posted,
		sent,
		plan,
		view,
		kinds: () => events.map((e) => e.kind),
		/** Time passes, by both clocks, in one go or in turns of the page. */
		pass(seconds: number, turns = 1): void {
			for (let i = 0; i < turns; i++) {
				const before = at;
				at += (seconds * 1000) / turns;
				steady += (seconds * 1000) / turns;
				session.turn(before, at);
				if (planned?.of !== events) plan();
			}
		},
		/** Time passes before the planner has answered. */
		idle(seconds: number): void {
			at += seconds * 1000;
			steady += seconds * 1000;
		},
		step() {
			const hand = view().moment!.hands[0]!;
			return testOf(view().run!, hand.test).steps[hand.step]!;
		},
		press(): void {
			session.press();
			plan();
		}
	};
}
/** Goes on until `there`, working ten seconds at a step and shaking as long as it takes. */
function until(house: ReturnType<typeof startRun>, there: () => boolean): void {
	for (let i = 0; i < 200 && !there(); i++) {
		const step = house.step();
		house.pass(10);
		if (there()) return;
		house.press();
		if (step.countdown) house.pass(step.countdown + 1);
	}
	expect(there()).toBe(true);
}

let house: ReturnType<typeof startRun>;
beforeEach(() => (house = startRun(['alk-syringe-6'])));

describe('a press', () => {
	it('ends the step at hand, once: a second one at once is the same press', () => {
		house.pass(8);
		house.session.press();
		house.plan();
		house.session.press();
		expect(house.kinds()).toEqual(['begin', 'end']);
		house.pass(0.3);
		house.session.press();
		expect(house.kinds()).toEqual(['begin', 'end']);
		house.pass(0.2);
		house.session.press();
		expect(house.kinds().length).toBe(3);
	});

	it('does nothing while the rest is planned anew, where hands wait, and where an instrument is read', () => {
		const unplanned = startRun(['alk-syringe-6']);
		unplanned.pass(8);
		unplanned.session.press();
		// The plan is of before that press: what is at hand is not known.
		const before = unplanned.kinds().length;
		unplanned.idle(5);
		unplanned.session.press();
		expect(unplanned.kinds().length).toBe(before);
		unplanned.plan();
		unplanned.session.press();
		expect(unplanned.kinds().length).toBe(before + 1);
		until(house, () => house.step().reads);
		const kinds = house.kinds();
		house.pass(5);
		house.press();
		expect(house.kinds()).toEqual(kinds);
	});

	it('ends a shake early by its own button only', () => {
		const card = startRun(['no3-card']);
		until(card, () => card.step().countdown !== undefined);
		card.pass(3);
		card.session.press();
		card.plan();
		card.pass(8);
		card.press();
		expect(card.kinds().at(-1)).toBe('start');
		card.session.early(card.view().moment!.hands[0]!);
		expect(card.kinds().at(-1)).toBe('end');
	});

	it('begins a shake, which a misreading of the finger does not end and the clock does', () => {
		const card = startRun(['no3-card']);
		until(card, () => card.step().countdown !== undefined);
		const shake = card.step().countdown!;
		card.pass(3);
		card.session.press();
		card.plan();
		expect(card.kinds().at(-1)).toBe('start');
		card.pass(1);
		card.press();
		expect(card.kinds().at(-1)).toBe('start');
		card.pass(shake - 1.5);
		expect(card.kinds().at(-1)).toBe('start');
		const tones = card.heard.length;
		card.pass(1);
		expect(card.kinds().at(-1)).toBe('end');
		expect(card.heard.slice(tones)).toContain('tone 0 2');
	});
});

it('tells of a wait once: before it is over, when it is, and before it closes, however the page slept meanwhile', () => {
	const waits = (turns: number) => {
		const card = startRun(['no3-card']);
		until(card, () => (card.view().moment?.clocks.length ?? 0) > 0);
		card.heard.length = 0;
		const [clock] = card.view().moment!.clocks;
		const seconds = ((clock!.closes ?? clock!.opens) - BEGAN) / 1000 + 1;
		card.pass(seconds, turns);
		return card.heard;
	};
	const watched = waits(400);
	expect(watched.filter((h) => /closes in 15 seconds/.test(h)).length).toBeLessThanOrEqual(1);
	expect(watched.filter((h) => /^Nitrate\. /.test(h))).toHaveLength(1);
	expect([...waits(1)].sort()).toEqual([...watched].sort());
});

describe('what was read', () => {
	const read = (of: ReturnType<typeof startRun>) => {
		until(of, () => of.step().reads);
		of.pass(20);
		of.session.take(of.view().moment!.hands[0]!, { reading: { left: 0.48 }, sampleSize: 'full' });
		of.plan();
	};

	it('is saved at the end, where it was chosen', () => {
		read(house);
		expect(house.posted).toEqual([]);
		expect(house.view().over).toBe(true);
		house.session.finish(house.view().results);
		expect(house.posted.map((w) => w.about)).toEqual([expect.stringMatching(/^Alkalinity 8\.7 ± .* dKH$/)]);
		expect(house.posted[0]!.body).toMatchObject({ sourceId: 'water', sampleId: 'run', runId: 'run' });
		expect(house.kinds().at(-1)).toBe('finish');
	});

	it('goes out as it comes, and is taken back with the step: unsent where it has not left, voided where it has', () => {
		const each = startRun(['alk-syringe-6'], 'each');
		read(each);
		expect(each.posted).toHaveLength(1);
		each.session.takeBack();
		expect([each.posted, each.view().results]).toEqual([[], []]);

		const gone = startRun(['alk-syringe-6'], 'each');
		read(gone);
		gone.sent.add(gone.posted[0]!);
		gone.session.takeBack();
		expect(gone.posted.map((w) => w.about)).toEqual([expect.any(String), 'taking back a result']);
		// Saved together, nothing has gone out that would have to come back.
		read(house);
		house.session.takeBack();
		expect(house.posted).toEqual([]);
	});
});

it('takes one more test in, in a vial of its own, and only what begins a session is one', () => {
	house.session.add(choice('no3-card'));
	expect(house.view().run!.tests.map((t) => [t.methodVersionId, t.vial])).toEqual([
		['alk-syringe-6', 1],
		['no3-card', 2]
	]);
	expect(Object.values(house.view().titles)).toEqual(['Alkalinity', 'Nitrate']);
	expect(runView([], undefined, false, profileOf, []).run).toBeUndefined();
	expect(() => testOf(house.view().run!, 'nobody')).toThrow(/no test/);
});
