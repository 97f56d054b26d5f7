import { and, eq, inArray, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chart } from '../../src/core/calibration';
import { type Method } from '../../src/core/instruments';
import { READING_VERSION, SHIPPED_METHODS, read, withOwnChart } from '../../src/core/methods';
import { database } from '../../src/lib/server/db/connection';
import { membership, reading, revision } from '../../src/lib/server/db/schema';
import type { Asker } from '../../src/lib/server/identity/asker';
import { bookFile } from '../../src/lib/server/archive/book-export';
import { takeBook } from '../../src/lib/server/archive/book-import';
import { bringReadingsUpToDate } from '../../src/lib/server/stores/readings/again';
import { kitsFor, methodsFor, saveMethod, shippedMethodId } from '../../src/lib/server/stores/methods';
import {
	latestReadings,
	pointsOf,
	readingFor,
	saveReading,
	setVoided
} from '../../src/lib/server/stores/readings';
import { createSystem, sourcesOf } from '../../src/lib/server/stores/systems';
import { outlookOf } from '../../src/lib/server/answers/outlook';
import { again, newPerson, openStores } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
const template = (id: string) => SHIPPED_METHODS.find((m) => m.id === id)!;
let close: () => Promise<void>;

beforeAll(async () => ({ close } = await openStores(NOW)));
afterAll(() => close());

/** A keeper with a tank of their own and nothing on the shelf. */
async function keeper(name: string): Promise<{ who: Asker; tank: string; water: string }> {
	const who = await newPerson(name);
	const tank = uuid();
	const made = await createSystem(who, {
		id: tank,
		name: `Tank of ${name}`,
		netVolumeL: 100,
		timeZone: 'Europe/Dublin',
		school: 'raised levels',
		alkalinity: { lower: 8, upper: 9.5 }
	});
	expect(made.ok).toBe(true);
	return { who, tank, water: (await sourcesOf(again(who), tank))[0]!.id };
}
const putOnShelf = async (who: Asker, profile: Method, id = uuid(), more = {}) => {
	const saved = await saveMethod(again(who), id, { profile, ...more }, NOW);
	if (!saved.ok) throw new Error(JSON.stringify(saved.problems));
	return saved.value;
};
async function readBy(
	{ who, water }: Awaited<ReturnType<typeof keeper>>,
	methodVersionId: string,
	seen: object,
	daysAgo: number,
	more = {}
): Promise<string> {
	const id = uuid();
	const takenAt = new Date(NOW.getTime() - daysAgo * 86_400_000).toISOString();
	const sent = {
		sourceId: water,
		sampleId: uuid(),
		takenAt,
		methodVersionId,
		reading: seen as never,
		...more
	};
	const saved = await saveReading(again(who), id, sent);
	if (!saved.ok) throw new Error(JSON.stringify(saved.problems));
	return id;
}
/** Another leaflet than any that ships: its own slope, rounded as leaflets are. */
function byLeaflet(method: Method, perMl: number): Method {
	const points = [1, 0.7, 0.4, 0.1].map((left): [number, number] => [
		left,
		Math.round((1 - left) * perMl * 10) / 10
	]);
	const fit = chart({ parameter: method.parameter, unit: method.unit, reads: 'syringe', points });
	if (!fit.ok || method.reads !== 'syringe') throw new Error('no chart');
	return withOwnChart({
		...method,
		name: 'My own',
		scale: { kind: 'linear', perMl: fit.value.perMl!, atZero: 0 }
	});
}

const whole = async (pieces: AsyncGenerator<string>) => {
	let text = '';
	for await (const piece of pieces) text += piece;
	return text;
};
/** What a method says of a reading by itself. */
function valueBy(method: Method, seen: { left: number }): number {
	const result = read({ method, reading: seen });
	return result.ok ? result.value.value! : NaN;
}

