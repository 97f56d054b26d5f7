import { eq, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportProgress, TakeIn } from '../../src/lib/api/imports';
import { understand } from '../../src/lib/sheets/parse';
import type { Asker } from '../../src/lib/server/identity/asker';
import { bookPage, historyOf } from '../../src/lib/server/answers/book';
import { database } from '../../src/lib/server/db/connection';
import { saveEvent } from '../../src/lib/server/stores/events';
import { importedFile, reading, revision } from '../../src/lib/server/db/schema';
import { filesOf, takeBackFile, takeIn } from '../../src/lib/server/archive/sheet-import';
import { methodsFor } from '../../src/lib/server/stores/methods';
import {
	correctReading,
	latestOfEach,
	measuredSince,
	pointsOf,
	saveReading,
	setVoided,
	setVoidedAll,
	stampOf
} from '../../src/lib/server/stores/readings';
import { changeSystem, sourcesOf, systemFor, systemsOf } from '../../src/lib/server/stores/systems';
import { unusualOf } from '../../src/lib/server/answers/trends';
import { again, newPerson, newTank, openStores, status } from '../support/stores';

const NOW = new Date('2026-05-06T20:10:00Z');
let close: () => Promise<void>;
let keeper: Asker;
let demo: string;
/** A tank of its own for each test. */
let tank: string;
let water: string;
let syringe: string;

beforeAll(async () => {
	({ keeper, close } = await openStores(NOW));
	demo = (await systemsOf(keeper)).find((s) => s.name === 'Long Gallery')!.id;
	syringe = (await methodsFor(keeper)).find((m) => m.profile.id === 'alk-syringe-6')!.versionId;
});
afterAll(() => close());
async function freshTank(): Promise<void> {
	({ tank, water } = await newTank(keeper));
}
async function save(takenAt: string, left = 0.5): Promise<string> {
	const id = uuid();
	const saved = await saveReading(again(keeper), id, {
		sourceId: water,
		sampleId: uuid(),
		takenAt,
		methodVersionId: syringe,
		reading: { left }
	});
	expect(saved.ok).toBe(true);
	return id;
}
const choiceOf = (text: string): TakeIn => {
	const { separator, layout } = understand(text);
	const { doubts: _doubts, sense: _sense, ...plain } = layout;
	return { id: uuid(), name: 'sheet.csv', separator, layout: plain };
};
async function importAll(text: string, choice = choiceOf(text)): Promise<ImportProgress[]> {
	const steps: ImportProgress[] = [];
	for await (const step of takeIn(again(keeper), tank, text, choice)) steps.push(step);
	return steps;
}

