import { bad, good, type Outcome } from '../../../core/base';
import {
	NO_PLAN,
	changesOf,
	compositionOf,
	type CorrectRequest,
	type CorrectResult,
	type PlanWish,
	requestOf
} from '../../../core/adjust';
import { targets } from '../../../core/targets';
import type { DatedEvent } from '../../../core/trend';
import type { Planned } from '../../api/plans';
import { PLAN_DAYS } from '../../api/plan-query';
import type { ShelfSupplement } from '../../api/supplements';
import { SHORTLY, mayUse, mine, ofPerson, type Asker } from '../identity/asker';
import { now } from '../clock';
import { mayAskForPlan } from '../identity/attempts';
import { inThread } from '../work/pool';
import { eventsOfTank } from '../stores/events';
import { latestReadings, measuredIn } from '../stores/readings';
import { heldPlan, keepPlan } from '../stores/plans';
import { supplementsOf } from '../stores/supplements';
import { OWN_BANDS, bandsOf, systemFor } from '../stores/systems';
import { outlookOf } from './outlook';

/** The plan for a tank as its water is known now, and the one that is followed. */
export async function planFor(asker: Asker, systemId: string, wish: PlanWish): Promise<Planned> {
	await mayUse(asker, systemId, 'read');
	return ofPerson(asker, ['plan', systemId, wish], () => makePlan(asker, systemId, wish), SHORTLY);
}

async function makePlan(asker: Asker, systemId: string, wish: PlanWish): Promise<Planned> {
	const [bottles, held] = await Promise.all([supplementsOf(asker), heldPlan(systemId)]);
	// What was put on the shelf before it was known to be impossible is left out, and the shelf says so.
	const shelf = bottles.filter(({ profile }) => compositionOf(profile).ok);
	const request = await requestFor(asker, systemId, wish, shelf);
	const names = Object.fromEntries(shelf.map((s) => [s.id, s.profile.name]));
	if (!request.parameters.length) return { request, result: NO_PLAN, wish, names, kept: null, nothing: true };
	// Counted only once there is something to work out: who was told that the levels are not known just now did not get a plan.
	await mayAskForPlan(asker.userId);
	const result = await solved(request);
	return {
		request,
		result,
		wish,
		names,
		kept: held && {
			...held.body,
			id: held.id,
			madeAt: held.madeAt.toISOString(),
			changes: changesOf(
				{ ...held.body, madeAt: held.madeAt.toISOString() },
				request,
				result,
				await testedSince(asker, systemId, held.madeAt)
			)
		},
		nothing: false
	};
}

/** The programme runs in a thread, as every long calculation. What it refuses is a fault of ours: the request is made here. */
async function solved(request: CorrectRequest): Promise<CorrectResult> {
	const { ok, json } = await inThread('plans', 'calculate', {
		name: 'correct',
		text: JSON.stringify(request)
	});
	if (!ok) throw new Error(`a plan was refused: ${json}`);
	return JSON.parse(json) as CorrectResult;
}

/** What the planner is asked: levels and uses as the trends have them, what stands on the shelf, how water is changed. */
async function requestFor(
	asker: Asker,
	systemId: string,
	wish: PlanWish,
	shelf: ShelfSupplement[]
): Promise<CorrectRequest> {
	const [outlook, bands, system, tank, events] = await Promise.all([
		outlookOf(asker, systemId),
		bandsOf(asker, systemId),
		systemFor(asker, systemId),
		mine(asker).then((m) => m.get(systemId)!),
		eventsOfTank(asker, systemId)
	]);
	const chosen = targets({
		school: system.school === OWN_BANDS ? 'natural levels' : system.school,
		phase: system.phase,
		own: bands
	});
	return requestOf(
		{
			now: now().toISOString(),
			tank,
			trends: outlook.trends,
			judgements: outlook.judgements,
			bands,
			targets: chosen.ok ? chosen.value.targets : {},
			events: events.map((e) => ({ ...e.event, at: e.at }) as DatedEvent),
			shelf
		},
		{ days: PLAN_DAYS, ...wish }
	);
}

/** What was measured in the tank since a moment. */
async function testedSince(asker: Asker, systemId: string, since: Date): Promise<string[]> {
	const newest = await latestReadings(asker, systemId, await measuredIn(asker, systemId), 1);
	return Object.entries(newest).flatMap(([parameter, [last]]) =>
		last && Date.parse(last.takenAt) >= since.getTime() ? [parameter] : []
	);
}

/**
 * Makes a plan by a wish and follows it from now on, in place of the one before; sent again under the same id it stays as it is.
 * Problems: nothing measured; a plan that would leave an alarm is no plan to follow.
 */
export async function followPlan(
	asker: Asker,
	id: string,
	systemId: string,
	wish: PlanWish
): Promise<Outcome<{ id: string; madeAt: string }>> {
	await mayUse(asker, systemId, 'write');
	const held = await heldPlan(systemId);
	if (held?.id === id) return good({ id, madeAt: held.madeAt.toISOString() });
	const { request, result, nothing } = await planFor(asker, systemId, wish);
	if (nothing) return bad('', 'has nothing to go by: measure something by a kit of your own first');
	if (!result.safe) {
		const at = result.risks.find((r) => r.kind === 'alarm');
		return bad(
			'',
			`would leave ${at?.parameter ?? 'a level'} beyond its alarm on day ${at?.day ?? 0}; it is not followed`
		);
	}
	return keepPlan(asker, id, systemId, { wish, request, result });
}
