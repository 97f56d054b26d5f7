import { and, eq } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Book } from '../../src/core/formats';
import { SHIPPED_METHODS, withOwnChart } from '../../src/core/methods';
import { bookFile } from '../../src/lib/server/archive/book-export';
import { takeBook } from '../../src/lib/server/archive/book-import';
import { calculate } from '../../src/lib/server/calculate';
import { database } from '../../src/lib/server/db/connection';
import { reading, revision } from '../../src/lib/server/db/schema';
import type { Asker } from '../../src/lib/server/identity/asker';
import { saveEvent, setEventVoided } from '../../src/lib/server/stores/events';
import { habitsOf, saveHabits } from '../../src/lib/server/stores/habits';
import { takeLabSheet } from '../../src/lib/server/stores/labs';
import { saveMethod } from '../../src/lib/server/stores/methods';
import { savePack } from '../../src/lib/server/stores/packs';
import { kitChecksOf } from '../../src/lib/server/answers/kit-checks';
import { readingFor, saveReading } from '../../src/lib/server/stores/readings';
import { beginRun } from '../../src/lib/server/stores/runs';
import { saveSource, sourcesOf, systemsOf } from '../../src/lib/server/stores/systems';
import { again, openStores } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
let close: () => Promise<void>;
let keeper: Asker;
let system: string;
let tank: string;
const bottle = uuid();

/** What was done, or the test stops here. */
function done<T>(outcome: { ok: true; value: T } | { ok: false; problems: object[] }): T {
	if (!outcome.ok) throw new Error(JSON.stringify(outcome.problems));
	return outcome.value;
}

beforeAll(async () => {
	({ keeper, close } = await openStores(NOW));
	system = (await systemsOf(keeper)).find((s) => s.name === 'Windowsill')!.id;
	tank = (await sourcesOf(keeper, system)).find((s) => s.kind === 'tank')!.id;
	const content = { values: { alkalinity: { value: 8, standardUncertainty: 0.03 } } };
	done(
		await saveSource(again(keeper), bottle, { systemId: system, kind: 'reference', name: 'Bottle', content })
	);
});
afterAll(() => close());

/** A kit of the keeper's own, and a way to read it. */
async function kitOf(slug: string) {
	const profile = withOwnChart(SHIPPED_METHODS.find((m) => m.id === slug)!);
	const id = uuid();
	const { versionId } = done(await saveMethod(again(keeper), id, { profile }, NOW));
	const read = async (takenAt: string, shown: object, over: object = {}) => {
		const id = uuid();
		done(
			await saveReading(again(keeper), id, {
				sourceId: tank,
				sampleId: uuid(),
				takenAt,
				methodVersionId: versionId,
				reading: shown as { left: number },
				...over
			})
		);
		return id;
	};
	return { id, versionId, read };
}
const found = async (id: string) => (await readingFor(again(keeper), id))!;

