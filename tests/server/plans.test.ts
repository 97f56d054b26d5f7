import { eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { saltEvents, type PlanStep } from '../../src/core/adjust';
import { Book } from '../../src/core/formats';
import { SHIPPED_METHODS, withOwnChart } from '../../src/core/methods';
import { trend, type DatedEvent } from '../../src/core/trend';
import type { Asker } from '../../src/lib/server/identity/asker';
import { database } from '../../src/lib/server/db/connection';
import { event, membership, supplement } from '../../src/lib/server/db/schema';
import { bookFile } from '../../src/lib/server/archive/book-export';
import { takeBook } from '../../src/lib/server/archive/book-import';
import { calendarOf } from '../../src/lib/server/answers/calendar';
import { eventsOfTank, saveEvent } from '../../src/lib/server/stores/events';
import { methodsFor, saveMethod } from '../../src/lib/server/stores/methods';
import {
	doStep,
	endPlan,
	followedPlan,
	openSteps,
	undoStep,
	eventsOf
} from '../../src/lib/server/stores/plans';
import { followPlan, planFor } from '../../src/lib/server/answers/plans';
import { leftToExplain } from '../../src/core/adjust';
import { saveReading } from '../../src/lib/server/stores/readings';
import {
	finishSupplement,
	saveSupplement,
	supplementsOf,
	usedOf
} from '../../src/lib/server/stores/supplements';
import {
	changeSystem,
	createSystem,
	saveSource,
	sourcesOf,
	systemsOf
} from '../../src/lib/server/stores/systems';
import { outlookOf } from '../../src/lib/server/answers/outlook';
import { parse } from '../../src/lib/server/validation';
import { again, newPerson, openStores, status } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
let close: () => Promise<void>;
let keeper: Asker;
let stranger: Asker;
let viewer: Asker;
/** The demo’s small tank, whose alkalinity is too low. */
let tank: string;
const words = { step: () => 'pour', always: 'slowly', due: () => 'due' };

beforeAll(async () => {
	({ keeper, close } = await openStores(NOW));
	tank = (await systemsOf(keeper)).find((s) => s.name === 'Windowsill')!.id;
	[stranger, viewer] = [await newPerson('Another'), await newPerson('A third')];
	await database().insert(membership).values({ userId: viewer.userId, systemId: tank, role: 'viewer' });
});
afterAll(() => close());

const SODA = {
	format: 'tevrik.supplement/1' as const,
	id: 'x',
	name: 'Soda',
	kind: 'solution' as const,
	composition: { recipe: { salt: 'NaHCO3', gramsPerL: 80 } }
};
async function follow(wish = {}) {
	const id = uuid();
	const made = await followPlan(again(keeper), id, tank, wish);
	if (!made.ok) throw new Error(JSON.stringify(made.problems));
	return { id, plan: (await followedPlan(again(keeper), tank))! };
}

it('a plan does not take its own pours for water that stands by itself', () => {
	const at = (day: number) => new Date(NOW.getTime() + day * 86_400_000).toISOString();
	const days = Array.from({ length: 21 }, (_, i) => i - 20.5);
	const known = trend({
		parameter: 'alkalinity',
		unit: 'dKH',
		readings: days.map((d) => ({ at: at(d), value: 8.4, standardUncertainty: 0.1 })),
		// Poured each evening, as a plan said: half a dKH, which is what the tank uses.
		events: days.map((d) => ({ at: at(d + 0.25), kind: 'dose', change: 0.5 })),
		now: NOW.toISOString()
	});
	if (!known.ok) throw new Error(JSON.stringify(known.problems));
	expect(Math.abs(known.value.netPerDay.value)).toBeLessThan(0.05);
	expect(leftToExplain(known.value, 0).mean).toBeCloseTo(0.5, 1);
});

it('a tank of its first day, each level tested twice, is brought home from that day on', async () => {
	const who = await newPerson('A beginner');
	const first = uuid();
	const made = await createSystem(who, {
		id: first,
		name: 'First',
		netVolumeL: 180,
		timeZone: 'Europe/Dublin',
		school: 'raised levels',
		alkalinity: { lower: 8, upper: 9.5 }
	});
	expect(made.ok).toBe(true);
	const water = (await sourcesOf(again(who), first))[0]!.id;
	const seen = {
		'alk-syringe-6': [0.56, 0.565],
		'ca-syringe-5': [0.25, 0.26],
		'sg-refractometer': [1.026, 1.026]
	};
	for (const [id, lines] of Object.entries(seen)) {
		const profile = withOwnChart(SHIPPED_METHODS.find((m) => m.id === id)!);
		const kit = await saveMethod(again(who), uuid(), { profile }, NOW);
		if (!kit.ok) throw new Error(JSON.stringify(kit.problems));
		for (const [i, line] of lines.entries()) {
			const saved = await saveReading(again(who), uuid(), {
				sourceId: water,
				sampleId: uuid(),
				takenAt: new Date(NOW.getTime() - (i + 1) * 600_000).toISOString(),
				methodVersionId: kit.value.versionId,
				reading: profile.reads === 'syringe' ? { left: line } : { shown: line }
			});
			expect(saved.ok).toBe(true);
		}
	}
	const calcium = {
		...SODA,
		name: 'Calcium',
		composition: { recipe: { salt: 'CaCl2.2H2O', gramsPerL: 150 } }
	};
	for (const profile of [SODA, calcium])
		expect((await saveSupplement(again(who), uuid(), { profile, amount: 2000 })).ok).toBe(true);
	const { request, result } = await planFor(again(who), first, {});
	const its = (parameter: string) => request.parameters.find((p) => p.parameter === parameter)!;
	// Nothing is known of the use, and both levels are low.
	expect(its('alkalinity').usePerDay.standardDeviation).toBeGreaterThan(0.2);
	for (const parameter of ['alkalinity', 'calcium']) {
		expect(its(parameter).now.mean).toBeLessThan(its(parameter).band.lower);
		const pours = result.steps.filter((s) => s.kind === 'dose' && s.parameter === parameter);
		expect(pours[0]!.day).toBe(0);
		for (const pour of pours)
			expect(pour.changes![parameter]).toBeLessThanOrEqual(its(parameter).healthyPerDay.up);
		expect(result.path[parameter]!.at(-1)!.mean).toBeGreaterThan(its(parameter).band.lower);
		const tests = result.steps.filter((s) => s.kind === 'test' && s.parameter === parameter);
		expect(tests[0]!.day).toBeLessThanOrEqual(3);
	}
	expect([result.safe, result.refused]).toEqual([true, []]);
});

describe('things to pour', () => {
	it('are their keeper’s alone, and say beside the place what cannot be', async () => {
		const id = uuid();
		const before = (await supplementsOf(again(keeper))).length;
		expect(await saveSupplement(again(keeper), id, { profile: SODA, amount: 500 })).toMatchObject({
			ok: true
		});
		expect(await saveSupplement(again(keeper), id, { profile: SODA, amount: 500 })).toMatchObject({
			ok: true
		});
		expect((await supplementsOf(again(keeper))).length).toBe(before + 1);
		expect(await saveSupplement(again(stranger), id, { profile: SODA })).toMatchObject({ ok: false });
		expect(await supplementsOf(again(stranger))).toEqual([]);
		expect(await status(finishSupplement(again(stranger), id, true))).toBe(404);
		const strong = { ...SODA, composition: { recipe: { salt: 'NaHCO3', gramsPerL: 400 } } };
		expect(await saveSupplement(again(keeper), uuid(), { profile: strong })).toMatchObject({
			problems: [{ path: '/profile/composition/recipe/gramsPerL' }]
		});
		await finishSupplement(again(keeper), id, true);
		expect((await supplementsOf(again(keeper))).length).toBe(before);
	});
	it('are used by pours and dosing pumps, from their opening on', () => {
		const at = (day: number) => new Date(NOW.getTime() + day * 86_400_000).toISOString();
		const events: DatedEvent[] = [
			{ at: at(-40), kind: 'dosing', parameter: 'alkalinity', perDay: 0.5, supplementId: 'a', mlPerDay: 10 },
			{ at: at(-20), kind: 'dosing', parameter: 'alkalinity', perDay: 1, supplementId: 'a', mlPerDay: 20 },
			{ at: at(-5), kind: 'dosing', parameter: 'alkalinity', perDay: 0 },
			{ at: at(-10), kind: 'dose', parameter: 'alkalinity', change: 1, supplementId: 'a', amountMl: 7 },
			{ at: at(-35), kind: 'dose', parameter: 'alkalinity', change: 1, supplementId: 'a', amountMl: 100 },
			{ at: at(-3), kind: 'dose', parameter: 'alkalinity', change: 1, supplementId: 'b', amountMl: 100 }
		];
		const from = NOW.getTime() - 30 * 86_400_000;
		expect(usedOf('a', events, from, NOW.getTime())).toBeCloseTo(10 * 10 + 15 * 20 + 7, 6);
	});
	it('of the demo say what is left and for how long', async () => {
		const carbonate = (await supplementsOf(again(keeper))).find(
			(s) => s.profile.name === 'Carbonate solution'
		)!;
		expect(carbonate.left).toBeGreaterThan(0);
		expect(carbonate.left).toBeLessThan(5000);
		expect(carbonate.lastsDays).toBeGreaterThan(5);
	});
});

describe('a plan', () => {
	it('rests on the trends, what stands on the shelf and what is unsure', async () => {
		const { request, result, names } = await planFor(again(keeper), tank, {});
		const alkalinity = request.parameters.find((p) => p.parameter === 'alkalinity')!;
		expect(alkalinity.now.mean).toBeLessThan(alkalinity.band.lower);
		const pours = result.steps.filter((s) => s.kind === 'dose' && s.parameter === 'alkalinity');
		expect(pours.length).toBeGreaterThan(1);
		expect(names[pours[0]!.supplement!]).toBe('Carbonate solution');
		const without = await planFor(again(keeper), tank, {
			without: [pours[0]!.supplement!],
			noChangeBefore: 'never'
		});
		expect(without.result.steps.some((s) => s.supplement === pours[0]!.supplement)).toBe(false);
		expect(without.result.refused).toContainEqual({ parameter: 'alkalinity', why: 'no-supplement' });
	});
	it('leaves out a bottle that was put on the shelf before it was known to be impossible', async () => {
		const id = uuid();
		const recipe = { salt: 'CaCO3', gramsPerL: 50 };
		await database()
			.insert(supplement)
			.values({ id, ownerId: keeper.userId, profile: { ...SODA, composition: { recipe } }, finished: false });
		const { request, result } = await planFor(again(keeper), tank, {});
		await finishSupplement(again(keeper), id, true);
		expect(request.supplements.some((s) => s.id === id)).toBe(false);
		// A plan is made all the same, and proved.
		expect(result.proved).toBe(true);
	});
	it('is the tank’s members’: strangers find none, viewers follow none', async () => {
		expect(await status(planFor(again(stranger), tank, {}))).toBe(404);
		expect(await status(followPlan(again(stranger), uuid(), tank, {}))).toBe(404);
		expect((await planFor(again(viewer), tank, {})).nothing).toBe(false);
		expect(await status(followPlan(again(viewer), uuid(), tank, {}))).toBe(403);
		const { id } = await follow();
		expect(await status(doStep(again(stranger), id, 0, { at: NOW.toISOString() }))).toBe(404);
		expect(await status(undoStep(again(viewer), id, 0))).toBe(403);
		expect(await status(endPlan(again(stranger), id))).toBe(404);
	});
	it('is followed once however often it is sent, and another takes its place', async () => {
		const { id } = await follow();
		expect(await followPlan(again(keeper), id, tank, { prefer: 'fewest' })).toMatchObject({ ok: true });
		expect((await followedPlan(again(keeper), tank))!.wish).toEqual({});
		const { id: other } = await follow({ prefer: 'fewest' });
		expect((await followedPlan(again(keeper), tank))!.id).toBe(other);
		expect(await status(doStep(again(keeper), id, 0, { at: NOW.toISOString() }))).toBe(404);
	});
	it('ticked off becomes what was done, once; another amount puts it right; taken back it is void', async () => {
		const { id, plan } = await follow();
		const place = plan.result.steps.findIndex((s) => s.kind === 'dose');
		const step = plan.result.steps[place]!;
		const poured = async () =>
			(await eventsOfTank(again(keeper), tank)).filter(
				(e) => e.event.kind === 'dose' && e.event.supplementId === step.supplement
			);
		const before = (await poured()).length;
		const at = NOW.toISOString();
		await doStep(again(keeper), id, place, { at });
		await doStep(again(keeper), id, place, { at });
		expect((await poured()).length).toBe(before + 1);
		expect((await poured()).at(-1)!.event).toMatchObject({
			amountMl: step.amount,
			parameter: 'alkalinity',
			change: expect.closeTo(step.changes!['alkalinity']!, 9) as number
		});
		await doStep(again(keeper), id, place, { at, amount: step.amount! / 2 });
		expect((await poured()).at(-1)!.event).toMatchObject({
			amountMl: step.amount! / 2,
			change: expect.closeTo(step.changes!['alkalinity']! / 2, 9) as number
		});
		// Left out after all, and poured after all.
		await doStep(again(keeper), id, place, { at, leftOut: true });
		expect((await poured()).length).toBe(before);
		await doStep(again(keeper), id, place, { at });
		expect((await poured()).length).toBe(before + 1);
		await undoStep(again(keeper), id, place);
		expect((await poured()).length).toBe(before);
		const voided = await database().select().from(event).where(eq(event.voided, true));
		expect(voided.map((e) => e.reason)).toContain('the tick in the plan was taken back');
		// Left out is said and changes nothing; a test is ticked off by measuring; nothing is done tomorrow.
		await doStep(again(keeper), id, place, { at, leftOut: true });
		expect((await poured()).length).toBe(before);
		expect((await followedPlan(again(keeper), tank))!.done[place]).toMatchObject({ leftOut: true });
		const test = plan.result.steps.findIndex((s) => s.kind === 'test');
		expect(await doStep(again(keeper), id, test, { at })).toMatchObject({ ok: false });
		expect(await doStep(again(keeper), id, 999, { at })).toMatchObject({ ok: false });
		const tomorrow = new Date(NOW.getTime() + 86_400_000).toISOString();
		expect(await doStep(again(keeper), id, place, { at: tomorrow })).toMatchObject({
			problems: [{ path: '/at' }]
		});
	});
	it('stands in the calendar and among what is open today', async () => {
		const { id, plan } = await follow();
		const open = await openSteps(again(keeper), tank, '2026-05-06');
		expect(open!.steps.length).toBeGreaterThan(0);
		expect(open!.steps.every((s) => s.date === '2026-05-06')).toBe(true);
		const calendar = async () => (await calendarOf(again(keeper), words)).match(/SUMMARY:Windowsill: pour/g);
		const days = new Set(plan.result.steps.filter((s) => s.kind === 'dose').map((s) => s.day));
		expect((await calendar())!.length).toBe(days.size);
		for (const s of open!.steps)
			await doStep(again(keeper), id, s.place, { at: NOW.toISOString(), leftOut: true });
		expect((await openSteps(again(keeper), tank, '2026-05-06'))!.steps).toEqual([]);
		expect((await calendar())!.length).toBe(days.size - 1);
		await endPlan(again(keeper), id);
		expect(await calendar()).toBeNull();
	});
	it('says what a new reading changes, and why', async () => {
		await follow();
		expect((await planFor(again(keeper), tank, {})).kept!.changes).toEqual([]);
		const kit = (await methodsFor(keeper)).find(
			(m) => m.own && m.profile.id === SHIPPED_METHODS.find((s) => s.id === 'alk-syringe-4-used')!.id
		)!;
		const [source] = await sourcesOf(again(keeper), tank);
		const reading = (used: number, minutes: number) =>
			saveReading(again(keeper), uuid(), {
				sourceId: source!.id,
				sampleId: uuid(),
				takenAt: new Date(NOW.getTime() - minutes * 60_000).toISOString(),
				methodVersionId: kit.versionId,
				reading: { used }
			});
		// Twice the same, well inside the band: it is there already. What was read before the plan was made is no news.
		await reading(0.45, 10);
		expect((await planFor(again(keeper), tank, {})).kept!.changes).toEqual([]);
		await reading(0.45, 0);
		const { kept, request } = await planFor(again(keeper), tank, {});
		const level = request.parameters.find((p) => p.parameter === 'alkalinity')!;
		const change = kept!.changes.find((c) => c.parameter === 'alkalinity')!;
		expect(change.now).toBeCloseTo(level.now.mean, 9);
		expect(change.beyondNoise || change.refusedNow !== null || change.after !== change.before).toBe(true);
	});
	it('takes a measured volume for better than a guess', async () => {
		const error = async () => (await planFor(again(keeper), tank, {})).request.water.volumeL;
		const { value, standardUncertainty } = await error();
		expect(standardUncertainty / value).toBeCloseTo(0.0866, 3);
		await changeSystem(again(keeper), tank, { netVolumeError: 0.5 });
		expect((await error()).standardUncertainty).toBe(0.5);
		await changeSystem(again(keeper), tank, { netVolumeError: null });
	});
	it('has nothing to go by where nothing was measured', async () => {
		const { createSystem } = await import('../../src/lib/server/stores/systems');
		const id = uuid();
		await createSystem(again(keeper), {
			id,
			name: 'Empty',
			netVolumeL: 60,
			timeZone: 'Europe/Dublin',
			alkalinity: { lower: 7, upper: 9 }
		});
		expect((await planFor(again(keeper), id, {})).nothing).toBe(true);
		expect(await followPlan(again(keeper), uuid(), id, {})).toMatchObject({ ok: false });
		// An event of a dosing pump without a bottle is no dosing pump of the shelf.
		await saveEvent(again(keeper), uuid(), {
			systemId: id,
			at: NOW.toISOString(),
			event: { kind: 'dosing', parameter: 'alkalinity', perDay: 0.3 }
		});
		expect((await planFor(again(keeper), id, {})).request.dosing).toEqual([]);
	});
});

describe('what a plan is made of', () => {
	it('goes by the drift the trends see, whatever the dosing pump was written to give and the volume was then', async () => {
		const gallery = (await systemsOf(keeper)).find((s) => s.name === 'Long Gallery')!.id;
		const [{ trends }, { request }] = [
			await outlookOf(again(keeper), gallery),
			await planFor(again(keeper), gallery, {})
		];
		expect(request.dosing.length).toBe(2);
		const driftIn = async () => {
			const { request: asked, result } = await planFor(again(keeper), gallery, { noChangeBefore: 'never' });
			return Object.fromEntries(
				asked.parameters.map((p) => [p.parameter, result.path[p.parameter]![1]!.mean - p.now.mean])
			);
		};
		const before = await driftIn();
		for (const parameter of ['alkalinity', 'calcium', 'salinity'])
			expect(before[parameter], parameter).toBeCloseTo(-leftToExplain(trends[parameter]!, 0).mean, 6);
		// A volume that is known better now changes what a pour does, and not what the water was seen to do.
		const { netVolumeL } = (await systemsOf(again(keeper))).find((s) => s.id === gallery)!;
		await changeSystem(again(keeper), gallery, { netVolumeL: netVolumeL * 0.8 });
		expect((await driftIn())['alkalinity']).toBeCloseTo(before['alkalinity']!, 6);
		await changeSystem(again(keeper), gallery, { netVolumeL });
	});
	it('has room for a dosing pump’s bottle on the fullest shelf; left alone, it doses on and nothing is poured of it', async () => {
		const gallery = (await systemsOf(keeper)).find((s) => s.name === 'Long Gallery')!.id;
		const ids = Array.from({ length: 16 }, () => uuid());
		for (const [i, id] of ids.entries())
			await saveSupplement(again(keeper), id, { profile: { ...SODA, name: `AA ${i}` } });
		const full = await planFor(again(keeper), gallery, {});
		expect(full.request.supplements.length).toBe(16);
		const [dosingPump] = full.request.dosing;
		expect(full.request.supplements.map((s) => s.id)).toContain(dosingPump!.supplement);
		const without = await planFor(again(keeper), gallery, { without: [dosingPump!.supplement] });
		expect(without.request.dosing).toContainEqual(dosingPump);
		expect(
			without.result.steps.filter((s) => s.kind === 'dose' && s.supplement === dosingPump!.supplement)
		).toEqual([]);
		for (const id of ids) await finishSupplement(again(keeper), id, true);
	});
	it('becomes events of every kind', async () => {
		const { request } = await planFor(again(keeper), tank, {});
		const of = (step: Partial<PlanStep>, amount?: number) =>
			eventsOf({ day: 0, kind: 'dose', why: 'hold', ...step } as PlanStep, request, amount);
		const litres = request.water.volumeL.value;
		expect(of({ kind: 'water-change', fraction: 0.2, amount: 5 }, 2.5)).toMatchObject([
			{ kind: 'water-change', fraction: 0.1, newWater: { nitrate: 0 } }
		]);
		const [fresh] = of({ kind: 'fresh-water', amount: litres / 50, unit: 'L' });
		expect(fresh).toMatchObject({
			kind: 'water-change',
			fraction: 0.02,
			newWater: { salinity: 0, calcium: 0 }
		});
		// Salt brings the ions with it: the next test of them is no surprise.
		expect(of({ kind: 'salt', amount: 100, unit: 'g', changes: { salinity: 1 } }, 50)).toEqual(
			saltEvents(50, litres)
		);
		const carbonate = request.supplements.find((s) => s.name === 'Carbonate solution')!;
		const [rate] = of({
			kind: 'dosing-rate',
			parameter: 'alkalinity',
			supplement: carbonate.id,
			amount: 3,
			unit: 'mL/day'
		});
		// 100 g of Na2CO3 in a litre bring 5.29 dKH to a litre, each mL.
		expect(rate).toMatchObject({
			kind: 'dosing',
			mlPerDay: 3,
			perDay: expect.closeTo((3 * 5.291) / litres, 3) as number
		});
		expect(of({ kind: 'wait' })).toEqual([]);
	});
	it('goes with the tank’s book: how water is changed, and how well its volume is known', async () => {
		await changeSystem(again(keeper), tank, { netVolumeError: 0.7 });
		const bottle = uuid();
		const content = { values: { alkalinity: { value: 8, standardUncertainty: 0.05 } }, until: '2027-01-31' };
		const about = { systemId: tank, kind: 'reference' as const, name: 'Bottle' };
		await saveSource(again(keeper), bottle, { ...about, content });
		// A new name leaves what is known of it; water from the tap is no reference.
		await saveSource(again(keeper), bottle, { ...about, name: 'Bottle of the school' });
		expect(await saveSource(again(keeper), uuid(), { ...about, kind: 'tap', content })).toMatchObject({
			ok: false
		});
		let text = '';
		for await (const piece of await bookFile(again(keeper), tank)) text += piece;
		const book = parse(Book, JSON.parse(text));
		if (!book.ok) throw new Error(JSON.stringify(book.problems));
		expect(book.value.system).toMatchObject({
			netVolumeError: 0.7,
			waterChange: { everyDays: 7, largestFraction: 0.2 }
		});
		expect(book.value.sources).toContainEqual(
			expect.objectContaining({ name: 'Bottle of the school', kind: 'reference', content })
		);
		const id = uuid();
		expect((await takeBook(again(keeper), id, book.value)).ok).toBe(true);
		expect((await sourcesOf(again(keeper), id)).map((s) => s.content)).toContainEqual(content);
		const copy = (await systemsOf(again(keeper))).find((s) => s.id === id)!;
		expect([copy.netVolumeError, copy.waterChange]).toEqual([0.7, book.value.system.waterChange]);
		await changeSystem(again(keeper), tank, { netVolumeError: null });
	});
});
