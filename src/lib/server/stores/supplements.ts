import { and, eq } from 'drizzle-orm';
import { compositionOf } from '../../../core/adjust';
import { DAY, bad, badAll, good, type Outcome } from '../../../core/base';
import type { DatedEvent } from '../../../core/trend';
import type { SaveSupplement, ShelfSupplement } from '../../api/supplements';
import { SHORTLY, mayMake, ofPerson, writing, type Asker } from '../identity/asker';
import { now } from '../clock';
import { database } from '../db/connection';
import { supplement } from '../db/schema';
import { eventsOfTank } from './events';
import { systemsOf } from './systems';
import { refuse } from '../refuse';

/** The pace of use is taken over this many days. */
const PACE_DAYS = 30;
/** Things to pour one keeper may have; past this it is no shelf but a mistake. */
const MOST_SUPPLEMENTS = 100;

/** What stands on the asker's shelf to be poured, with what is left of it. */
export async function supplementsOf(asker: Asker): Promise<ShelfSupplement[]> {
	return ofPerson(asker, ['supplements'], () => counted(asker), SHORTLY);
}

async function counted(asker: Asker): Promise<ShelfSupplement[]> {
	const rows = await database()
		.select()
		.from(supplement)
		.where(and(eq(supplement.ownerId, asker.userId), eq(supplement.finished, false)));
	if (!rows.length) return [];
	const events: DatedEvent[] = [];
	for (const { id } of await systemsOf(asker))
		events.push(...(await eventsOfTank(asker, id)).map((e) => ({ ...e.event, at: e.at }) as DatedEvent));
	const present = now().getTime();
	return rows
		.map(({ id, profile, amount, opened }): ShelfSupplement => {
			const since = opened === null ? -Infinity : Date.parse(opened);
			const used = usedOf(id, events, since, present);
			const pace = usedOf(id, events, Math.max(since, present - PACE_DAYS * DAY), present) / PACE_DAYS;
			const left = amount === null ? null : Math.max(0, amount - used);
			return {
				id,
				profile,
				...(amount === null ? {} : { amount }),
				...(opened === null ? {} : { opened }),
				left,
				lastsDays: left === null || !(pace > 0) ? null : left / pace
			};
		})
		.sort((a, b) => a.profile.name.localeCompare(b.profile.name));
}

/** mL or g of a bottle that went between two moments: what was poured, and what dosing pumps gave until they gave something else. */
export function usedOf(id: string, events: DatedEvent[], from: number, to: number): number {
	let used = 0;
	const rates = new Map<string, { at: number; perDay: number }>();
	const settle = (parameter: string, until: number) => {
		const rate = rates.get(parameter);
		if (!rate) return;
		used += (rate.perDay * Math.max(0, Math.min(until, to) - Math.max(rate.at, from))) / DAY;
	};
	for (const e of [...events].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))) {
		const at = Date.parse(e.at);
		if (at > to) break;
		if (e.kind === 'dose' && e.supplementId === id && at >= from) used += e.amountMl ?? e.amountG ?? 0;
		if (e.kind !== 'dosing') continue;
		settle(e.parameter, at);
		if (e.supplementId === id && e.mlPerDay !== undefined) rates.set(e.parameter, { at, perDay: e.mlPerDay });
		else rates.delete(e.parameter);
	}
	for (const parameter of rates.keys()) settle(parameter, to);
	return used;
}

/** Keeps something to pour under the client's id; sending it again changes nothing. Problems: what `compositionOf` says of it. */
export async function saveSupplement(
	asker: Asker,
	id: string,
	sent: SaveSupplement
): Promise<Outcome<{ id: string }>> {
	mayMake(asker);
	const read = compositionOf(sent.profile);
	if (!read.ok) return badAll(read.problems.map((p) => ({ ...p, path: `/profile${p.path}` })));
	// The bottle on the shelf and the one in a plan are the same thing: one id.
	const values = {
		profile: { ...sent.profile, id },
		amount: sent.amount ?? null,
		opened: sent.opened ?? null,
		finished: false
	};
	return writing(asker, asker.userId, async (tx) => {
		const [held] = await tx.select().from(supplement).where(eq(supplement.id, id)).for('update');
		if (held && held.ownerId !== asker.userId) return bad('', 'is not yours');
		if (!held) {
			const mine = await tx
				.select({ id: supplement.id })
				.from(supplement)
				.where(eq(supplement.ownerId, asker.userId));
			if (mine.length >= MOST_SUPPLEMENTS)
				return bad('', `you have ${MOST_SUPPLEMENTS} things to pour already; remove one first`);
		}
		await tx
			.insert(supplement)
			.values({ id, ownerId: asker.userId, ...values })
			.onDuplicateKeyUpdate({ set: values });
		return good({ id });
	});
}

/** It is used up or thrown away, or back on the shelf. Refuses (404) one that is not the asker's. */
export async function finishSupplement(asker: Asker, id: string, finished: boolean): Promise<void> {
	mayMake(asker);
	const theirs = and(eq(supplement.id, id), eq(supplement.ownerId, asker.userId));
	const [held] = await database().select({ id: supplement.id }).from(supplement).where(theirs);
	if (!held) refuse(404, 'There is nothing of that kind, or it is not yours.');
	await writing(asker, asker.userId, (tx) => tx.update(supplement).set({ finished }).where(theirs));
}
