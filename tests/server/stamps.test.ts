import { eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bookFile } from '../../src/lib/server/archive/book-export';
import { takeBook } from '../../src/lib/server/archive/book-import';
import { database, transaction } from '../../src/lib/server/db/connection';
import { event, stamp } from '../../src/lib/server/db/schema';
import { ofTank, standing, writing, type Asker } from '../../src/lib/server/identity/asker';
import { bookPage } from '../../src/lib/server/answers/book';
import { eventsOfTank, saveEvent, setEventVoided } from '../../src/lib/server/stores/events';
import { habitsOf, saveHabits } from '../../src/lib/server/stores/habits';
import { methodsFor, saveMethod } from '../../src/lib/server/stores/methods';
import { finishPack, packsOf, savePack } from '../../src/lib/server/stores/packs';
import {
	correctReading,
	latestOfEach,
	saveReading,
	setVoided,
	setVoidedAll
} from '../../src/lib/server/stores/readings';
import { addEvent, beginRun, openRunOf } from '../../src/lib/server/stores/runs';
import { bandsOf, changeSystem, saveSource, sourcesOf, systemsOf } from '../../src/lib/server/stores/systems';
import { outlookOf } from '../../src/lib/server/answers/outlook';
import { again, openStores } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
const at = NOW.toISOString();
let keeper: Asker;
let tank: string;
let other: string;
let close: () => Promise<void>;
let kit: Awaited<ReturnType<typeof methodsFor>>[number];
let water: string;
beforeAll(async () => {
	({ keeper, close } = await openStores(NOW));
	[tank, other] = (await systemsOf(again(keeper))).map((s) => s.id) as [string, string];
	kit = (await methodsFor(keeper)).find((m) => m.profile.id === 'alk-syringe-6')!;
	water = (await sourcesOf(again(keeper), tank))[0]!.id;
});
afterAll(() => close());

const stampOf = async (id: string): Promise<number | undefined> =>
	(await database().select().from(stamp).where(eq(stamp.id, id)))[0]?.value;
const newest = async (asker: Asker) =>
	(await latestOfEach(asker, tank, 3)).map((r) => [r.id, r.revision, r.value]);
const sent = () => ({ sampleId: uuid(), takenAt: at, sourceId: water, methodVersionId: kit.versionId });

/** Things to be changed, by their ids. */
const aReading = async (): Promise<string> => {
	const id = uuid();
	await saveReading(again(keeper), id, { ...sent(), reading: { left: 0.5 } });
	return id;
};
const aNote = async (): Promise<string> => {
	const id = uuid();
	await saveEvent(again(keeper), id, { systemId: tank, at, event: { kind: 'note', text: 'a new lamp' } });
	return id;
};
const begin = (asker: Asker, id: string) =>
	beginRun(asker, id, {
		systemId: tank,
		sourceId: water,
		begin: {
			id: uuid(),
			at,
			kind: 'begin',
			tests: [{ id: 'alk', methodVersionId: kit.versionId, vial: 1 }],
			people: 1,
			order: [],
			save: 'each'
		}
	});
const open = (asker: Asker, id: string) =>
	savePack(asker, id, { methodId: kit.id, label: 'Z', batch: '1', opened: '2026-05-01', tests: 9, price: 1 });

