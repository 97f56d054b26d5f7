import { describe, expect, it } from 'vitest';
import type { Method, SyringeMethod } from '$core/instruments';
import { SHIPPED_METHODS, withOwnChart } from '$core/methods';
import { parameterOf } from '$core/catalogue';
import type { EarlierReading } from '$lib/api/readings';
import { freshDraft, type Draft } from './draft';
import { draftIfYes, nextDraft, readerView, settledBy, takenFrom } from './reader-session';
import type { AtHand, ReaderView } from './reader-session';
import { plungerAt, plungerLeft, readUnder } from './syringe/draft';
import { readOn } from './syringe/read-on';

/** As if its chart were the keeper's. */
const shipped = (id: string): Method => withOwnChart(SHIPPED_METHODS.find((m) => m.id === id)!);
const syringe = shipped('alk-syringe-6') as SyringeMethod;
const leftIn = (view: ReaderView) => plungerLeft(syringe, readOn(view));
const last = {
	id: 'last',
	value: 8.4,
	standardUncertainty: 0.15,
	repeatability: 0.1,
	qualifier: '=',
	interval: [8.1, 8.7],
	unit: 'dKH',
	methodId: 'kit',
	ownChart: true,
	takenAt: '2026-05-01T20:00:00.000Z'
} as unknown as EarlierReading;
const hand = (over: Partial<AtHand> = {}): AtHand => ({
	method: syringe,
	methodId: 'kit',
	parameter: parameterOf('alkalinity')!,
	band: { lower: 7.8, upper: 9.2 },
	water: 'tank',
	earlier: [last],
	level: { value: 8.4, standardDeviation: 0.15 },
	other: undefined,
	proved: undefined,
	now: '2026-05-06T20:00:00.000Z',
	timeZone: 'Europe/Dublin',
	...over
});
const standing = (text: string, over: Partial<Draft> = {}, method: Method = syringe): Draft => ({
	...freshDraft(method),
	text,
	...over
});

describe('what an instrument says', () => {
	it('says nothing of an empty instrument, and what is wrong with what cannot be', () => {
		const empty = readerView(hand(), standing(''), []);
		expect([empty.request, empty.own, empty.problem]).toEqual([undefined, undefined, undefined]);
		expect(leftIn(empty)).toBe(1);
		const wrong = readerView(hand(), standing('7 ml'), []);
		expect(wrong.own).toBeUndefined();
		expect(wrong.problem).toMatch(/\w/);
		// The plunger does not jump to what was mistyped.
		expect(leftIn(wrong)).toBe(1);
	});

	it('gives value, place, change and words at once, and the plunger where it is read', () => {
		const view = readerView(hand(), standing('0.48'), []);
		expect(leftIn(view)).toBe(0.48);
		expect(view.own?.value).toBeCloseTo(8.748, 3);
		expect(view.place?.state).toBe('inside');
		expect(view.change).toMatch(/last test/);
		expect(view.spoken).toContain('dKH');
	});

	it('asks about a misreading until it is settled, for that text only', () => {
		const typed = standing('0.52', { readAs: 'used' });
		const [question] = readerView(hand({ level: { value: 7.9, standardDeviation: 0.1 } }), typed, []).asked;
		const other = standing('0.20');
		const asked = readerView(hand(), other, []).asked;
		const about = question ?? asked[0];
		expect(about, 'something is asked of a value far off').toBeDefined();
		const draft = question ? typed : other;
		const settled = settledBy([], draft, about!.slip);
		const level = question ? { level: { value: 7.9, standardDeviation: 0.1 } } : {};
		expect(readerView(hand(level), draft, settled).asked.map((q) => q.slip)).not.toContain(about!.slip);
	});

	it('doubts what no tank has before anything is known of this one', () => {
		const glass = SHIPPED_METHODS.find((m) => m.id === 'psu-refractometer')!;
		const at = hand({
			method: glass,
			parameter: parameterOf('salinity')!,
			earlier: [],
			level: undefined,
			band: undefined
		});
		expect(readerView(at, standing('1.022', {}, glass), []).nowhere).toMatch(
			/^Tanks have 28 to 39 PSU; this is 1/
		);
		expect(readerView(at, standing('33', {}, glass), []).nowhere).toBeUndefined();
		// Of water that is not the tank's anything may be right.
		const tap = { ...at, water: 'tap' as const };
		expect(readerView(tap, standing('1', {}, glass), []).nowhere).toBeUndefined();
	});

	it('turns to the place a yes means', () => {
		// Typed as left where the water says that so much was used.
		const draft = standing('0.30');
		const used = readerView(hand(), standing('0.30', { readAs: 'used' }), []).own!.value!;
		const at = hand({ level: { value: used, standardDeviation: 0.1 } });
		const view = readerView(at, draft, []);
		const meant = view.asked.map((q) => draftIfYes(view.request!, draft, q.slip, q.value!));
		const turned = meant.find((m) => m?.readAs === 'used');
		expect(turned).toBeDefined();
		expect(readerView(at, turned!, []).own?.value).toBeCloseTo(used, 9);
	});

	it('expects only of a level that is known', () => {
		expect(readerView(hand({ level: undefined }), standing('0.48'), []).request?.expected).toBeUndefined();
		expect(readerView(hand(), standing('0.48'), []).request?.expected?.mean).toBeCloseTo(8.4, 9);
	});
});

