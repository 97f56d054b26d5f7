import { and, asc, eq, inArray } from 'drizzle-orm';
import { DAY, bad, good, type Outcome } from '../../../core/base';
import { LIVED_IN, LIVED_IN_LATELY } from '../../../core/targets';
import type { SaveEvent, TankEvent } from '../../api/events';
import { mayUse, ofTank, writing, type Asker } from '../identity/asker';
import { CLOCK_SLACK, now } from '../clock';
import { DUPLICATE, database, errnoOf } from '../db/connection';
import { event, system } from '../db/schema';
import { refuse } from '../refuse';

/** Keeps an event under the client's id; sending it again changes nothing. Problems: a time in the future. */
export async function saveEvent(asker: Asker, id: string, sent: SaveEvent): Promise<Outcome<TankEvent>> {
	const db = database();
	await mayUse(asker, sent.systemId, 'write');
	const at = new Date(sent.at);
	if (at.getTime() > now().getTime() + CLOCK_SLACK) return bad('/at', 'lies in the future');
	try {
		await writing(asker, sent.systemId, async (tx) => {
			await tx.insert(event).values({
				id,
				systemId: sent.systemId,
				at,
				body: sent.event,
				byUserId: asker.userId,
				createdAt: now(),
				voided: false,
				reason: null
			});
			// One that was made ready for animals has them now: it is in its first months, and what poisons them is watched.
			if (LIVED_IN.includes(sent.event.kind) && now().getTime() - at.getTime() < LIVED_IN_LATELY * DAY)
				await tx
					.update(system)
					.set({ phase: 'young' })
					.where(and(eq(system.id, sent.systemId), inArray(system.phase, ['new', 'cycling'])));
		});
	} catch (failure) {
		if (errnoOf(failure) !== DUPLICATE) throw failure;
		const [held] = await db.select().from(event).where(eq(event.id, id));
		if (held?.systemId !== sent.systemId) refuse(409, 'This id is in use.');
		return good({ id, at: held.at.toISOString(), event: held.body });
	}
	return good({ id, at: at.toISOString(), event: sent.event });
}

/** What was done to a tank, oldest first, voided events left out. */
export async function eventsOfTank(asker: Asker, systemId: string): Promise<TankEvent[]> {
	await mayUse(asker, systemId, 'read');
	return ofTank(asker, systemId, ['events'], async () => {
		const rows = await database()
			.select({ id: event.id, at: event.at, event: event.body })
			.from(event)
			.where(and(eq(event.systemId, systemId), eq(event.voided, false)))
			.orderBy(asc(event.at), asc(event.id));
		return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
	});
}

/** Takes an event out of the count, with a reason, or back in. */
export async function setEventVoided(
	asker: Asker,
	id: string,
	voided: boolean,
	reason: string | null
): Promise<void> {
	const db = database();
	const [held] = await db.select().from(event).where(eq(event.id, id));
	if (!held) refuse(404, 'There is no such event.');
	await mayUse(asker, held.systemId, 'write');
	await writing(asker, held.systemId, (tx) =>
		tx.update(event).set({ voided, reason }).where(eq(event.id, id))
	);
}
