import { and, eq, sql } from 'drizzle-orm';
import { v7 as uuid } from 'uuid';
import { type Method, tagged } from '../../../../core/instruments';
import { hasOwnChart, read, readingCounts, readingRequest, type Measured } from '../../../../core/methods';
import { bad, good, type Outcome } from '../../../../core/base';
import type { CorrectReading, Reading, SaveReading } from '../../../api/readings';
import { CLOCK_SLACK, now } from '../../clock';
import { DUPLICATE, database, errnoOf, type Connection } from '../../db/connection';
import { reading, revision, sample, source } from '../../db/schema';
import { mayUse, writing, type Asker } from '../../identity/asker';
import { chartSince, methodVersionFor, profileOf } from '../methods';
import { conductIn, runWithEvents, testedIn } from '../runs';
import { readingRow, revisionRow, stored } from './rows';
import { refuse } from '../../refuse';

/**
 * Saves a reading under the client's id; the value is computed here. Sending it again changes nothing and answers the
 * same. Problems: bad raw reading, unknown method or source, a time in the future.
 */
export async function saveReading(asker: Asker, id: string, sent: SaveReading): Promise<Outcome<Reading>> {
	const db = database();
	const [from] = await db.select().from(source).where(eq(source.id, sent.sourceId));
	if (!from) return bad('/sourceId', 'is not a water of yours');
	await mayUse(asker, from.systemId, 'write');

	const earlier = await stored(db, asker, id);
	if (earlier) return good(earlier);
	const takenAt = new Date(sent.takenAt);
	if (takenAt.getTime() > now().getTime() + CLOCK_SLACK) return bad('/takenAt', 'lies in the future');
	const run = sent.runId === undefined ? undefined : await runWithEvents(asker, sent.runId);
	if (run && !testedIn(run, from.id)) return bad('/runId', 'was a test session with another water');
	// Two keepers share a run: what one of them laid out, the other may read.
	const kit = run?.methods[sent.methodVersionId] ?? (await methodVersionFor(db, asker, sent.methodVersionId));
	if (!kit) return bad('/methodVersionId', 'is not a method you have');
	// From a device that did not know yet that its kit's chart had come: by that chart, where it can be read by it.
	const since = hasOwnChart(kit) ? undefined : await chartSince(db, sent.methodVersionId);
	const byChart = since && (await computed(db, asker, since.kit, from.id, sent));
	const result = byChart?.ok ? byChart : await computed(db, asker, kit, from.id, sent);
	if (!result.ok) return result;
	const methodVersionId = since && byChart?.ok ? since.versionId : sent.methodVersionId;
	const conduct = run && conductIn(run, id);

	try {
		await writing(asker, from.systemId, async (tx) => {
			await tx
				.insert(sample)
				.values({ id: sent.sampleId, sourceId: from.id, takenAt })
				.onDuplicateKeyUpdate({ set: { sourceId: sql`${sample.sourceId}` } });
			const [water] = await tx.select().from(sample).where(eq(sample.id, sent.sampleId));
			if (water?.sourceId !== from.id) refuse(409, 'This sample belongs to another water.');
			await tx.insert(reading).values(
				readingRow({
					id,
					systemId: from.systemId,
					sampleId: sent.sampleId,
					sourceId: from.id,
					parameter: kit.parameter,
					takenAt,
					runId: sent.runId,
					conduct
				})
			);
			await tx.insert(revision).values(
				revisionRow(kit.parameter, {
					readingId: id,
					revision: 1,
					byUserId: asker.userId,
					at: now(),
					methodVersionId,
					raw: tagged(kit, sent.reading),
					sampleSize: sent.sampleSize,
					takenAwayId: sent.takenAwayId,
					...result.value
				})
			);
		});
	} catch (failure) {
		// Two sends of one reading at the same time: the first has stored it.
		if (errnoOf(failure) !== DUPLICATE) throw failure;
	}
	const saved = await stored(db, asker, id);
	// The id is taken by a reading of a tank that is not the asker's.
	if (!saved) refuse(409, 'This id is in use.');
	return good(saved);
}

