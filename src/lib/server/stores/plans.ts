import { eq, inArray } from 'drizzle-orm';
import { DateTime } from 'luxon';
import { v5 as uuidV5 } from 'uuid';
import {
	dosingEvents,
	pourEvents,
	saltEvents,
	type CorrectRequest,
	type PlanStep
} from '../../../core/adjust';
import { bad, good, type Outcome } from '../../../core/base';
import type { WaterEvent } from '../../../core/trend';
import type { DoneStep, KeptPlan } from '../../api/plans';
import { mayUse, ofTank, writing, type Asker } from '../identity/asker';
import { CLOCK_SLACK, now } from '../clock';
import { database, type Connection } from '../db/connection';
import { event, plan } from '../db/schema';
import { systemFor } from './systems';
import { refuse } from '../refuse';

/** The plan that is followed, if there is one; for the calendar, the bench and the wall. */
export async function followedPlan(
	asker: Asker,
	systemId: string
): Promise<(KeptPlan & { id: string; madeAt: string }) | null> {
	return ofTank(asker, systemId, ['followed plan'], async () => {
		const held = await heldPlan(systemId);
		return held && { ...held.body, id: held.id, madeAt: held.madeAt.toISOString() };
	});
}

/** Follows a plan from now on, in place of the one before; sent again under the same id it stays as it is. Problems: the id is another's. */
export async function keepPlan(
	asker: Asker,
	id: string,
	systemId: string,
	kept: Omit<KeptPlan, 'done'>
): Promise<Outcome<{ id: string; madeAt: string }>> {
	const madeAt = now();
	const body: KeptPlan = { ...kept, done: {} };
	return writing(asker, systemId, async (tx) => {
		const [other] = await tx.select({ systemId: plan.systemId }).from(plan).where(eq(plan.id, id));
		if (other)
			return other.systemId === systemId
				? good({ id, madeAt: madeAt.toISOString() })
				: bad('/id', 'is in use');
		await tx.delete(plan).where(eq(plan.systemId, systemId));
		await tx.insert(plan).values({ id, systemId, madeAt, byUserId: asker.userId, body });
		return good({ id, madeAt: madeAt.toISOString() });
	});
}

/** Ends following a plan; what was done of it stays in the book. */
export async function endPlan(asker: Asker, id: string): Promise<void> {
	const systemId = await systemOfPlan(asker, id);
	await writing(asker, systemId, (tx) => tx.delete(plan).where(eq(plan.id, id)));
}

async function systemOfPlan(asker: Asker, id: string): Promise<string> {
	const [held] = await database().select({ systemId: plan.systemId }).from(plan).where(eq(plan.id, id));
	if (!held) refuse(404, 'There is no such plan; it was made again meanwhile.');
	await mayUse(asker, held.systemId, 'write');
	return held.systemId;
}

/**
 * Ticks a step off: it becomes what was done to the tank, as events. Ticking it again with another amount puts those right; the same
 * again changes nothing. Problems: no such step, nothing to do in it, a time to come.
 */
export async function doStep(
	asker: Asker,
	id: string,
	place: number,
	sent: DoneStep
): Promise<Outcome<{ id: string; events: string[] }>> {
	const systemId = await systemOfPlan(asker, id);
	const at = new Date(sent.at);
	if (at.getTime() > now().getTime() + CLOCK_SLACK) return bad('/at', 'lies in the future');
	return writing(asker, systemId, async (tx) => {
		const [held] = await tx.select().from(plan).where(eq(plan.id, id)).for('update');
		const step = held?.body.result.steps[place];
		if (!held || !step) return bad('', 'is no step of this plan');
		const made = sent.leftOut ? [] : eventsOf(step, held.body.request, sent.amount);
		if (!sent.leftOut && !made.length) return bad('', 'is nothing to tick off: it is done by measuring');
		const events: string[] = [];
		for (const body of made) {
			const of = body.kind === 'water-change' ? 'water' : 'parameter' in body ? body.parameter : 'note';
			const eventId = uuidV5(`${place} ${of}`, id);
			events.push(eventId);
			const values = { at, body, voided: false, reason: null };
			await tx
				.insert(event)
				.values({ id: eventId, systemId, byUserId: asker.userId, createdAt: now(), ...values })
				.onDuplicateKeyUpdate({ set: values });
		}
		// Of another amount it may move less beside: what was written of that before is void.
		const before = held.body.done[place]?.events ?? [];
		await voidAll(
			tx,
			before.filter((eventId) => !events.includes(eventId)),
			'the step was ticked off otherwise'
		);
		const body = { ...held.body, done: { ...held.body.done, [place]: { ...sent, events } } };
		await tx.update(plan).set({ body }).where(eq(plan.id, id));
		return good({ id, events });
	});
}

