import { eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { READING_VERSION, SHIPPED_METHODS } from '../../src/core/methods';
import { placeInBand } from '../../src/core/targets';
import type { Asker } from '../../src/lib/server/identity/asker';
import { database } from '../../src/lib/server/db/connection';
import { invitation, membership, pack, reading, revision, sample } from '../../src/lib/server/db/schema';
import { methodsFor, saveMethod } from '../../src/lib/server/stores/methods';
import { finishPack, packsOf, savePack } from '../../src/lib/server/stores/packs';
import {
	latestOfEach,
	measuredIn,
	pointsOf,
	readingFor,
	saveReading,
	setVoided
} from '../../src/lib/server/stores/readings';
import {
	bandsOf,
	changeSystem,
	createSystem,
	saveSource,
	sourcesOf,
	systemsOf
} from '../../src/lib/server/stores/systems';
import { calendarOf } from '../../src/lib/server/answers/calendar';
import { saveHabits } from '../../src/lib/server/stores/habits';
import { outlookOf } from '../../src/lib/server/answers/outlook';
import { roundOf } from '../../src/lib/server/answers/rounds';
import { acceptInvitation, invitationBehind, invite, membersOf } from '../../src/lib/server/identity/members';
import { again, newPerson, newTank, openStores, status } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
let close: () => Promise<void>;
let keeper: Asker;
let tank: string;
let stranger: Asker;
let viewer: Asker;

beforeAll(async () => {
	({ keeper, close } = await openStores(NOW));
	tank = (await systemsOf(again(keeper)))[0]!.id;
	[stranger, viewer] = [await newPerson('Another'), await newPerson('A third')];
	await database().insert(membership).values({ userId: viewer.userId, systemId: tank, role: 'viewer' });
});
afterAll(() => close());

/** A save that would be accepted from the keeper. */
async function goodSave() {
	const method = (await methodsFor(keeper)).find((m) => m.profile.id === 'alk-syringe-6')!;
	const [source] = await sourcesOf(again(keeper), tank);
	return {
		sourceId: source!.id,
		sampleId: uuid(),
		takenAt: NOW.toISOString(),
		methodVersionId: method.versionId,
		reading: { left: 0.5 }
	};
}
describe('what is not theirs', () => {
	it('a stranger sees and changes nothing', async () => {
		expect(await systemsOf(stranger)).toEqual([]);
		expect((await methodsFor(stranger)).every((m) => !m.own)).toBe(true);
		expect(await packsOf(stranger)).toEqual([]);
		const id = uuid();
		const send = await goodSave();
		await saveReading(again(keeper), id, send);
		const asked = [
			latestOfEach(again(stranger), tank, 3),
			pointsOf(again(stranger), tank, 'alkalinity'),
			measuredIn(again(stranger), tank),
			sourcesOf(again(stranger), tank),
			bandsOf(again(stranger), tank),
			saveReading(again(stranger), uuid(), send),
			saveReading(again(stranger), id, send),
			setVoided(again(stranger), id, true, 'mine now')
		];
		expect(await Promise.all(asked.map(status))).toEqual(asked.map(() => 404));
		expect(await latestOfEach(again(keeper), tank, 1)).toContainEqual(
			expect.objectContaining({ id, revision: 1, voided: false })
		);
	});

	it('a viewer reads and does not write', async () => {
		expect((await latestOfEach(again(viewer), tank, 1)).length).toBeGreaterThan(5);
		expect(await status(saveReading(again(viewer), uuid(), await goodSave()))).toBe(403);
		const [newest] = await latestOfEach(again(viewer), tank, 1);
		expect(await status(setVoided(again(viewer), newest!.id, true, 'no'))).toBe(403);
	});

	it('nobody changes another’s method or pack, or one that ships', async () => {
		const profile = { ...SHIPPED_METHODS[0]!, name: 'Mine' };
		const id = uuid();
		expect(await saveMethod(keeper, id, { profile }, NOW)).toMatchObject({ ok: true, value: { version: 1 } });
		expect((await saveMethod(stranger, id, { profile: { ...profile, name: 'Theirs' } }, NOW)).ok).toBe(false);
		const shipped = (await methodsFor(keeper)).find((m) => !m.own)!;
		expect((await saveMethod(keeper, shipped.id, { profile }, NOW)).ok).toBe(false);
		const mine = { methodId: id, label: 'Z', batch: '', opened: '2026-05-01', tests: 10, price: 5 };
		expect((await savePack(stranger, uuid(), mine)).ok).toBe(false);
		const packId = uuid();
		expect((await savePack(keeper, packId, mine)).ok).toBe(true);
		expect(await status(finishPack(stranger, packId, true))).toBe(404);
		const [held] = await database().select().from(pack).where(eq(pack.id, packId));
		expect(held!.finished).toBe(false);
	});
});

describe('what is kept', () => {
	it('a reading keeps raw, method version and calculation through void and restore', async () => {
		const id = uuid();
		await saveReading(again(keeper), id, { ...(await goodSave()), reading: { left: [0.46, 0.48] } });
		await setVoided(again(keeper), id, true, 'spilt');
		await setVoided(again(keeper), id, true, 'spilt again');
		await setVoided(again(keeper), id, false, null);
		const revisions = await database().select().from(revision).where(eq(revision.readingId, id));
		expect(revisions.map((r) => [r.revision, r.voided, r.reason])).toEqual([
			[1, false, null],
			[2, true, 'spilt'],
			[3, false, null]
		]);
		for (const r of revisions)
			expect(r).toMatchObject({
				raw: { left: [0.46, 0.48] },
				calculation: READING_VERSION,
				qualifier: 'between'
			});
	});

	it('a reading that was kept before readings said what they were seen on says it by its method', async () => {
		const id = uuid();
		const before = await saveReading(again(keeper), id, { ...(await goodSave()), reading: { left: 0.46 } });
		if (!before.ok) throw new Error('refused');
		expect(before.value.raw).toEqual({ reads: 'syringe', left: 0.46 });
		await database()
			.update(revision)
			.set({ raw: { left: 0.46 } })
			.where(eq(revision.readingId, id));
		expect(await readingFor(again(keeper), id)).toEqual(before.value);
	});

	it('takes calcium away only from the water it was measured in', async () => {
		const methods = await methodsFor(keeper);
		const version = (slug: string) => methods.find((m) => m.profile.id === slug)!.versionId;
		const sources = await sourcesOf(again(keeper), tank);
		const send = (slug: string, used: number, sourceId: string, takenAwayId?: string) =>
			saveReading(again(keeper), uuid(), {
				sourceId,
				sampleId: uuid(),
				takenAt: NOW.toISOString(),
				methodVersionId: version(slug),
				reading: { used },
				...(takenAwayId ? { takenAwayId } : {})
			});
		const [own, mix] = [sources[0]!.id, sources.find((s) => s.kind === 'new mix')!.id];
		const calcium = await send('ca-syringe-5', 0.84, own);
		const alkalinity = await send('alk-syringe-6', 0.5, own);
		if (!calcium.ok || !alkalinity.ok) throw new Error('refused');
		const magnesium = await send('mg-after-ca', 0.65, own, calcium.value.id);
		// 0.65 mL of 0.2 mol/L in 2 mL, less 0.84 mL of 0.0625 mol/L in 5 mL, both as magnesium.
		expect(magnesium.ok && magnesium.value.value).toBeCloseTo(
			24.305 * ((0.65 * 200) / 2 - (0.84 * 62.5) / 5),
			6
		);
		for (const refused of [
			await send('mg-after-ca', 0.65, mix, calcium.value.id),
			await send('mg-after-ca', 0.65, own, alkalinity.value.id),
			await send('mg-after-ca', 0.65, own)
		])
			expect(refused.ok).toBe(false);
	});

	it('a failed save leaves nothing behind', async () => {
		const count = async () => [
			(await database().select().from(sample)).length,
			(await database().select().from(reading)).length,
			(await database().select().from(revision)).length
		];
		const before = await count();
		expect(
			(await saveReading(again(keeper), uuid(), { ...(await goodSave()), reading: { left: 3 } })).ok
		).toBe(false);
		const elsewhere = (await systemsOf(again(keeper)))[1]!.id;
		const [other] = await sourcesOf(again(keeper), elsewhere);
		const send = await goodSave();
		await saveReading(again(keeper), uuid(), send);
		// The same sample cannot be water of two tanks.
		expect(await status(saveReading(again(keeper), uuid(), { ...send, sourceId: other!.id }))).toBe(409);
		expect(await count()).toEqual(before.map((n) => n + 1));
	});

	it('a method’s versions: the same again changes nothing, a change counts up, two editors do not overwrite each other', async () => {
		const id = uuid();
		const profile = { ...SHIPPED_METHODS[0]!, name: 'Versions' };
		await saveMethod(keeper, id, { profile, basedOn: 0 }, NOW);
		const reordered = Object.fromEntries(Object.entries(profile).reverse()) as typeof profile;
		expect(await saveMethod(keeper, id, { profile: reordered }, NOW)).toMatchObject({
			value: { version: 1 }
		});
		const renamed = { ...profile, name: 'Versions, changed' };
		expect(await saveMethod(keeper, id, { profile: renamed, basedOn: 1 }, NOW)).toMatchObject({
			value: { version: 2 }
		});
		const late = await saveMethod(keeper, id, { profile: { ...profile, name: 'Late' }, basedOn: 1 }, NOW);
		expect(!late.ok && late.problems[0]!.message).toContain('changed meanwhile, to version 2');
	});

	it('a tank is made once, and refused with the place of the mistake', async () => {
		const tankOf = {
			id: uuid(),
			name: 'New',
			netVolumeL: 100,
			timeZone: 'Europe/Dublin',
			alkalinity: { lower: 7, upper: 8 }
		};
		await createSystem(again(keeper), tankOf);
		await createSystem(again(keeper), tankOf);
		expect((await systemsOf(again(keeper))).filter((s) => s.id === tankOf.id)).toHaveLength(1);
		for (const [part, path] of [
			[{ timeZone: 'Mars/Olympus' }, '/timeZone'],
			[{ alkalinity: { lower: 9, upper: 8 } }, '/alkalinity']
		] as const) {
			const made = await createSystem(again(keeper), { ...tankOf, id: uuid(), ...part });
			expect(made.ok ? '' : made.problems[0]!.path).toBe(path);
		}
	});
});

it('asks for a test of what is out of its band only where the rack says that it is', async () => {
	const { trends, due } = await outlookOf(again(keeper), tank);
	const bands = await bandsOf(again(keeper), tank);
	const known = due.filter((d) => trends[d.parameter]);
	const whys = known.map(({ parameter, why }) => {
		const { value, standardDeviation } = trends[parameter]!.now;
		const { state } = placeInBand(value, standardDeviation, bands[parameter]!);
		return { parameter, state, isOut: why.kind === 'out' };
	});
	// Likelier out than in, and not known well enough to say so.
	expect(whys).toContainEqual({ parameter: 'potassium', state: 'unknown', isOut: false });
	for (const { parameter, state, isOut } of whys)
		if (isOut) expect(['below', 'above'], parameter).toContain(state);
});

it('reminds at the hour the person chose, on the clock of each tank', async () => {
	const hours = async () =>
		new Set(
			(await calendarOf(again(keeper), { step: () => '', always: '', due: () => '' })).match(
				/(?<=DTSTART:\d{8}T)\d{4}/g
			)
		);
	// Seven in the evening where nobody chose; Dublin is an hour ahead of UTC in May.
	expect(await hours()).toEqual(new Set(['1800']));
	await saveHabits(again(keeper), { remindAt: '21:30' });
	expect(await hours()).toEqual(new Set(['2030']));
	await saveHabits(again(keeper), {});
});

it('dates an event of the calendar anew only where it is another', async () => {
	const before = process.env['TEVRIK_NOW']!;
	const told = async (minutes: number) => {
		process.env['TEVRIK_NOW'] = new Date(Date.parse(before) + minutes * 60_000).toISOString();
		const calendar = await calendarOf(again(keeper), {
			step: () => '',
			always: '',
			// Why a test is due is told as of its day, not as of the moment that asks.
			due: (_why, at) => at
		});
		return calendar.match(/(?<=DTSTAMP:)\w+/g)!;
	};
	const first = await told(0);
	expect(await told(2)).toEqual(first);
	await saveHabits(again(keeper), { remindAt: '21:30' });
	const later = await told(3);
	for (const [i, stamp] of later.entries()) expect(stamp > first[i]!, stamp).toBe(true);
	expect(await told(4)).toEqual(later);
	await saveHabits(again(keeper), {});
	process.env['TEVRIK_NOW'] = before;
});

describe('a tank', () => {
	it('changes what is said of it, and refuses what cannot be, with every place', async () => {
		const { tank, water } = await newTank(keeper);
		const refused = await changeSystem(again(keeper), tank, {
			timeZone: 'Atlantis/Deep',
			bands: { calcium: { lower: 450, upper: 400 }, unobtainium: { lower: 1, upper: 2 } }
		});
		expect(refused.ok ? [] : refused.problems.map((p) => p.path)).toEqual([
			'/timeZone',
			'/bands/calcium',
			'/bands/unobtainium'
		]);
		expect((await changeSystem(again(keeper), tank, { phase: 'young', salinityPsu: 33 })).ok).toBe(true);
		expect((await systemsOf(again(keeper))).find((s) => s.id === tank)).toMatchObject({
			phase: 'young',
			salinityPsu: 33,
			netVolumeL: 100
		});
		expect(await saveSource(again(keeper), water, { systemId: tank, kind: 'tap', name: 'No' })).toMatchObject(
			{
				ok: false
			}
		);
	});

	it('lets one more person in by a link, for a week', async () => {
		const { tank } = await newTank(keeper);
		const { id, token } = await invite(again(keeper), tank, 'viewer');
		expect(await invitationBehind(token)).toMatchObject({ role: 'viewer' });
		const [held] = await database().select().from(invitation).where(eq(invitation.id, id));
		expect(held!.expiresAt.getTime() - NOW.getTime()).toBe(7 * 86_400_000);
		await database().update(invitation).set({ expiresAt: NOW }).where(eq(invitation.id, id));
		expect(await invitationBehind(token)).toBeUndefined();
		expect(await status(acceptInvitation(await newPerson('Late'), token))).toBe(404);
		expect(await membersOf(again(keeper), tank)).toHaveLength(1);
		expect(await status(invite({ ...keeper, token: { systems: null, writes: true } }, tank, 'keeper'))).toBe(
			403
		);
	});

	it('stands before the others where it worries more', async () => {
		const round = await roundOf(again(keeper));
		const ranks = await Promise.all(
			round.map(async ({ id }) => {
				const { judgements } = await outlookOf(again(keeper), id);
				return Math.min(4, ...judgements.map((j) => j.rank).filter((rank) => rank < 3));
			})
		);
		expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
		expect(new Set(ranks).size).toBeGreaterThan(1);
	});
});
