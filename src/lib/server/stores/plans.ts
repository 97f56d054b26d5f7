import { error } from '@sveltejs/kit';
import { eq } from 'drizzle-orm';
import { DateTime } from 'luxon';
import { v5 as uuidV5 } from 'uuid';
import {
	compositionOf,
	type CorrectRequest,
	type CorrectResult,
	type PlanStep,
	type PlannedParameter
} from '../../../core/adjust';
import { bad, good, type Outcome } from '../../../core/problems';
import { parameterOf } from '../../../core/quantities';
import { netVolume } from '../../../core/tank';
import { targets } from '../../../core/targets';
import type { DatedEvent, WaterEvent } from '../../../core/trend';
import type { DoneStep, KeptPlan, PlanChange, PlanWish, Planned } from '../../api/plans';
import { PLAN_DAYS } from '../../api/plan-query';
import type { ShelfSupplement } from '../../api/supplements';
import { SHORTLY, mayUse, mine, ofPerson, ofTank, writing, type Asker } from '../identity/asker';
import { CLOCK_SLACK, now } from '../clock';
import { database, type Connection } from '../db/connection';
import { event, plan } from '../db/schema';
import { inThread } from '../work/pool';
import { eventsOfTank } from './events';
import { supplementsOf } from './supplements';
import { OWN_BANDS, bandsOf, systemFor } from './systems';
import { outlookOf } from './trends';

/** A net volume nobody measured is guessed within 15 %, all as likely: rock and sand take a tenth to a third. */
const GUESSED_VOLUME = 0.15 / Math.sqrt(3);
/** What is planned for, in the order keepers go by. */
const PLANNED = [
	'salinity',
	'alkalinity',
	'calcium',
	'magnesium',
	'potassium',
	'nitrate',
	'phosphate',
	'strontium'
];
/** Of nitrate a quarter a day may go, and of phosphate. */
const FOOD_DOWN = 0.25;
/** What tells a level from what a plan expected, in standard deviations of both. */
const BEYOND = 1.96;
const USUAL_TEMPERATURE = 25;
const SALINITIES = { least: 19, most: 43 };

/** The plan for a tank as its water is known now, and the one that is followed. */
export async function planFor(asker: Asker, systemId: string, wish: PlanWish): Promise<Planned> {
	await mayUse(asker, systemId, 'read');
	return ofPerson(asker, ['plan', systemId, wish], () => makePlan(asker, systemId, wish), SHORTLY);
}

async function makePlan(asker: Asker, systemId: string, wish: PlanWish): Promise<Planned> {
	const [shelf, held] = await Promise.all([supplementsOf(asker), heldPlan(systemId)]);
	const request = await requestFor(asker, systemId, wish, shelf);
	const names = Object.fromEntries(shelf.map((s) => [s.id, s.profile.name]));
	if (!request.parameters.length) return { request, result: NOTHING, wish, names, kept: null, nothing: true };
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
			changes: changesOf(held.body, held.madeAt, request, result)
		},
		nothing: false
	};
}

const NOTHING: CorrectResult = {
	steps: [],
	path: {},
	home: {},
	refused: [],
	risks: [],
	safe: true,
	cost: { money: 0, pours: 0, amounts: {}, waterL: 0, daysOut: 0 },
	proved: true
};