describe('a kit without a chart of its own', () => {
	it('is read and judged by nothing; with the chart all of it is computed again, and the book says so', async () => {
		const me = await keeper('Ida');
		const kit = await putOnShelf(me.who, { ...template('alk-syringe-6'), name: 'My own' });
		const ids = [
			await readBy(me, kit.versionId, { left: 0.2 }, 20),
			await readBy(me, kit.versionId, { left: 0.25 }, 10),
			await readBy(me, kit.versionId, { left: 0.41 }, 0)
		];
		await setVoided(again(me.who), ids[1]!, true, 'a slip');
		const before = await outlookOf(again(me.who), me.tank);
		expect(before.trends).toEqual({});
		expect(before.judgements.map((j) => [j.kind, j.numbers['reason']])).toEqual([['unknown', 'chart']]);
		expect(before.due.filter((d) => d.now)).toEqual([]);
		expect((await readingFor(again(me.who), ids[2]!))!.ownChart).toBe(false);

		const own = byLeaflet(kit.profile, 21.7);
		const saved = await putOnShelf(me.who, own, kit.id, { basedOn: 1 });
		expect(saved.again).toEqual({ readings: 3, refused: 0 });
		for (const [i, left] of [0.2, 0.25, 0.41].entries()) {
			const now = (await readingFor(again(me.who), ids[i]!))!;
			expect(now.value).toBeCloseTo(valueBy(own, { left }), 9);
			expect([now.ownChart, now.voided]).toEqual([true, i === 1]);
		}
		const rows = await database().select().from(revision).where(eq(revision.readingId, ids[2]!));
		expect(rows.map((r) => [r.ownChart, r.raw, r.reason])).toEqual([
			[false, { reads: 'syringe', left: 0.41 }, null],
			[true, { reads: 'syringe', left: 0.41 }, 'computed again by the chart of the leaflet']
		]);
		const after = await outlookOf(again(me.who), me.tank);
		expect(after.trends['alkalinity']!.now.value).toBeGreaterThan(10);
		expect(after.judgements.some((j) => j.numbers['reason'] === 'chart')).toBe(false);
	});

	it('what a device sends late, from before the chart, is computed by it too', async () => {
		const me = await keeper('Ines');
		const kit = await putOnShelf(me.who, { ...template('alk-syringe-6'), name: 'Late' });
		const own = byLeaflet(kit.profile, 21);
		await putOnShelf(me.who, own, kit.id);
		const late = (await readingFor(again(me.who), await readBy(me, kit.versionId, { left: 0.41 }, 1)))!;
		expect(late.value).toBeCloseTo(valueBy(own, { left: 0.41 }), 9);
		expect(late.ownChart).toBe(true);
	});

	it('a chart of another batch leaves earlier readings alone; a mistyped one takes them with it', async () => {
		const me = await keeper('Jo');
		const kit = await putOnShelf(me.who, byLeaflet(template('alk-syringe-6'), 17));
		const id = await readBy(me, kit.versionId, { left: 0.5 }, 3);
		const { value } = (await readingFor(again(me.who), id))!;
		const batch = await putOnShelf(me.who, byLeaflet(kit.profile, 19), kit.id, { basedOn: 1 });
		expect([batch.version, batch.again!.readings]).toEqual([2, 0]);
		expect((await readingFor(again(me.who), id))!.value).toBe(value);
		const late = await readBy(me, batch.versionId, { left: 0.5 }, 1);
		const right = await putOnShelf(me.who, byLeaflet(kit.profile, 20), kit.id, { basedOn: 2, again: true });
		expect(right.again!.readings).toBe(1);
		expect((await readingFor(again(me.who), late))!.value).toBeCloseTo(
			valueBy(right.profile, { left: 0.5 }),
			9
		);
		expect((await readingFor(again(me.who), id))!.value).toBe(value);
	});

	it('takes along what the asker read by its template, and what took one of them away; nobody else’s', async () => {
		const [me, other] = [await keeper('Kim'), await keeper('Lea')];
		const calcium = (await methodsFor(again(me.who))).find((m) => m.id === shippedMethodId('ca-syringe-5'))!;
		const mine = await readBy(me, calcium.versionId, { left: 0.2 }, 2);
		const theirs = await readBy(other, calcium.versionId, { left: 0.2 }, 2);
		const magnesium = await putOnShelf(me.who, withOwnChart(template('mg-after-ca')));
		const taken = await readBy(me, magnesium.versionId, { used: 0.71 }, 2, { takenAwayId: mine });
		// Its own chart is the keeper's; what it takes away is not.
		expect((await readingFor(again(me.who), taken))!.ownChart).toBe(false);
		const [ca, mg, foreign] = await Promise.all(
			[mine, taken, theirs].map(
				async (id) => (await database().select().from(revision).where(eq(revision.readingId, id)))[0]!.value!
			)
		);
		const kit = await putOnShelf(me.who, byLeaflet(template('ca-syringe-5'), 560), uuid(), {
			template: shippedMethodId('ca-syringe-5')
		});
		expect(kit.again!.readings).toBe(1);
		const [caNow, mgNow] = [
			(await readingFor(again(me.who), mine))!,
			(await readingFor(again(me.who), taken))!
		];
		expect(caNow.value).toBeCloseTo(valueBy(kit.profile, { left: 0.2 }), 9);
		const times = withOwnChart(template('mg-after-ca')).takeAway!.times;
		expect(mgNow.value! - mg!).toBeCloseTo(-times * (caNow.value! - ca!), 6);
		expect([caNow.ownChart, mgNow.ownChart]).toEqual([true, true]);
		expect((await readingFor(again(other.who), theirs))!).toMatchObject({ value: foreign, ownChart: false });
	});

	it('keeps what a new chart cannot read as it was, and says how many and why', async () => {
		const me = await keeper('Mo');
		const card = await putOnShelf(me.who, { ...template('no3-card'), name: 'A card' });
		const off = await readBy(me, card.versionId, { shade: 20 }, 1);
		await readBy(me, card.versionId, { shade: 5 }, 2);
		const own = { ...withOwnChart(card.profile), shades: [0, 2.5, 5, 10], columns: [] } as Method;
		const saved = await putOnShelf(me.who, own, card.id);
		expect(saved.again).toMatchObject({ readings: 1, refused: 1 });
		expect(saved.again!.why).toBeTruthy();
		expect((await readingFor(again(me.who), off))!.ownChart).toBe(false);
	});

	it('touches no tank where the asker only looks', async () => {
		const [me, host] = [await keeper('Nils'), await keeper('Ola')];
		await database()
			.insert(membership)
			.values({ userId: me.who.userId, systemId: host.tank, role: 'keeper' });
		const kit = await putOnShelf(me.who, { ...template('alk-syringe-6'), name: 'Lent' });
		const id = await readBy({ ...me, water: host.water }, kit.versionId, { left: 0.5 }, 1);
		await database()
			.update(membership)
			.set({ role: 'viewer' })
			.where(and(eq(membership.userId, me.who.userId), eq(membership.systemId, host.tank)));
		const saved = await putOnShelf(me.who, byLeaflet(kit.profile, 25), kit.id);
		expect(saved.again!.readings).toBe(0);
		expect(
			(
				await database()
					.select()
					.from(reading)
					.where(inArray(reading.id, [id]))
			)[0]!.revision
		).toBe(1);
	});

	it('goes out and comes back in a book as what it is', async () => {
		const me = await keeper('Pia');
		const kit = await putOnShelf(me.who, { ...template('alk-syringe-6'), name: 'No chart' });
		await readBy(me, kit.versionId, { left: 0.5 }, 1);
		const own = await putOnShelf(me.who, byLeaflet(template('alk-syringe-4-used'), 15));
		await readBy(me, own.versionId, { left: 0.5 }, 2);
		const book = JSON.parse(await whole(await bookFile(again(me.who), me.tank))) as Parameters<
			typeof takeBook
		>[2];
		const other = await newPerson('Quinn');
		const copy = uuid();
		expect((await takeBook(other, copy, book)).ok).toBe(true);
		const { points } = await pointsOf(again(other), copy, 'alkalinity');
		expect(points.map((p) => p.ownChart)).toEqual([true, false]);
		expect((await latestReadings(again(other), copy, ['alkalinity'], 5))['alkalinity']).toHaveLength(2);
	});
});