describe('the book', () => {
	it('goes through pages without a line twice or missed, also where many are of one moment', async () => {
		await freshTank();
		const ids = new Set<string>();
		for (let i = 0; i < 23; i++) ids.add(await save('2026-05-01T19:00:00.000Z'));
		ids.add(await save('2026-05-02T19:00:00.000Z'));
		const seen: string[] = [];
		let before: { at: string; id: string } | undefined;
		do {
			const page = await bookPage(again(keeper), tank, {}, before, 5);
			expect(page.lines.length).toBeLessThanOrEqual(5);
			seen.push(...page.lines.map((l) => l.id));
			before = page.next ?? undefined;
		} while (before);
		expect(seen).toHaveLength(24);
		expect(new Set(seen)).toEqual(ids);
	});

	it('finds by parameter, water, kit, day and state', async () => {
		await freshTank();
		const first = await save('2026-05-01T19:00:00.000Z');
		const second = await save('2026-05-03T19:00:00.000Z');
		await setVoided(again(keeper), second, true, 'spilt');
		const found = async (filter: Parameters<typeof bookPage>[2]) =>
			(await bookPage(again(keeper), tank, filter)).lines.map((l) => l.id);
		expect(await found({})).toEqual([first]);
		expect(await found({ show: 'voided' })).toEqual([second]);
		expect(await found({ show: 'all' })).toEqual([second, first]);
		expect(await found({ show: 'all', to: '2026-05-03T19:00:00.000Z' })).toEqual([first]);
		expect(await found({ show: 'all', from: '2026-05-03T19:00:00.000Z' })).toEqual([second]);
		expect(await found({ parameter: 'calcium' })).toEqual([]);
		expect(await found({ source: uuid() })).toEqual([]);
		expect(await found({ method: uuid() })).toEqual([]);
		expect(await found({ lines: 'events' })).toEqual([]);
		// By words that stand in the line: of its kit, of why it is as it is, of who wrote it; all of them, as they are.
		expect(await found({ show: 'all', words: 'SPILT syringe' })).toEqual([second]);
		expect(await found({ show: 'all', words: 'syringe' })).toEqual([second, first]);
		expect(await found({ show: 'all', words: 'spilt drops' })).toEqual([]);
		expect(await found({ show: 'all', words: '%' })).toEqual([]);
		const note = uuid();
		await saveEvent(again(keeper), note, {
			systemId: tank,
			at: '2026-05-02T19:00:00.000Z',
			event: { kind: 'note', text: 'new lamp, 80_percent' }
		});
		expect(await found({ words: 'lamp' })).toEqual([note]);
		expect(await found({ words: '80_p' })).toEqual([note]);
		expect(await found({ words: '80xp' })).toEqual([]);
	});

	it('an animal that is written down ends the cycle of its tank, one of long ago does not', async () => {
		const stage = async () => (await systemFor(again(keeper), tank)).phase;
		const happens = (at: string) =>
			saveEvent(again(keeper), uuid(), {
				systemId: tank,
				at,
				event: { kind: 'livestock', text: 'two gobies' }
			});
		await freshTank();
		await changeSystem(again(keeper), tank, { phase: 'cycling' });
		await happens('2026-02-01T19:00:00.000Z');
		expect(await stage()).toBe('cycling');
		await happens('2026-05-05T19:00:00.000Z');
		expect(await stage()).toBe('young');
	});

	it('finds the reading that does not fit, and no other', async () => {
		await freshTank();
		for (let day = 1; day <= 28; day += 3)
			await save(`2026-04-${String(day).padStart(2, '0')}T19:00:00.000Z`, day % 2 ? 0.5 : 0.51);
		expect(await unusualOf(again(keeper), tank)).toEqual([]);
		const odd = await save('2026-04-30T19:00:00.000Z', 0.1);
		expect(await unusualOf(again(keeper), tank)).toEqual([odd]);
		expect((await bookPage(again(keeper), tank, { show: 'unusual' })).lines.map((l) => l.id)).toEqual([odd]);
	});

	it('says of each parameter since when it is measured', async () => {
		await freshTank();
		expect(await measuredSince(again(keeper), tank)).toEqual(new Map());
		await save('2026-05-02T19:00:00.123Z');
		await save('2026-05-01T19:00:00.456Z');
		expect(await measuredSince(again(keeper), tank)).toEqual(
			new Map([['alkalinity', new Date('2026-05-01T19:00:00.456Z')]])
		);
	});
});

