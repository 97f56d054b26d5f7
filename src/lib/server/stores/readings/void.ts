import { and, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Reading, VoidReadings } from '../../../api/readings';
import { now } from '../../clock';
import { database, type Connection } from '../../db/connection';
import { reading, revision } from '../../db/schema';
import { mayUse, writing, type Asker } from '../../identity/asker';
import { stored } from './rows';
import { refuse } from '../../refuse';

/** Takes a reading out of the count, with a reason, or back in. A new revision each time; repeating it changes nothing. */
export async function setVoided(
	asker: Asker,
	id: string,
	voided: boolean,
	reason: string | null
): Promise<Reading> {
	const db = database();
	const before = await stored(db, asker, id);
	if (!before) refuse(404, 'There is no such reading.');
	await mayUse(asker, before.systemId, 'write');
	await writing(asker, before.systemId, (tx) => voidWhere(tx, asker, eq(reading.id, id), voided, reason));
	return (await stored(db, asker, id))!;
}

/** The same for several readings of one tank, all or none; ids of other tanks are passed over. How many it changed. */
export async function setVoidedAll(
	asker: Asker,
	{ systemId, ids, voided, reason }: VoidReadings
): Promise<{ id: string; changed: number }> {
	await mayUse(asker, systemId, 'write');
	const theirs = and(eq(reading.systemId, systemId), inArray(reading.id, ids))!;
	return {
		id: systemId,
		changed: await writing(asker, systemId, (tx) => voidWhere(tx, asker, theirs, voided, reason))
	};
}

/** So many readings are written at once. */
const AT_ONCE = 1000;

/**
 * Takes out of the count, or back in, what a condition on `reading` and its newest `revision` names and is not so yet, each
 * by a revision of its own. In a transaction of the caller's, who has asked whether this may be.
 */
export async function voidWhere(
	tx: Connection,
	asker: Asker,
	condition: SQL,
	voided: boolean,
	reason: string | null
): Promise<number> {
	const found = await tx
		.select({ id: reading.id })
		.from(reading)
		.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
		.where(and(condition, eq(revision.voided, !voided)))
		.for('update');
	for (let from = 0; from < found.length; from += AT_ONCE) {
		const ids = found.slice(from, from + AT_ONCE).map((r) => r.id);
		await tx.execute(sql`
			insert into revision (reading_id, revision, by_user_id, at, method_version_id, raw, sample_size, taken_away_id,
				result, calculation, qualifier, unit, value, standard_uncertainty, repeatability, low, high, own_chart, voided, reason)
			select v.reading_id, v.revision + 1, ${asker.userId}, ${now()}, v.method_version_id, v.raw, v.sample_size,
				v.taken_away_id, v.result, v.calculation, v.qualifier, v.unit, v.value, v.standard_uncertainty,
				v.repeatability, v.low, v.high, v.own_chart, ${voided}, ${reason}
			from revision v join reading r on r.id = v.reading_id and r.revision = v.revision
			where r.id in ${ids}`);
		await tx
			.update(reading)
			.set({ revision: sql`${reading.revision} + 1` })
			.where(inArray(reading.id, ids));
	}
	return found.length;
}