/** The programme runs in a thread, as every long calculation. What it refuses is a fault of ours: the request is made here. */
async function solved(request: CorrectRequest): Promise<CorrectResult> {
	const { ok, json } = await inThread('models', 'calculate', {
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
	const wanted = chosen.ok ? chosen.value.targets : {};
	const done = events.map((e) => ({ ...e.event, at: e.at }) as DatedEvent);
	const dosing = dosersOf(done, shelf);
	const parameters = PLANNED.flatMap((parameter): PlannedParameter[] => {
		const trend = outlook.trends[parameter];
		const target = wanted[parameter];
		const band = bands[parameter];
		if (!trend || !target || !band) return [];
		const known = dosing.reduce((sum, d) => sum + (d.perDay[parameter] ?? 0), 0);
		const judged = outlook.judgements.filter((j) => j.parameter === parameter).map((j) => j.kind);
		const food = parameter === 'nitrate' || parameter === 'phosphate';
		return [
			{
				parameter,
				unit: parameterOf(parameter)?.unit ?? trend.unit,
				now: { mean: trend.now.value, standardDeviation: trend.now.standardDeviation },
				// What dosers of the shelf give is counted with them: use is what is left to explain.
				usePerDay: {
					mean: known - trend.netPerDay.value,
					standardDeviation: trend.netPerDay.standardDeviation
				},
				band,
				ideal: Math.min(band.upper, Math.max(band.lower, target.ideal)),
				alarm: target.alarm,
				healthyPerDay: {
					up: target.healthyPerDay,
					down: food ? Math.max(target.healthyPerDay, FOOD_DOWN * trend.now.value) : target.healthyPerDay
				},
				odd: judged.includes('odd'),
				unproved: judged.includes('unknown')
			}
		];
	});
	const temperature = outlook.trends['temperature']?.now.value ?? USUAL_TEMPERATURE;
	const salinity = outlook.trends['salinity']?.now.value ?? tank.salinityPsu;
	const { waterChange } = tank;
	const change = wish.noChangeBefore === 'never' ? null : waterChange;
	return {
		now: now().toISOString(),
		days: wish.days ?? PLAN_DAYS,
		water: {
			volumeL: { value: tank.netVolumeL, standardUncertainty: volumeErrorOf(tank) },
			salinity: Math.min(SALINITIES.most, Math.max(SALINITIES.least, salinity)),
			temperatureC: Math.min(40, Math.max(0, temperature))
		},
		parameters,
		dosing: dosing.map(({ supplement, mlPerDay }) => ({ supplement, mlPerDay })),
		supplements: shelf
			.filter((s) => !wish.without?.includes(s.id) || dosing.some((d) => d.supplement === s.id))
			.slice(0, 16)
			.map(({ id, profile, left }) => ({ ...profile, id, ...(left === null ? {} : { stock: left }) })),
		...(change
			? {
					change: {
						...change,
						...(wish.noChangeBefore === undefined ? {} : { notBefore: wish.noChangeBefore as number })
					}
				}
			: {}),
		prefer: wish.prefer ?? 'soonest'
	};
}

const volumeErrorOf = ({
	netVolumeL,
	netVolumeError,
	sizes
}: {
	netVolumeL: number;
	netVolumeError: number | null;
	sizes: Parameters<typeof netVolume>[0] | null;
}): number => {
	if (netVolumeError !== null) return netVolumeError;
	const fromSizes = sizes && netVolume(sizes);
	return fromSizes?.ok ? fromSizes.value.standardUncertainty : GUESSED_VOLUME * netVolumeL;
};

/** What dosers give now of what stands on the shelf, mL a day, and what that was written to change. */
function dosersOf(
	events: DatedEvent[],
	shelf: ShelfSupplement[]
): { supplement: string; mlPerDay: number; perDay: Record<string, number> }[] {
	const last = new Map<string, Extract<DatedEvent, { kind: 'dosing' }>>();
	for (const e of events) if (e.kind === 'dosing') last.set(e.parameter, e);
	const found = new Map<string, { supplement: string; mlPerDay: number; perDay: Record<string, number> }>();
	for (const e of last.values()) {
		if (!e.supplementId || !e.mlPerDay || !shelf.some((s) => s.id === e.supplementId)) continue;
		const its = found.get(e.supplementId) ?? {
			supplement: e.supplementId,
			mlPerDay: e.mlPerDay,
			perDay: {}
		};
		its.perDay[e.parameter] = e.perDay;
		found.set(e.supplementId, its);
	}
	return [...found.values()];
}

/** What is known now that the plan which is followed did not know, and what that makes of what is left to pour. */
function changesOf(
	held: KeptPlan,
	madeAt: Date,
	request: CorrectRequest,
	result: CorrectResult
): PlanChange[] {
	const day = Math.floor((Date.parse(request.now) - madeAt.getTime()) / 86_400_000);
	const left = (steps: PlanStep[], parameter: string, open: (place: number, step: PlanStep) => boolean) =>
		steps.reduce(
			(sum, s, place) =>
				s.kind === 'dose' && s.parameter === parameter && open(place, s) ? sum + (s.amount ?? 0) : sum,
			0
		);
	return request.parameters.flatMap(({ parameter, now: level }): PlanChange[] => {
		const path = held.result.path[parameter];
		const expected = path?.[Math.min(Math.max(day, 0), path.length - 1)];
		const before = left(held.result.steps, parameter, (place) => !held.done[place]);
		const horizon = held.request.days - day;
		const after = left(result.steps, parameter, (_, s) => s.day < horizon);
		const refusal = (of: CorrectResult) => of.refused.find((r) => r.parameter === parameter)?.why ?? null;
		const [refusedBefore, refusedNow] = [refusal(held.result), refusal(result)];
		if (!expected) return [];
		const spread = Math.hypot(expected.sd, level.standardDeviation);
		const change: PlanChange = {
			parameter,
			expected: expected.mean,
			now: level.mean,
			standardDeviation: spread,
			beyondNoise: Math.abs(level.mean - expected.mean) > BEYOND * spread,
			before,
			after,
			refusedBefore,
			refusedNow
		};
		const tells =
			change.beyondNoise ||
			refusedBefore !== refusedNow ||
			Math.abs(after - before) > 0.1 * Math.max(after, before, 1e-9);
		return tells ? [change] : [];
	});
}

async function heldPlan(systemId: string, db: Connection = database()) {
	const [held] = await db.select().from(plan).where(eq(plan.systemId, systemId));
	return held ?? null;
}

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
			`would leave ${at?.parameter ?? 'a level'} outside what animals bear on day ${at?.day ?? 0}; it is not followed`
		);
	}
	const madeAt = now();
	const body: KeptPlan = { wish, request, result, done: {} };
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
	if (!held) error(404, 'There is no such plan; it was made again meanwhile.');
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
		for (const eventId of done.events)
			await tx
				.update(event)
				.set({ voided: true, reason: 'the tick in the plan was taken back' })
				.where(eq(event.id, eventId));
		const { [place]: _gone, ...others } = held.body.done;
		await tx
			.update(plan)
			.set({ body: { ...held.body, done: others } })
			.where(eq(plan.id, id));
	});
}