describe('a correction', () => {
	const correction = (basedOn: number, left: number, takenAt = '2026-05-01T19:00:00.000Z') => ({
		basedOn,
		takenAt,
		methodVersionId: syringe,
		reading: { left },
		reason: 'read off the wrong line'
	});

	it('is a revision computed again, once however often it is sent, and never over another’s', async () => {
		await freshTank();
		const id = await save('2026-05-01T19:00:00.000Z', 0.5);
		const sent = correction(1, 0.4);
		const once = await correctReading(again(keeper), id, sent);
		expect(once).toMatchObject({ ok: true, value: { revision: 2 } });
		// 0.1 mL more of 0.036 mol/L acid in 6 mL; 1 dKH is 10 mg/L CaO.
		const perMl = ((0.036 * 1000) / 6) * (56.077 / 20);
		expect(once.ok && once.value.value! - 0.5 * perMl).toBeCloseTo(0.1 * perMl, 9);
		expect(await correctReading(again(keeper), id, sent)).toMatchObject({ ok: true, value: { revision: 2 } });
		expect(await correctReading(again(keeper), id, correction(1, 0.3))).toMatchObject({
			ok: false,
			problems: [{ message: expect.stringContaining('changed meanwhile') }]
		});
		const [was, is] = await historyOf(again(keeper), id);
		expect([was!.raw, is!.raw, is!.reason]).toEqual([
			{ reads: 'syringe', left: 0.5 },
			{ reads: 'syringe', left: 0.4 },
			sent.reason
		]);
	});

	it('moves to another moment as another sample, and the book’s order with it', async () => {
		await freshTank();
		const moved = await save('2026-05-01T19:00:00.000Z');
		const other = await save('2026-05-02T19:00:00.000Z');
		const [before] = await database().select().from(reading).where(eq(reading.id, moved));
		await correctReading(again(keeper), moved, correction(1, 0.5, '2026-05-03T19:00:00.000Z'));
		const [after] = await database().select().from(reading).where(eq(reading.id, moved));
		expect(after!.sampleId).not.toBe(before!.sampleId);
		expect((await bookPage(again(keeper), tank)).lines.map((l) => l.id)).toEqual([moved, other]);
	});

	it('is refused for another parameter’s kit, ahead of time, beyond the syringe, on what is voided', async () => {
		await freshTank();
		const id = await save('2026-05-01T19:00:00.000Z');
		const calcium = (await methodsFor(keeper)).find((m) => m.profile.parameter === 'calcium')!.versionId;
		for (const [part, path] of [
			[{ methodVersionId: calcium }, '/methodVersionId'],
			[{ methodVersionId: uuid() }, '/methodVersionId'],
			[{ takenAt: '2026-06-01T00:00:00.000Z' }, '/takenAt'],
			[{ reading: { left: 3 } }, '/reading/left']
		] as const) {
			const refused = await correctReading(again(keeper), id, { ...correction(1, 0.4), ...part });
			expect(refused).toMatchObject({ ok: false, problems: [{ path }] });
		}
		await setVoided(again(keeper), id, true, 'spilt');
		expect(await correctReading(again(keeper), id, correction(2, 0.4))).toMatchObject({ ok: false });
		expect(await historyOf(again(keeper), id)).toHaveLength(2);
	});

	it('changes the stamp of its parameter, as a save and a void do', async () => {
		await freshTank();
		const stamp = async () => JSON.stringify(await stampOf(again(keeper), tank, 'alkalinity'));
		const seen = [await stamp()];
		const id = await save('2026-05-01T19:00:00.000Z');
		seen.push(await stamp());
		await correctReading(again(keeper), id, correction(1, 0.4));
		seen.push(await stamp());
		await setVoided(again(keeper), id, true, 'spilt');
		seen.push(await stamp());
		await setVoided(again(keeper), id, false, null);
		seen.push(await stamp());
		expect(new Set(seen).size).toBe(5);
		expect(await stamp()).toBe(seen.at(-1));
	});
});

it('voids several of one tank, all or none of another’s', async () => {
	await freshTank();
	const mine = [await save('2026-05-01T19:00:00.000Z'), await save('2026-05-02T19:00:00.000Z')];
	const { points } = await pointsOf(again(keeper), demo, 'alkalinity');
	const sent = { systemId: tank, ids: [...mine, points[0]!.id], voided: true, reason: 'old reagent' };
	expect(await setVoidedAll(again(keeper), sent)).toMatchObject({ changed: 2 });
	expect(await setVoidedAll(again(keeper), sent)).toMatchObject({ changed: 0 });
	expect((await pointsOf(again(keeper), demo, 'alkalinity')).points[0]!.id).toBe(points[0]!.id);
	expect(await setVoidedAll(again(keeper), { ...sent, voided: false })).toMatchObject({ changed: 2 });
	expect(await status(setVoidedAll(await newPerson('Nobody'), sent))).toBe(404);
});

