import { and, asc, eq, gte, sql } from 'drizzle-orm';
import { DAY, bad, good, type Outcome } from '../../../core/base';
import type { Pack, SavePack } from '../../api/methods';
import { SHORTLY, mayMake, ofPerson, writing, type Asker } from '../identity/asker';
import { now } from '../clock';
import { database } from '../db/connection';
import { method, pack } from '../db/schema';
import { refuse } from '../refuse';

/** The pace of use is taken over this many days: a season of settled testing. */
const PACE_DAYS = 60;

/** The asker's packs with what is left: every counted reading since a pack was opened takes one test. */
export async function packsOf(asker: Asker): Promise<Pack[]> {
	return ofPerson(asker, ['packs'], () => countedPacks(asker), SHORTLY);
}

async function countedPacks(asker: Asker): Promise<Pack[]> {
	const db = database();
	const theirs = and(eq(pack.ownerId, asker.userId), eq(pack.finished, false));
	const rows = await db.select().from(pack).where(theirs).orderBy(asc(pack.label));
	if (!rows.length) return [];
	const lately = new Date(now().getTime() - PACE_DAYS * DAY).toISOString().slice(0, 10);
	const earliest = rows.map((p) => p.opened).reduce((a, b) => (a < b ? a : b), lately);
	// From the tanks by their days: begun at the method, the database walks every keeper's readings.
	const [counts] = (await db.execute(sql`
		select p.id, sum(r.taken_at >= p.opened) as used, sum(r.taken_at >= ${lately}) as lately
		from membership m
		straight_join reading r force index (book_of_system) on r.system_id = m.system_id and r.taken_at >= ${earliest}
		straight_join revision v on v.reading_id = r.id and v.revision = r.revision and v.voided = 0
		straight_join method_version k on k.id = v.method_version_id
		straight_join pack p on p.method_id = k.method_id and p.owner_id = m.user_id and p.finished = 0
		where m.user_id = ${asker.userId}
		group by p.id`)) as unknown as [{ id: string; used: string; lately: string }[]];
	const counted = new Map(counts.map((c) => [c.id, c]));
	return rows.map(({ ownerId: _owner, finished: _finished, bestBefore, ...rest }) => {
		const { used = 0, lately: pace = 0 } = counted.get(rest.id) ?? {};
		return {
			...rest,
			...(bestBefore === null ? {} : { bestBefore }),
			left: Math.max(0, rest.tests - Number(used)),
			pace: Number(pace) >= 2 ? Number(pace) / PACE_DAYS : null
		};
	});
}

/** What the asker's packs that were opened since a day measure, and when they were opened. */
export async function packsOpenedSince(
	asker: Asker,
	since: Date
): Promise<{ parameter: string; at: Date }[]> {
	const day = since.toISOString().slice(0, 10);
	const rows = await ofPerson(asker, ['packs opened since', day], () =>
		database()
			.select({ parameter: method.parameter, opened: pack.opened })
			.from(pack)
			.innerJoin(method, eq(method.id, pack.methodId))
			.where(and(eq(pack.ownerId, asker.userId), eq(pack.finished, false), gte(pack.opened, day)))
	);
	return rows.map((r) => ({ parameter: r.parameter, at: new Date(`${r.opened}T00:00:00Z`) }));
}

/** Keeps a pack under the client's id; sending it again changes nothing. Problems: an unknown method, a date before its opening. */
export async function savePack(asker: Asker, id: string, sent: SavePack): Promise<Outcome<{ id: string }>> {
	mayMake(asker);
	const db = database();
	const [known] = await db.select().from(method).where(eq(method.id, sent.methodId));
	if (!known || (known.ownerId !== null && known.ownerId !== asker.userId))
		return bad('/methodId', 'is not a method you have');
	if (sent.bestBefore !== undefined && sent.bestBefore < sent.opened)
		return bad('/bestBefore', 'lies before the day it was opened');
	const [held] = await db.select({ ownerId: pack.ownerId }).from(pack).where(eq(pack.id, id));
	if (held && held.ownerId !== asker.userId) return bad('', 'is not yours');
	const values = { ...sent, bestBefore: sent.bestBefore ?? null };
	await writing(asker, asker.userId, (tx) =>
		tx
			.insert(pack)
			.values({ id, ownerId: asker.userId, finished: false, ...values })
			.onDuplicateKeyUpdate({ set: { ...values, finished: false } })
	);
	return good({ id });
}

/** A pack is used up or thrown away, or back on the shelf. Refuses (404) one that is not the asker's. */
export async function finishPack(asker: Asker, id: string, finished: boolean): Promise<void> {
	mayMake(asker);
	const db = database();
	const theirs = and(eq(pack.id, id), eq(pack.ownerId, asker.userId));
	const [held] = await db.select({ id: pack.id }).from(pack).where(theirs);
	if (!held) refuse(404, 'There is no such pack, or it is not yours.');
	await writing(asker, asker.userId, (tx) => tx.update(pack).set({ finished }).where(theirs));
}