describe('what a check has taught', () => {
	it('is known of what its pack read, from its opening to the next, and what is taken off ends with it', async () => {
		const kit = await kitOf('alk-syringe-6');
		for (const [label, opened] of [
			['Y', '2026-03-01'],
			['Z', '2026-05-01']
		] as const)
			done(
				await savePack(again(keeper), uuid(), {
					methodId: kit.id,
					label,
					batch: label,
					tests: 50,
					price: 20,
					opened
				})
			);
		const reads = [];
		for (const day of ['2026-02-20', '2026-03-20', '2026-04-20', '2026-05-03'])
			reads.push(await kit.read(`${day}T19:00:00Z`, { left: 0.45 }));
		const before = await Promise.all(reads.map(found));
		expect(before.map((r) => r.proof)).toEqual([null, null, null, null]);
		// It reads a good half of a dKH too much.
		for (const minute of [0, 10, 20, 30])
			await kit.read(`2026-04-10T19:${minute + 10}:00Z`, { left: 0.48 }, { sourceId: bottle });
		const after = await Promise.all(reads.map(found));
		expect(after.map((r) => r.proof?.by)).toEqual([undefined, 'Bottle', 'Bottle', undefined]);
		const kits = (await kitChecksOf(again(keeper), system, { of: 'alkalinity' })).kits;
		const check = kits.find((k) => k.id === kit.id)!.check!;
		expect(check).toMatchObject({ source: 'Bottle', tests: 4, packOpened: '2026-03-01T00:00:00.000Z' });
		expect(check.result.verdict).toBe('reads-high');
		// What is not taken off is still in every reading: it is less sure, and no other.
		expect(after[2]!.value).toBe(before[2]!.value);
		expect(after[2]!.standardUncertainty!).toBeGreaterThan(before[2]!.standardUncertainty!);

		const word = uuid();
		const { bias, corrected } = check.result.trueness!;
		const event = {
			kind: 'correction' as const,
			parameter: 'alkalinity',
			methodId: kit.id,
			method: 'syringe',
			takenOff: bias,
			standardUncertainty: corrected,
			by: 'Bottle'
		};
		done(await saveEvent(again(keeper), word, { systemId: system, at: '2026-04-01T00:00:00.000Z', event }));
		const taken = await Promise.all(reads.map(found));
		expect(taken.map((r) => r.proof?.takenOff !== undefined)).toEqual([false, false, true, false]);
		expect(taken[2]!.value).toBeCloseTo(before[2]!.value! - bias, 9);
		expect(taken[2]!.standardUncertainty!).toBeLessThan(before[2]!.standardUncertainty!);
		// The check rests on what was read, whatever is taken off: once more it says the same.
		const same = (await kitChecksOf(again(keeper), system, { of: 'alkalinity' })).kits.find(
			(k) => k.id === kit.id
		)!;
		expect(same.check!.result.bias).toEqual(check.result.bias);
		expect(same.taken).toBeNull();
		await setEventVoided(again(keeper), word, true, 'no more');
		expect((await found(reads[2]!)).value).toBe(before[2]!.value);
	});

	it('a lab teaches of the kits that tested its water within hours, and of no other', async () => {
		const kit = await kitOf('ca-syringe-5');
		const near = await kit.read('2026-04-20T18:30:00Z', { left: 0.2 });
		await kit.read('2026-04-20T18:40:00Z', { left: 0.21 });
		const said = (await found(near)).value!;
		const sheet = `lab,Kai\ndrawn,2026-04-20T19:30:00Z\nparameter,result,unit,±\nCalcium,${said},mg/L,4\n`;
		const { readings } = done(await takeLabSheet(again(keeper), system, sheet));
		expect(done(await takeLabSheet(again(keeper), system, sheet)).readings).toEqual(readings);
		const checks = await kitChecksOf(again(keeper), system, { of: 'calcium' });
		expect(checks.kits.find((k) => k.id === kit.id)!.check).toMatchObject({ source: 'Kai', tests: 2 });
		expect(checks.kits.filter((k) => k.check)).toHaveLength(1);
		const lab = await found(readings[0]!.id);
		expect(1.96 * lab.standardUncertainty!).toBeCloseTo(4, 1);
		expect(lab.proof).toBeNull();
	});

	it('table salt mixed for a refractometer is a salinity for refractometers, and for nothing else', async () => {
		const salt = uuid();
		const content = {
			values: { salinity: { value: 35, standardUncertainty: 0.3 } },
			readsBy: 'refraction' as const
		};
		done(
			await saveSource(again(keeper), salt, {
				systemId: system,
				kind: 'reference',
				name: 'Table salt',
				content
			})
		);
		for (const [slug, shown] of [
			['psu-refractometer', 36],
			['sg-hydrometer', 1.0264],
			['conductivity', 56.2]
		] as const) {
			const kit = await kitOf(slug);
			await kit.read('2026-04-22T18:30:00Z', { shown }, { sourceId: salt });
		}
		const { kits, references } = await kitChecksOf(again(keeper), system, { of: 'salinity' });
		expect(references.map((r) => r.readsBy)).toEqual(['refraction']);
		expect(kits.filter((k) => k.check).map((k) => k.name)).toEqual([
			expect.stringMatching(/refractometer/i) as string
		]);
		expect(kits.length).toBeGreaterThanOrEqual(3);
	});
});