/** Takes a tick back: what it made is void. */
export async function undoStep(asker: Asker, id: string, place: number): Promise<void> {
	const systemId = await systemOfPlan(asker, id);
	await writing(asker, systemId, async (tx) => {
		const [held] = await tx.select().from(plan).where(eq(plan.id, id)).for('update');
		const done = held?.body.done[place];
		if (!held || !done) return;
		await voidAll(tx, done.events, 'the tick in the plan was taken back');
		const { [place]: _gone, ...others } = held.body.done;
		await tx
			.update(plan)
			.set({ body: { ...held.body, done: others } })
			.where(eq(plan.id, id));
	});
}

async function voidAll(tx: Connection, events: string[], reason: string): Promise<void> {
	if (events.length) await tx.update(event).set({ voided: true, reason }).where(inArray(event.id, events));
}

/** What a step does to the water, as events; of another amount than planned in proportion. */
export function eventsOf(step: PlanStep, request: CorrectRequest, amount = step.amount ?? 0): WaterEvent[] {
	const share = step.amount ? amount / step.amount : 1;
	const bottle = request.supplements.find((s) => s.id === step.supplement);
	if (step.kind === 'water-change')
		return [
			{
				kind: 'water-change',
				fraction: Math.min(1, (step.fraction ?? 0) * share),
				newWater: request.change?.water ?? {}
			}
		];
	if (step.kind === 'fresh-water') {
		const none = Object.fromEntries(request.parameters.map((p) => [p.parameter, 0]));
		return [{ kind: 'water-change', fraction: amount / request.water.volumeL.value, newWater: none }];
	}
	if (step.kind === 'salt') return saltEvents(amount, request.water.volumeL.value);
	if (!bottle) return [];
	const litres = request.water.volumeL.value;
	if (step.kind === 'dose') return pourEvents(bottle, amount, litres);
	if (step.kind === 'dosing-rate') return dosingEvents(bottle, amount, litres);
	return [];
}

/** Steps of a plan with their day in the tank's zone. */
function datedSteps(
	{ result, madeAt, done }: Pick<KeptPlan, 'result' | 'done'> & { madeAt: string },
	timeZone: string
): { place: number; step: PlanStep; date: string; done: boolean }[] {
	const first = DateTime.fromISO(madeAt, { zone: timeZone }).startOf('day');
	return result.steps.map((step, place) => ({
		place,
		step,
		date: first.plus({ days: step.day }).toISODate() ?? '',
		done: !!done[place]
	}));
}

/** Steps of the plan a tank is under that are to be done on a day (2026-05-06) or were left open before it; tests are not among them. */
export async function openSteps(
	asker: Asker,
	systemId: string,
	until: string
): Promise<{
	plan: string;
	steps: { place: number; step: PlanStep; date: string }[];
	request: CorrectRequest;
} | null> {
	const [held, { timeZone }] = await Promise.all([followedPlan(asker, systemId), systemFor(asker, systemId)]);
	if (!held) return null;
	const steps = datedSteps(held, timeZone).filter(
		(s) => !s.done && s.date <= until && s.step.kind !== 'test' && s.step.kind !== 'wait'
	);
	return { plan: held.id, steps, request: held.request };
}

/** The plan a tank is under as it is kept; whoever asks has been let in. */
export async function heldPlan(systemId: string, db: Connection = database()) {
	const [held] = await db.select().from(plan).where(eq(plan.systemId, systemId));
	return held ?? null;
}