it('templates stand on nobody’s shelf; values from elsewhere need none', async () => {
	const { who } = await keeper('Rae');
	expect((await kitsFor(again(who))).every((m) => m.profile.id.startsWith('known-'))).toBe(true);
});

it('what an earlier version computed is computed again once, in its order, and leaves what still says the same', async () => {
	const me = await keeper('Imre');
	const own = async (id: string) => {
		const { chart: _template, ...profile } = template(id);
		return (await putOnShelf(me.who, { ...profile, name: id } as Method)).versionId;
	};
	const calcium = await readBy(me, await own('ca-drops'), { drops: 28 }, 3);
	const magnesium = await readBy(me, await own('mg-after-ca'), { used: 0.65 }, 3, { takenAwayId: calcium });
	const meter = await own('alk-meter');
	const shown = await readBy(me, meter, { shown: 150 }, 2);
	const gone = await readBy(me, await own('alk-drops'), { drops: 9 }, 1);
	await setVoided(again(me.who), gone, true, 'a slip');
	const all = [calcium, magnesium, shown, gone];
	const rows = () =>
		database()
			.select()
			.from(revision)
			.where(inArray(revision.readingId, all))
			.orderBy(revision.readingId, revision.revision);
	const now = new Map((await rows()).map((r) => [r.readingId, r]));
	// As version 4 left them: of the titrations half a drop less.
	for (const id of all) {
		const { result, ...row } = now.get(id)!;
		const off = id === shown ? 1 : 0.95;
		await database()
			.update(revision)
			.set({
				calculation: 'reading/4',
				value: row.value! * off,
				result: { ...result, value: result.value! * off }
			})
			.where(and(eq(revision.readingId, id), eq(revision.revision, row.revision)));
	}
	// One that nobody can read any more is no reason not to start.
	const broken = await readBy(me, meter, { shown: 140 }, 4);
	await database().execute(
		sql`update revision set raw = 'null', calculation = 'reading/1' where reading_id = ${broken}`
	);
	const before = new Map((await rows()).map((r) => [r.readingId, r]));
	expect(await bringReadingsUpToDate()).toBe(2);
	expect(await bringReadingsUpToDate()).toBe(0);
	const after = await rows();
	for (const id of [calcium, magnesium]) {
		const [, old, newest] = [undefined, ...after.filter((r) => r.readingId === id)];
		expect(old).toEqual(before.get(id));
		expect(newest!.value).toBeCloseTo(now.get(id)!.value!, 9);
		expect(newest).toMatchObject({ calculation: READING_VERSION, byUserId: me.who.userId });
		expect((await readingFor(again(me.who), id))!.revision).toBe(2);
	}
	expect(after.filter((r) => r.readingId === shown)).toEqual([now.get(shown)]);
	// Voided ones say nothing; put back, they are due at the next start.
	expect(after.filter((r) => r.readingId === gone).at(-1)!.calculation).toBe('reading/4');
});