it('repeats of a year give a kit the scatter of these hands, once there are ten', async () => {
	const kit = await kitOf('alk-syringe-6');
	const plain = await kit.read('2026-04-01T19:00:00Z', { left: 0.5 });
	const before = await found(plain);
	for (let night = 0; night < 10; night++) {
		const day = `2026-04-${String(night + 10).padStart(2, '0')}`;
		const runId = uuid();
		const test = { id: 't1', methodVersionId: kit.versionId, vial: 1 };
		done(
			await beginRun(again(keeper), runId, {
				systemId: system,
				sourceId: tank,
				begin: {
					id: uuid(),
					at: `${day}T19:00:00.000Z`,
					kind: 'begin',
					tests: [test],
					people: 1,
					order: [],
					save: 'each'
				}
			})
		);
		expect((await found(plain)).proof).toBeNull();
		// Six hundredths apart: far more than the edge of a plunger is read to.
		await kit.read(`${day}T19:10:00Z`, { left: 0.47 }, { runId, sampleId: runId });
		await kit.read(`${day}T19:20:00Z`, { left: 0.53 }, { runId, sampleId: runId });
	}
	const now = await found(plain);
	expect(now.proof).toMatchObject({ scatter: { pairs: 10 } });
	expect(now.value).toBe(before.value);
	expect(now.repeatability! / before.repeatability!).toBeCloseTo(now.proof!.scatter!.ratio, 9);
	expect(now.proof!.scatter!.ratio).toBeGreaterThan(1.5);
	// What stays with the kit is as it was.
	const stays = (r: typeof now) => r.standardUncertainty! ** 2 - r.repeatability! ** 2;
	expect(stays(now)).toBeCloseTo(stays(before), 9);
});

describe('a hand that practice has measured', () => {
	const hand = { tries: 24, endPoint: { bias: 2, standardUncertainty: 0.2, scatter: 0.9 }, lines: 0.25 };

	it('stays with what it read, whatever its person lets count later, and goes with the book', async () => {
		const kit = await kitOf('alk-syringe-6');
		const plain = await found(await kit.read('2026-05-04T18:00:00.000Z', { left: 0.5 }));
		const own = await found(await kit.read('2026-05-04T19:00:00.000Z', { left: 0.5, hand }));
		// Two drops past the end in place of half a drop, which a chart may allow for: 1.5 of 0.012 mL.
		const perMl = plain.value! / 0.5;
		expect(plain.value! - own.value!).toBeCloseTo(1.5 * 0.012 * perMl, 6);
		expect(own.raw).toMatchObject({ left: 0.5, hand });

		const keeps = { ...(await habitsOf(again(keeper))), hands: { 'syringe alkalinity': hand } };
		await saveHabits(again(keeper), keeps);
		expect((await habitsOf(again(keeper))).hands).toEqual({ 'syringe alkalinity': hand });
		const later = await found(await kit.read('2026-05-04T20:00:00.000Z', { left: 0.5 }));
		expect(later.value).toBeCloseTo(plain.value!, 9);

		let text = '';
		for await (const piece of await bookFile(again(keeper), system)) text += piece;
		const copy = uuid();
		done(await takeBook(again(keeper), copy, JSON.parse(text) as Book));
		const copied = await database()
			.select({ raw: revision.raw, value: revision.value })
			.from(revision)
			.innerJoin(reading, and(eq(reading.id, revision.readingId), eq(reading.systemId, copy)));
		expect(copied.filter((r) => 'hand' in r.raw && r.raw.hand).map((r) => r.value)).toEqual([own.value]);
	});

	it('is refused where it is none', () => {
		const request = {
			method: SHIPPED_METHODS.find((m) => m.id === 'alk-syringe-6')!,
			reading: { left: 0.5, hand }
		};
		const asked = (broken: object) =>
			calculate('reading', { ...request, reading: { left: 0.5, hand: broken } });
		expect(asked(hand).ok).toBe(true);
		for (const broken of [{}, { tries: 0 }, { tries: 3, endPoint: { bias: 1 } }, { tries: 3, lines: -1 }]) {
			const outcome = asked(broken);
			expect(outcome.ok ? '' : outcome.problems[0]!.path).toMatch(/^\/reading/);
		}
	});
});
