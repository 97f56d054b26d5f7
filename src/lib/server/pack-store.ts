import { error } from '@sveltejs/kit';
import { and, asc, eq, gte, sql } from 'drizzle-orm';
import { bad, good, type Outcome } from '../../core/problems';
import type { Pack, SavePack } from '../api/methods';
import { mayWrite, type Asker } from './asker';
import { now } from './clock';
import { database } from './db/connection';
import { membership, method, methodVersion, pack, reading, revision } from './db/schema';

/** The pace of use is taken over this many days: a season of settled testing. */
const PACE_DAYS = 60;

/** The asker's packs with what is left: every counted reading since a pack was opened takes one test. */
export async function packsOf(asker: Asker): Promise<Pack[]> {
	const db = database();
	const rows = await db
		.select()
		.from(pack)
		.where(and(eq(pack.ownerId, asker.userId), eq(pack.finished, false)))
		.orderBy(asc(pack.label));
	const since = new Date(now().getTime() - PACE_DAYS * 86_400_000);
	const usedSince = async (methodId: string, from: Date): Promise<number> => {
		const [found] = await db
			.select({ n: sql<number>`count(*)`.mapWith(Number) })
			.from(reading)
			.innerJoin(revision, and(eq(revision.readingId, reading.id), eq(revision.revision, reading.revision)))
			.innerJoin(methodVersion, eq(methodVersion.id, revision.methodVersionId))
			.innerJoin(
				membership,
				and(eq(membership.systemId, reading.systemId), eq(membership.userId, asker.userId))
			)
			.where(
				and(
					eq(methodVersion.methodId, methodId),
					eq(revision.voided, false),
					sql`${reading.takenAt} >= ${from.toISOString().slice(0, 23).replace('T', ' ')}`
				)
			);
		return found?.n ?? 0;
	};
	return Promise.all(
		rows.map(async (p) => {
			const [used, lately] = await Promise.all([
				usedSince(p.methodId, new Date(`${p.opened}T00:00:00Z`)),
				usedSince(p.methodId, since)
			]);
			const { ownerId: _owner, finished: _finished, bestBefore, ...rest } = p;
			return {
				...rest,
				...(bestBefore === null ? {} : { bestBefore }),
				left: Math.max(0, p.tests - used),
				pace: lately >= 2 ? lately / PACE_DAYS : null
			};
		})
	);
}

/** What the asker's packs that were opened since a day measure, and when they were opened. */
export async function packsOpenedSince(
	asker: Asker,
	since: Date
): Promise<{ parameter: string; at: Date }[]> {
	const rows = await database()
		.select({ parameter: method.parameter, opened: pack.opened })
		.from(pack)
		.innerJoin(method, eq(method.id, pack.methodId))
		.where(
			and(
				eq(pack.ownerId, asker.userId),
				eq(pack.finished, false),
				gte(pack.opened, since.toISOString().slice(0, 10))
			)
		);
	return rows.map((r) => ({ parameter: r.parameter, at: new Date(`${r.opened}T00:00:00Z`) }));
}

/** Keeps a pack under the client's id; sending it again changes nothing. Problems: an unknown method, a date before its opening. */
export async function savePack(asker: Asker, id: string, sent: SavePack): Promise<Outcome<{ id: string }>> {
	mayWrite(asker);
	const db = database();
	const [known] = await db.select().from(method).where(eq(method.id, sent.methodId));
	if (!known || (known.ownerId !== null && known.ownerId !== asker.userId))
		return bad('/methodId', 'is not a method you have');
	if (sent.bestBefore !== undefined && sent.bestBefore < sent.opened)
		return bad('/bestBefore', 'lies before the day it was opened');
	const [held] = await db.select({ ownerId: pack.ownerId }).from(pack).where(eq(pack.id, id));
	if (held && held.ownerId !== asker.userId) return bad('', 'is not yours');
	const values = { ...sent, bestBefore: sent.bestBefore ?? null };
	await db
		.insert(pack)
		.values({ id, ownerId: asker.userId, finished: false, ...values })
		.onDuplicateKeyUpdate({ set: { ...values, finished: false } });
	return good({ id });
}

/** A pack is used up or thrown away, or back on the shelf. Refuses (404) one that is not the asker's. */
export async function finishPack(asker: Asker, id: string, finished: boolean): Promise<void> {
	mayWrite(asker);
	const db = database();
	const theirs = and(eq(pack.id, id), eq(pack.ownerId, asker.userId));
	const [held] = await db.select({ id: pack.id }).from(pack).where(theirs);
	if (!held) error(404, 'There is no such pack, or it is not yours.');
	await db.update(pack).set({ finished }).where(theirs);
}