/**
 * Writes down what was really seen: a new revision, computed again; the earlier ones stay. Sending it again changes nothing.
 * Problems: it was changed meanwhile, it is voided, a method of another parameter, a time ahead, a bad raw reading.
 */
export async function correctReading(
	asker: Asker,
	id: string,
	sent: CorrectReading
): Promise<Outcome<Reading>> {
	const db = database();
	const before = await stored(db, asker, id);
	if (!before) refuse(404, 'There is no such reading.');
	await mayUse(asker, before.systemId, 'write');
	const takenAt = new Date(sent.takenAt);
	if (takenAt.getTime() > now().getTime() + CLOCK_SLACK) return bad('/takenAt', 'lies in the future');
	const [current] = await db
		.select()
		.from(revision)
		.where(and(eq(revision.readingId, id), eq(revision.revision, before.revision)));
	// What it was read by may be another member's kit: it goes on to be.
	const kit =
		sent.methodVersionId === current!.methodVersionId
			? await profileOf(db, sent.methodVersionId)
			: await methodVersionFor(db, asker, sent.methodVersionId);
	if (!kit) return bad('/methodVersionId', 'is not a method you have');
	if (kit.parameter !== before.parameter)
		return bad('/methodVersionId', `measures ${kit.parameter}, and this reading is of ${before.parameter}`);
	const result = await computed(db, asker, kit, before.sourceId, sent);
	if (!result.ok) return result;
	const { reason, methodVersionId } = sent;
	const raw = tagged(kit, sent.reading);
	return writing(asker, before.systemId, async (tx) => {
		const [held] = await tx.select().from(reading).where(eq(reading.id, id)).for('update');
		if (held!.revision !== sent.basedOn) {
			const same =
				held!.revision === sent.basedOn + 1 &&
				current!.reason === reason &&
				JSON.stringify(tagged(kit, current!.raw)) === JSON.stringify(raw);
			return same
				? good(before)
				: bad('', 'was changed meanwhile; look at it again, then repeat your correction');
		}
		if (before.voided) return bad('', 'is voided; put it back first');
		const next = held!.revision + 1;
		await tx.insert(revision).values(
			revisionRow(kit.parameter, {
				readingId: id,
				revision: next,
				byUserId: asker.userId,
				at: now(),
				methodVersionId,
				takenAt,
				raw,
				sampleSize: sent.sampleSize,
				takenAwayId: sent.takenAwayId,
				...result.value,
				reason
			})
		);
		const moved = held!.takenAt.getTime() !== takenAt.getTime();
		// Another moment is another sample.
		const sampleId = moved ? uuid() : held!.sampleId;
		if (moved) await tx.insert(sample).values({ id: sampleId, sourceId: held!.sourceId, takenAt });
		await tx.update(reading).set({ revision: next, takenAt, sampleId }).where(eq(reading.id, id));
		return good((await stored(tx, asker, id))!);
	});
}

/** A raw reading in numbers, with what it takes away from the same water. */
async function computed(
	db: Connection,
	asker: Asker,
	kit: Method,
	sourceId: string,
	sent: Pick<SaveReading, 'reading' | 'sampleSize' | 'takenAwayId'>
): Promise<Outcome<{ result: Measured; ownChart: boolean }>> {
	const other = sent.takenAwayId === undefined ? undefined : await stored(db, asker, sent.takenAwayId);
	if (other && (other.sourceId !== sourceId || other.parameter !== kit.takeAway?.parameter))
		return bad('/takenAwayId', 'must be what this method takes away, measured in the same water');
	const result = read(readingRequest(kit, sent.reading, { sampleSize: sent.sampleSize, other }));
	return result.ok ? good({ result: result.value, ownChart: readingCounts(kit, other) }) : result;
}