describe('the plunger', () => {
	it('stays where it was put when the convention changes; what was typed is read anew', () => {
		const put = standing(plungerAt(syringe, 'left', 0.48).text);
		expect(put.text).toBe('0.48');
		const turned = { ...put, ...readUnder(syringe, 'used', leftIn(readerView(hand(), put, []))) };
		expect([turned.text, turned.readAs]).toEqual(['0.52', 'used']);
		expect(leftIn(readerView(hand(), turned, []))).toBeCloseTo(0.48, 9);
		expect(readUnder(syringe, 'used', undefined)).toEqual({ readAs: 'used' });
	});
});

it('keeps what was seen, with what it takes away, and leaves the instrument as it is held', () => {
	const draft = standing('0.48', { readAs: 'used', sampleSize: 'half' });
	const { request } = readerView(hand(), draft, []);
	expect(takenFrom(hand(), draft, request!)).toEqual({
		sampleSize: 'half',
		reading: { reads: 'syringe', used: 0.48 }
	});
	const next = nextDraft(syringe, { ...draft, refills: 2 });
	expect([next.text, next.readAs, next.sampleSize, next.refills]).toEqual(['', 'used', 'half', 0]);
	const takesAway = SHIPPED_METHODS.find((m) => m.takeAway)!;
	const other = {
		id: 'ca',
		parameter: takesAway.takeAway!.parameter,
		value: 420,
		standardUncertainty: 10,
		repeatability: 8,
		qualifier: '=' as const,
		interval: [404, 436] as [number, number],
		unit: 'mg/L',
		takenAt: last.takenAt,
		ownChart: true
	};
	const magnesium = hand({
		method: takesAway,
		parameter: parameterOf(takesAway.parameter)!,
		other,
		earlier: [],
		level: undefined
	});
	const seen = readerView(magnesium, standing('0.5', {}, takesAway), []);
	// What stays with the other's kit stays in the difference too.
	expect(seen.request?.other).toEqual({
		[other.parameter]: { value: 420, standardUncertainty: 10, trueness: 6 }
	});
	expect(takenFrom(magnesium, standing('0.5', {}, takesAway), seen.request!).takenAwayId).toBe('ca');
	// Without it nothing is claimed.
	expect(
		readerView({ ...magnesium, other: undefined }, standing('0.5', {}, takesAway), []).own
	).toBeUndefined();
});
