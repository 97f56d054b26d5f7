import { COVERAGE_95 } from '../../../core/statistics';
import { DAY, bad, good, type Outcome } from '../../../core/base';
import {
	compositionOf,
	type CorrectRequest,
	type CorrectResult,
	type PlanStep,
	type PlannedParameter
} from '../../../core/adjust';
import { parameterOf, PLANNED, hasTrait } from '../../../core/catalogue';
import { netVolume } from '../../../core/tank';
import { targets } from '../../../core/targets';
import type { DatedEvent } from '../../../core/trend';
import type { KeptPlan, PlanChange, PlanWish, Planned } from '../../api/plans';
import { PLAN_DAYS, withMoves } from '../../api/plan-query';
import type { ShelfSupplement } from '../../api/supplements';
import type { TrendInShort } from '../../api/trends';
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

/** A net volume nobody measured is guessed within 15 %, all as likely: rock and sand take a tenth to a third. */
const GUESSED_VOLUME = 0.15 / Math.sqrt(3);
/** Of nitrate a quarter a day may go, and of phosphate. */
const FOOD_DOWN = 0.25;
/** °C, where none is measured. */
const USUAL_TEMPERATURE = 25;
/** As many as one plan takes: see `CorrectRequest`. */
const MOST_DOSERS = 12;
const MOST_BOTTLES = 16;
/** Where the carbonate system's constants hold, PSU. */
const SALINITIES = { least: 19, most: 43 };

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
	if (!request.parameters.length) return { request, result: NOTHING, wish, names, kept: null, nothing: true };
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
				held.body,
				held.madeAt,
				request,
				result,
				await testedSince(asker, systemId, held.madeAt)
			)
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
	const { ok, json } = await inThread('plans', 'calculate', {
		name: 'correct',
		text: JSON.stringify(request)
	});
	if (!ok) throw new Error(`a plan was refused: ${json}`);
	return JSON.parse(json) as CorrectResult;
}

/**
 * Use as a plan counts it: what dosers of the shelf give (`known`, a day) is counted with them, so use is what is left to explain. What was
 * poured and changed regularly goes on in the trend, and is not counted: this plan decides it anew.
 */
