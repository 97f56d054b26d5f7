import { bad, good, type Outcome } from '../base';
import { isQuantity, unitOf } from '../quantities';
import { parameterOf } from '../catalogue';
import { SCHOOLS } from '../targets';
import { compositionOf, type Brings } from './composition';
import { MOST_PORTIONS, afterPour, portionsOf } from './pour';
import type { DoseRequest, DoseResult } from './dose-schema';
import type { Supplement } from './supplement';

/** Where a keeper has not measured: sea water as most keep it. PSU, °C, total scale, dKH, mg/L. */
export const USUAL_WATER = { salinity: 35, temperatureC: 25, ph: 8.1, alkalinity: 8, calcium: 425 };
/** Side effects smaller than this share of a healthy day (of salinity: of 1.3 PSU) are not worth a line. */
const NOTEWORTHY = 0.01;

/** The most a day that schools share for a parameter, in its own unit. */
export const healthyOf = (parameter: string): number | undefined =>
	SCHOOLS[0]?.targets[parameter]?.healthyPerDay;

/**
 * How much of a supplement for a change, or what an amount changes; with its error (strength and net volume, GUM 5.1.2), what it leaves
 * behind, over how many days, in how many portions, and how long the bottle lasts. Problems: none or both asked, a parameter it
 * does not bring, a unit unknown, and those of `compositionOf`.
 *
 * @example dose({ supplement: { format: 'tevrik.supplement/1', id: 'soda', name: 'Soda', kind: 'solution', composition: { label: { amount: 1, unit: 'mL', waterL: 100, raises: { parameter: 'alkalinity', value: 0.25, unit: 'dKH' } } } }, volume: { value: 200, standardUncertainty: 10 }, change: { parameter: 'alkalinity', value: 1, unit: 'dKH' } }).value.amount.value // → 8
 */
export function dose(request: DoseRequest): Outcome<DoseResult> {
	const { supplement, volume, change, amount } = request;
	if ((change === undefined) === (amount === undefined))
		return bad('', 'must ask either for a change or for an amount');
	const composition = compositionOf(supplement);
	if (!composition.ok)
		return { ok: false, problems: composition.problems.map((p) => ({ ...p, path: `/supplement${p.path}` })) };
	const brings = composition.value;
	const parameter = change?.parameter ?? brings.main;
	const perAmount = (brings.raises[parameter] ?? 0) / volume.value;
	if (!(perAmount > 0))
		return bad('/change/parameter', `is not what this brings; it brings ${listOf(brings)}`);
	const own = ownUnit(parameter, supplement);
	const unit = change?.unit ?? own;
	const factor = ratioOf(parameter, unit, own);
	if (factor === undefined) return bad('/change/unit', `is not a unit in which ${parameter} changes`);

	const wanted = change ? change.value * factor : (amount ?? 0) * perAmount;
	const needed = wanted / perAmount;
	const relative = Math.hypot(brings.relativeError, volume.standardUncertainty / volume.value);
	// As slow as the slowest of all that it moves.
	const days = Math.max(
		1,
		...Object.entries(brings.raises).map(([moved, perUnit]) => {
			const healthy = (moved === parameter ? request.healthyPerDay : undefined) ?? healthyOf(moved);
			return healthy === undefined ? 1 : Math.ceil((perUnit * needed) / volume.value / healthy - 1e-9);
		})
	);
	const perDay = needed / days;
	const water = request.water ?? USUAL_WATER;
	const portions = portionsOf(perDay, brings, volume.value, water);
	const byHand = portions <= MOST_PORTIONS;
	const portion = perDay / (byHand ? portions : MOST_PORTIONS);
	const after = afterPour(water, brings, portion / volume.value);
	const { stock, usedPerDay } = request;
	return good({
		amount: {
			value: needed,
			standardUncertainty: change ? needed * relative : 0,
			unit: brings.per
		},
		change: {
			parameter,
			value: wanted / factor,
			standardUncertainty: (wanted * relative) / factor,
			unit
		},
		sideEffects: sideEffectsOf(brings, needed / volume.value, parameter),
		days,
		perDay,
		portions: byHand ? portions : null,
		...(after ? { afterPortion: { ph: after.ph, omegaAragonite: after.omega } } : {}),
		lastsDays: stock === undefined || !usedPerDay ? null : stock / usedPerDay,
		cost: supplement.pricePerUnit === undefined ? null : needed * supplement.pricePerUnit,
		cautions: brings.cautions
	});
}

const listOf = (brings: Brings): string =>
	Object.entries(brings.raises)
		.filter(([, value]) => value > 0)
		.map(([parameter]) => parameter)
		.join(', ');

/** The unit a parameter is kept in; one of the keeper's own in that of the label. */
const ownUnit = (parameter: string, { composition }: Supplement): string =>
	parameterOf(parameter)?.unit ?? ('label' in composition ? composition.label.raises.unit : '');

/** What one of a unit is in the own one; only where that is a ratio. */
function ratioOf(parameter: string, unit: string, own: string): number | undefined {
	if (unit === own) return 1;
	if (!isQuantity(parameter)) return undefined;
	const [from, to] = [unitOf(parameter, unit)?.factor, unitOf(parameter, own)?.factor];
	return from === undefined || to === undefined ? undefined : from / to;
}

/** What so much a litre does beside what it is poured for; what is too small to mind is left out. */
function sideEffectsOf(brings: Brings, perL: number, beside: string): DoseResult['sideEffects'] {
	const measured = Object.entries(brings.raises)
		.filter(([parameter]) => parameter !== beside)
		.map(([parameter, value]) => ({
			parameter,
			value: value * perL,
			unit: parameterOf(parameter)?.unit ?? '',
			least: NOTEWORTHY * (healthyOf(parameter) ?? 0)
		}));
	const left = Object.entries(brings.leaves).map(([parameter, value]) => ({
		parameter,
		value: value * perL,
		unit: 'mg/L',
		least: 0.1
	}));
	return [...measured, ...left]
		.filter((e) => e.value > e.least)
		.map(({ parameter, value, unit }) => ({ parameter, value, unit }));
}