/** Changes smaller than this share of a healthy day are no event of their own. */
const NOTEWORTHY = 0.02;

/** What a step does to the water, as events; of another amount than planned in proportion. */
export function eventsOf(step: PlanStep, request: CorrectRequest, amount = step.amount ?? 0): WaterEvent[] {
	const share = step.amount ? amount / step.amount : 1;
	const bottle = request.supplements.find((s) => s.id === step.supplement);
	const named = bottle ? { supplement: bottle.name, supplementId: bottle.id } : {};
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
	if (step.kind === 'salt')
		return [
			{
				kind: 'dose',
				parameter: 'salinity',
				change: (step.changes?.['salinity'] ?? 0) * share,
				amountG: amount
			}
		];
	if (step.kind === 'dose')
		return Object.entries(step.changes ?? {}).flatMap(([parameter, change]): WaterEvent[] => {
			const healthy = request.parameters.find((p) => p.parameter === parameter)?.healthyPerDay.up;
			if (parameter !== step.parameter && !(healthy && change > NOTEWORTHY * healthy)) return [];
			const poured = parameter === step.parameter;
			return [
				{
					kind: 'dose',
					parameter,
					change: change * share,
					...named,
					...(poured ? (step.unit === 'g' ? { amountG: amount } : { amountMl: amount }) : {})
				}
			];
		});
	if (step.kind === 'dosing-rate' && bottle) {
		const brings = compositionOf(bottle);
		const raises = brings.ok ? Object.entries(brings.value.raises) : [];
		return raises.flatMap(([parameter, perL]): WaterEvent[] => {
			const its = request.parameters.find((p) => p.parameter === parameter);
			const perDay = (amount * perL) / request.water.volumeL.value;
			const worthIt = its && perDay > NOTEWORTHY * its.healthyPerDay.up;
			if (parameter !== step.parameter && !worthIt) return [];
			const rate = parameter === step.parameter ? { mlPerDay: amount } : {};
			return [{ kind: 'dosing', parameter, perDay, ...named, ...rate }];
		});
	}
	return [];
}

/** Steps of a plan with their day in the tank's zone. */
export function datedSteps(
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
