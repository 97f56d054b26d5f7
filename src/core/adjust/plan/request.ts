import { hasTrait, parameterOf, PLANNED, type Target } from '../../catalogue';
import { CONSTANTS_HOLD } from '../../seawater';
import { netVolume, type TankSizes, type WaterChange } from '../../tank';
import type { Judgement } from '../../targets';
import type { DatedEvent } from '../../trend';
import { compositionOf } from '../composition';
import type { Supplement } from '../supplement';
import {
	MOST_BOTTLES,
	MOST_DOSING_PUMPS,
	type CorrectRequest,
	type PlanWish,
	type PlannedParameter
} from './schema';

/** A net volume nobody measured is guessed within 15 %, all as likely: rock and sand take a tenth to a third. */
const GUESSED_VOLUME = 0.15 / Math.sqrt(3);
/** Of nitrate a quarter a day may go, and of phosphate. */
const FOOD_DOWN = 0.25;
/** °C, where none is measured. */
const USUAL_TEMPERATURE = 25;
/** A level and where it goes, in the parameter's own unit. */
interface KnownTrend {
	unit: string;
	now: { value: number; standardDeviation: number };
	/** A day, with all that is known to be added. */
	netPerDay: { value: number; standardDeviation: number };
	/** What was added regularly and goes on, a day. */
	assumes: { perDay: number }[];
}

/** A supplement that can be poured; `left` of it, mL or g, where somebody counts. */
interface Bottle {
	id: string;
	profile: Supplement;
	left: number | null;
}

/** What is known of a tank when a plan is asked for. */
export interface KnownTank {
	/** ISO 8601. */
	now: string;
	tank: {
		netVolumeL: number;
		/** Standard uncertainty, L; nothing where nobody measured it. */
		netVolumeError: number | null;
		sizes: TankSizes | null;
		salinityPsu: number;
		waterChange: WaterChange | null;
	};
	trends: Record<string, KnownTrend>;
	judgements: Pick<Judgement, 'kind' | 'parameter'>[];
	bands: Record<string, { lower: number; upper: number }>;
	targets: Record<string, Target>;
	/** Oldest first. */
	events: DatedEvent[];
	shelf: Bottle[];
}

/**
 * What the planner is asked of a tank: levels and uses as its trends have them, what stands on the shelf, how water is changed. Without
 * parameters nothing is known that a plan could rest on.
 * @example requestOf({ now: '2026-05-06T20:00:00Z', tank: { netVolumeL: 200, netVolumeError: 4, sizes: null, salinityPsu: 35, waterChange: null }, trends: {}, judgements: [], bands: {}, targets: {}, events: [], shelf: [] }, { days: 14 }).water.volumeL // → { value: 200, standardUncertainty: 4 }
 */
export function requestOf(known: KnownTank, wish: PlanWish & { days: number }): CorrectRequest {
	const { tank, trends, shelf } = known;
	const dosing = dosingPumpsOf(known.events, shelf);
	const parameters = PLANNED.flatMap((parameter) => plannedOf(parameter, known, dosing));
	const supplements = bottlesFor(shelf, dosing, wish.without ?? []);
	const change = wish.noChangeBefore === 'never' ? null : tank.waterChange;
	const moves = (wish.moves ?? []).filter(
		({ supplement, from, to }) =>
			from < wish.days &&
			to < wish.days &&
			(supplement === undefined ? change : poursInto(supplements, supplement, parameters))
	);
	return {
		now: known.now,
		days: wish.days,
		water: {
			volumeL: { value: tank.netVolumeL, standardUncertainty: volumeErrorOf(tank) },
			salinity: Math.min(
				CONSTANTS_HOLD.to,
				Math.max(CONSTANTS_HOLD.from, trends['salinity']?.now.value ?? tank.salinityPsu)
			),
			temperatureC: Math.min(40, Math.max(0, trends['temperature']?.now.value ?? USUAL_TEMPERATURE))
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
		...(moves.length ? { moves } : {}),
		prefer: wish.prefer ?? 'soonest'
	};
}

/** One parameter as the planner counts it; none where no level, target or band is known. */
function plannedOf(
	parameter: string,
	{ tank, trends, targets, bands, judgements, shelf }: KnownTank,
	dosing: CorrectRequest['dosing']
): PlannedParameter[] {
	const trend = trends[parameter];
	const target = targets[parameter];
	const band = bands[parameter];
	if (!trend || !target || !band) return [];
	const judged = judgements.filter((j) => j.parameter === parameter).map((j) => j.kind);
	const food = hasTrait(parameter, 'nutrient');
	return [
		{
			parameter,
			unit: parameterOf(parameter)?.unit ?? trend.unit,
			now: { mean: trend.now.value, standardDeviation: trend.now.standardDeviation },
			usePerDay: leftToExplain(trend, addedBy(dosing, shelf, parameter, tank.netVolumeL)),
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
}

/**
 * Use as a plan counts it: what dosing pumps of the shelf give (`known`, a day) is counted with them, so use is what is left to explain. What was
 * poured and changed regularly goes on in the trend, and is not counted: this plan decides it anew.
 * @example leftToExplain({ netPerDay: { value: -0.2, standardDeviation: 0.1 }, assumes: [] }, 0.5) // → { mean: 0.7, standardDeviation: 0.1 }
 */
export const leftToExplain = (
	{ netPerDay, assumes }: Pick<KnownTrend, 'netPerDay' | 'assumes'>,
	known: number
): PlannedParameter['usePerDay'] => ({
	mean: known + assumes.reduce((sum, a) => sum + a.perDay, 0) - netPerDay.value,
	standardDeviation: netPerDay.standardDeviation
});

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

/** Bottles a plan may use, those of dosing pumps first. A dosing pump's that is to be left alone goes on as it is, and nothing is poured of it. */
function bottlesFor(
	shelf: Bottle[],
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

/** Standard uncertainty of the net volume, L: measured, from the sizes, or a guess. */
const volumeErrorOf = ({ netVolumeL, netVolumeError, sizes }: KnownTank['tank']): number => {
	if (netVolumeError !== null) return netVolumeError;
	const fromSizes = sizes && netVolume(sizes);
	return fromSizes?.ok ? fromSizes.value.standardUncertainty : GUESSED_VOLUME * netVolumeL;
};

/** What dosing pumps give now of what stands on the shelf, mL a day: by the last that was written of each parameter. */
function dosingPumpsOf(events: DatedEvent[], shelf: Bottle[]): CorrectRequest['dosing'] {
	const last = new Map<string, Extract<DatedEvent, { kind: 'dosing' }>>();
	for (const e of events) if (e.kind === 'dosing') last.set(e.parameter, e);
	const found = new Map<string, number>();
	for (const { supplementId, mlPerDay } of last.values())
		if (supplementId && mlPerDay && shelf.some((s) => s.id === supplementId))
			found.set(supplementId, mlPerDay);
	return [...found].slice(0, MOST_DOSING_PUMPS).map(([supplement, mlPerDay]) => ({ supplement, mlPerDay }));
}

/** What dosing pumps add to a level a day, as the planner will count it: by their bottles and the net volume as it is known now. */
const addedBy = (
	dosing: CorrectRequest['dosing'],
	shelf: Bottle[],
	parameter: string,
	litres: number
): number =>
	dosing.reduce((sum, { supplement, mlPerDay }) => {
		const bottle = shelf.find((s) => s.id === supplement);
		const brings = bottle && compositionOf(bottle.profile);
		return sum + (brings?.ok ? (mlPerDay * (brings.value.raises[parameter] ?? 0)) / litres : 0);
	}, 0);