type Ask = (asker: Asker) => Promise<unknown>;
/** Each write, whose it is, what has to be there for it, and what a page shows of it. */
const WRITES: [string, () => string, () => Promise<Ask>, Ask][] = [
	[
		'a reading',
		() => tank,
		async () => (a) => saveReading(a, uuid(), { ...sent(), reading: { left: 0.5 } }),
		newest
	],
	[
		'its correction',
		() => tank,
		async () => {
			const id = await aReading();
			const { sampleId: _, sourceId: __, ...same } = sent();
			return (a) =>
				correctReading(a, id, {
					...same,
					basedOn: 1,
					reading: { left: 0.4 },
					reason: 'read off the wrong line'
				});
		},
		newest
	],
	[
		'a void',
		() => tank,
		async () => {
			const id = await aReading();
			return (a) => setVoided(a, id, true, 'a try');
		},
		newest
	],
	[
		'several back',
		() => tank,
		async () => {
			const ids = [await aReading(), await aReading()];
			await setVoidedAll(again(keeper), { systemId: tank, ids, voided: true, reason: 'tries' });
			return (a) => setVoidedAll(a, { systemId: tank, ids, voided: false, reason: 'no tries' });
		},
		(a) => bookPage(a, tank)
	],
	[
		'something done',
		() => tank,
		async () => (a) =>
			saveEvent(a, uuid(), { systemId: tank, at, event: { kind: 'note', text: 'a new pump' } }),
		(a) => eventsOfTank(a, tank)
	],
	[
		'its void',
		() => tank,
		async () => {
			const id = await aNote();
			return (a) => setEventVoided(a, id, true, 'the other tank');
		},
		(a) => eventsOfTank(a, tank)
	],
	['the beginning of a run', () => tank, async () => (a) => begin(a, uuid()), (a) => openRunOf(a, tank)],
	[
		'its end',
		() => tank,
		async () => {
			const run = uuid();
			await begin(again(keeper), run);
			const id = uuid();
			return (a) => addEvent(a, run, id, { id, at, kind: 'finish' });
		},
		(a) => openRunOf(a, tank)
	],
	[
		'a tank’s name',
		() => tank,
		async () => (a) => changeSystem(a, tank, { name: 'Short Gallery' }),
		systemsOf
	],
	[
		'a band',
		() => tank,
		async () => (a) => changeSystem(a, tank, { bands: { calcium: { lower: 415, upper: 416 } } }),
		(a) => bandsOf(a, tank)
	],
	[
		'a band, to what deserves attention',
		() => tank,
		async () => (a) => changeSystem(a, tank, { bands: { calcium: { lower: 300, upper: 301 } } }),
		async (a) => (await outlookOf(a, tank)).judgements
	],
	[
		'another water',
		() => tank,
		async () => (a) => saveSource(a, uuid(), { systemId: tank, kind: 'tap', name: 'Kitchen' }),
		(a) => sourcesOf(a, tank)
	],
	['a pack', () => keeper.userId, async () => (a) => open(a, uuid()), packsOf],
	[
		'what they count in',
		() => keeper.userId,
		async () => (a) => saveHabits(a, { language: 'de-DE', units: { salinity: 'SG 25/25' } }),
		habitsOf
	],
	[
		'a pack used up',
		() => keeper.userId,
		async () => {
			const id = uuid();
			await open(again(keeper), id);
			return (a) => finishPack(a, id, true);
		},
		packsOf
	],
	[
		'a method',
		() => keeper.userId,
		async () => (a) => saveMethod(a, uuid(), { profile: { ...kit.profile, id: 'mine', name: 'Mine' } }, NOW),
		methodsFor
	],
	[
		'a book',
		() => keeper.userId,
		async () => async (a) => {
			let text = '';
			for await (const piece of await bookFile(a, other)) text += piece;
			return takeBook(a, uuid(), JSON.parse(text) as never);
		},
		systemsOf
	]
];

describe('a write is seen at once by whoever remembered what was before', () => {
	it.each(WRITES)('%s', async (_, whose, prepared, shown) => {
		const write = await prepared();
		const before = await shown(again(keeper));
		const mark = await stampOf(whose());
		expect(await shown(again(keeper))).toEqual(before);
		expect(await write(again(keeper))).not.toMatchObject({ ok: false });
		expect(await stampOf(whose())).not.toBe(mark);
		expect(await shown(again(keeper))).not.toEqual(before);
	});
});

describe('what is remembered of a tank', () => {
	it('is made once for many who ask at once, and anew after any write, also of another process', async () => {
		let made = 0;
		const count = () => ofTank(again(keeper), tank, ['a test'], async () => ++made);
		expect(await Promise.all([count(), count(), count()])).toEqual([1, 1, 1]);
		expect(await count()).toBe(1);
		await writing(again(keeper), tank, async (db) =>
			db.update(event).set({ reason: 'x' }).where(eq(event.systemId, tank))
		);
		expect(await count()).toBe(2);
	});

	it('remembers nothing that failed, and nothing seen inside a transaction', async () => {
		const fails = () => ofTank(again(keeper), tank, ['fails'], () => Promise.reject(new Error('no')));
		await expect(fails()).rejects.toThrow('no');
		expect(await ofTank(again(keeper), tank, ['fails'], async () => undefined)).toBeUndefined();
		let made = 0;
		const count = () => ofTank(again(keeper), tank, ['inside'], async () => ++made);
		await transaction(async () => void (await count()));
		expect(await count()).toBe(2);
	});

	it('leaves the stamp where a write was refused or taken back', async () => {
		await aNote();
		const mark = await stampOf(tank);
		expect(await changeSystem(again(keeper), tank, { timeZone: 'Atlantis/Deep' })).toMatchObject({
			ok: false
		});
		const asker = again(keeper);
		const fails = writing(asker, tank, async () => {
			throw new Error('half way');
		});
		await expect(fails).rejects.toThrow('half way');
		expect(await stampOf(tank)).toBe(mark);
		expect((await standing(asker)).tanks.get(tank)!.stamp).toBe(mark);
	});
});