export const leftToExplain = (
	{ netPerDay, assumes }: Pick<TrendInShort, 'netPerDay' | 'assumes'>,
	known: number
): PlannedParameter['usePerDay'] => ({
	mean: known + assumes.reduce((sum, a) => sum + a.perDay, 0) - netPerDay.value,
	standardDeviation: netPerDay.standardDeviation
});

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
		const known = addedBy(dosing, shelf, parameter, tank.netVolumeL);
		const judged = outlook.judgements.filter((j) => j.parameter === parameter).map((j) => j.kind);
		const food = hasTrait(parameter, 'nutrient');
		return [
			{
				parameter,
				unit: parameterOf(parameter)?.unit ?? trend.unit,
				now: { mean: trend.now.value, standardDeviation: trend.now.standardDeviation },
				usePerDay: leftToExplain(trend, known),
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
	const days = wish.days ?? PLAN_DAYS;
	const supplements = bottlesFor(shelf, dosing, wish.without ?? []);
	return {
		now: now().toISOString(),
		days,
		water: {
			volumeL: { value: tank.netVolumeL, standardUncertainty: volumeErrorOf(tank) },
			salinity: Math.min(SALINITIES.most, Math.max(SALINITIES.least, salinity)),
			temperatureC: Math.min(40, Math.max(0, temperature))
		},
		parameters,
		dosing,
		supplements,
		...(change
			? {
					change: {
						...change,
						...(wish.noChangeBefore === undefined ? {} : { notBefore: wish.noChangeBefore as number })
					}
				}
			: {}),
		...withMoves(
			(wish.moves ?? []).filter(
				({ supplement, from, to }) =>
					from < days &&
					to < days &&
					(supplement === undefined ? change : poursInto(supplements, supplement, parameters))
			)
		),
		prefer: wish.prefer ?? 'soonest'
	};
}

/** Whether a bottle is there and is poured for one of these levels: only then its glass can stand on another day. */
function poursInto(
	bottles: CorrectRequest['supplements'],
	id: string,
	parameters: PlannedParameter[]
): boolean {
	const bottle = bottles.find((s) => s.id === id);
	const brings = bottle && compositionOf(bottle);
	return !!brings?.ok && parameters.some((p) => p.parameter === brings.value.main);
}

/** Bottles a plan may use, those of dosers first. A doser's that is to be left alone goes on as it is, and nothing is poured of it. */
function bottlesFor(
	shelf: ShelfSupplement[],
	dosing: CorrectRequest['dosing'],
	without: string[]
): CorrectRequest['supplements'] {
	const doses = (id: string) => dosing.some((d) => d.supplement === id);
	return [...shelf]
		.sort((a, b) => Number(doses(b.id)) - Number(doses(a.id)))
		.filter(({ id }) => doses(id) || !without.includes(id))
		.slice(0, MOST_BOTTLES)
		.map(({ id, profile, left }) => {
			const stock = without.includes(id) ? 0 : left;
			return { ...profile, id, ...(stock === null ? {} : { stock }) };
		});
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

/** What dosers give now of what stands on the shelf, mL a day: by the last that was written of each parameter. */
function dosersOf(events: DatedEvent[], shelf: ShelfSupplement[]): CorrectRequest['dosing'] {
	const last = new Map<string, Extract<DatedEvent, { kind: 'dosing' }>>();
	for (const e of events) if (e.kind === 'dosing') last.set(e.parameter, e);
	const found = new Map<string, number>();
	for (const { supplementId, mlPerDay } of last.values())
		if (supplementId && mlPerDay && shelf.some((s) => s.id === supplementId))
			found.set(supplementId, mlPerDay);
	return [...found].slice(0, MOST_DOSERS).map(([supplement, mlPerDay]) => ({ supplement, mlPerDay }));
}

/** What dosers add to a level a day, as the planner will count it: by their bottles and the net volume as it is known now. */
const addedBy = (
	dosing: CorrectRequest['dosing'],
	shelf: ShelfSupplement[],
	parameter: string,
	litres: number
): number =>
	dosing.reduce((sum, { supplement, mlPerDay }) => {
		const bottle = shelf.find((s) => s.id === supplement);
		const brings = bottle && compositionOf(bottle.profile);
		return sum + (brings?.ok ? (mlPerDay * (brings.value.raises[parameter] ?? 0)) / litres : 0);
	}, 0);

/** What was measured in the tank since a moment. */
async function testedSince(asker: Asker, systemId: string, since: Date): Promise<string[]> {
	const newest = await latestReadings(asker, systemId, await measuredIn(asker, systemId), 1);
	return Object.entries(newest).flatMap(([parameter, [last]]) =>
		last && Date.parse(last.takenAt) >= since.getTime() ? [parameter] : []
	);
}

/** What is known now that the plan which is followed did not know, and what that makes of what is left to pour. */
function changesOf(
	held: KeptPlan,
	madeAt: Date,
	request: CorrectRequest,
	result: CorrectResult,
	tested: string[]
): PlanChange[] {
	const day = Math.floor((Date.parse(request.now) - madeAt.getTime()) / DAY);
	const left = (steps: PlanStep[], parameter: string, open: (place: number, step: PlanStep) => boolean) =>
		steps.reduce(
			(sum, s, place) =>
				s.kind === 'dose' && s.parameter === parameter && open(place, s) ? sum + (s.amount ?? 0) : sum,
			0
		);
	// Where nothing was measured since, nothing is known that was not.
	const known = request.parameters.filter((p) => tested.includes(p.parameter));
	return known.flatMap(({ parameter, now: level }): PlanChange[] => {
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
			beyondNoise: Math.abs(level.mean - expected.mean) > COVERAGE_95 * spread,
			before,
			after,
			unit:
				[...result.steps, ...held.result.steps].find((s) => s.kind === 'dose' && s.parameter === parameter)
					?.unit ?? 'mL',
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