describe('a sheet', () => {
	const long = (rows: number) =>
		[
			'time,alk',
			...Array.from({ length: rows }, (_, i) => `${new Date(1.6e12 + i * 6e6).toISOString()},8.1`)
		].join('\n');
	const count = async () =>
		Number(
			(
				await database()
					.select({ n: sql<number>`count(*)` })
					.from(reading)
					.where(eq(reading.systemId, tank))
			)[0]!.n
		);

	it('tells how far it is, and left half way leaves nothing', async () => {
		await freshTank();
		const text = long(9000);
		const steps = takeIn(again(keeper), tank, text, choiceOf(text));
		expect((await steps.next()).value).toEqual({ kind: 'progress', done: 0, of: 9001 });
		expect((await steps.next()).value).toMatchObject({ kind: 'progress', done: 2001, of: 9001 });
		await steps.return(undefined);
		// Whoever comes next waits for what was stopped to be undone, and finds nothing of it.
		const whole = await importAll(text);
		expect(whole.at(-1)).toMatchObject({ kind: 'done', added: 9000, known: 0 });
		expect(await count()).toBe(9000);
		expect(await filesOf(again(keeper), tank)).toHaveLength(1);
		// The connection that was left checks keys again.
		const checks = await Promise.all(
			Array.from({ length: 10 }, () => database().execute(sql`select @@foreign_key_checks as n`))
		);
		for (const [rows] of checks) expect((rows as unknown as { n: number }[])[0]!.n).toBe(1);
	});

	it('with too many lines, columns or waters is refused with a sentence before any of it is kept', async () => {
		await freshTank();
		const refusal = (text: string, change = {}) =>
			importAll(text, { ...choiceOf('time,alk\n2026-01-05T19:00:00Z,8.1\n'), ...change }).then(
				() => '',
				(refused: { body: { message: string } }) => refused.body.message
			);
		expect(await refusal('2026-01-05,8.1\n'.repeat(200_001))).toMatch(/200,001 lines.*200,000.*Split it/);
		expect(await refusal(`${'x,'.repeat(16_000)}x\n`.repeat(50))).toMatch(/16,001 columns/);
		const waters = Array.from({ length: 150 }, (_, n) => `2026-01-05T19:00:00Z,8.1,bin ${n}`).join('\n');
		const text = `time,alk,water\n${waters}\n`;
		expect(await refusal(text, choiceOf(text))).toMatch(/more than 100 waters/);
		expect([await count(), await filesOf(again(keeper), tank)]).toEqual([0, []]);
	});

	it('sent twice at once is taken in once; two like answers at one moment are two', async () => {
		await freshTank();
		const text = 'time,alk\n2026-01-05T19:00:00Z,8.1\n2026-01-05T19:00:00Z,8.1\n2026-01-06T19:00:00Z,8.0\n';
		const choice = choiceOf(text);
		const both = await Promise.all([importAll(text, choice), importAll(text, choice)]);
		expect(both.some((steps) => steps.at(-1)!.kind === 'done')).toBe(true);
		expect(await count()).toBe(3);
		expect((await importAll(text)).at(-1)).toMatchObject({ kind: 'done', added: 0, known: 3 });
		expect(await count()).toBe(3);
	});

	it('taken out again leaves the trail of what was measured before it, however long it was', async () => {
		await freshTank();
		const trail = async () =>
			(await latestOfEach(again(keeper), tank, 3)).map((r) => `${r.parameter} ${r.takenAt} ${r.value}`);
		await importAll(
			'time,alk,ca\n2019-01-05T19:00:00Z,8.1,420\n2019-01-06T19:00:00Z,8.0,\n2019-01-07T19:00:00Z,7.9,\n2019-01-08T19:00:00Z,7.8,\n'
		);
		const before = await trail();
		expect(before).toHaveLength(4);
		const sheet = (await importAll(long(700))).at(-1) as { id: string };
		expect((await trail()).filter((line) => /^alkalinity 20(2|19)/.test(line))).toHaveLength(3);
		expect(await trail()).not.toEqual(before);
		await takeBackFile(again(keeper), tank, sheet.id);
		expect(await trail()).toEqual(before);
		expect([...(await measuredSince(again(keeper), tank)).keys()].sort()).toEqual(['alkalinity', 'calcium']);
	});

	it('taken back leaves what was corrected since voided too, and comes back with the same file', async () => {
		await freshTank();
		const text = 'date,water,alk,note\n2026-01-05,,8.1,new lamp\n2026-01-06,Kitchen tap,4.2,\n';
		const done = (await importAll(text)).at(-1)!;
		expect(done).toMatchObject({ kind: 'done', added: 2, notes: 1 });
		const id = (done as { id: string }).id;
		expect((await sourcesOf(again(keeper), tank)).map((s) => s.name)).toContain('Kitchen tap');
		expect((await bookPage(again(keeper), tank)).lines).toHaveLength(3);
		expect(await takeBackFile(again(keeper), tank, id)).toMatchObject({ changed: 2 });
		expect(await takeBackFile(again(keeper), tank, id)).toMatchObject({ changed: 0 });
		expect((await bookPage(again(keeper), tank)).lines).toHaveLength(0);
		expect((await importAll(text)).at(-1)).toMatchObject({ kind: 'done', added: 2 });
		expect(await status(takeBackFile(await newPerson('Nobody'), tank, id))).toBe(404);
		const [held] = await database().select().from(importedFile).where(eq(importedFile.id, id));
		expect(held!.takenBack).toBe(true);
		const torn = await database().execute(
			sql`select r.id from reading r left join revision v on v.reading_id = r.id and v.revision = r.revision where v.reading_id is null`
		);
		expect(torn[0]).toEqual([]);
		expect((await database().select().from(revision)).length).toBeGreaterThan(0);
	});
});
