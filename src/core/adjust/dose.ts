import Type from 'typebox';
import { bad, good, type Outcome } from '../problems';
import { isQuantity, parameterOf, unitOf } from '../quantities';
import { SCHOOLS } from '../targets';
import { compositionOf, type Brings } from './composition';
import { MOST_PORTIONS, afterPour, portionsOf } from './pour';
import { CAUTIONS, type Caution } from './salts';
import { Supplement } from './supplement';

const exact = { additionalProperties: false } as const;
const above0 = Type.Number({ exclusiveMinimum: 0, maximum: 1e7 });
const error = Type.Number({ minimum: 0, maximum: 1e7 });
const word = Type.String({ minLength: 1, maxLength: 40 });

export const Volume = Type.Object({ value: above0, standardUncertainty: error }, exact);

export const DoseRequest = Type.Object(
	{
		supplement: Supplement,
		/** Net, L. */
		volume: Volume,
		/** What the level should change by; or `amount`. */
		change: Type.Optional(Type.Object({ parameter: word, value: above0, unit: word }, exact)),
		/** mL of a solution, g of a powder. */
		amount: Type.Optional(above0),
		/** The most a day animals take, in the parameter's own unit; what schools share where left out. */
		healthyPerDay: Type.Optional(above0),
		/** mL or g left, and what goes a day, for how long it lasts. */
		stock: Type.Optional(error),
		usedPerDay: Type.Optional(error),
		/** For what becomes of pH and saturation. */
		water: Type.Optional(
			Type.Object(
				{
					salinity: Type.Number({ minimum: 19, maximum: 43 }),
					temperatureC: Type.Number({ minimum: 0, maximum: 40 }),
					ph: Type.Number({ minimum: 7, maximum: 9 }),
					alkalinity: Type.Number({ minimum: 1, maximum: 20 }),
					calcium: Type.Number({ minimum: 100, maximum: 900 })
				},
				exact
			)
		)
	},
	exact
);
export type DoseRequest = Type.Static<typeof DoseRequest>;

const Measured = { value: Type.Number(), standardUncertainty: Type.Number(), unit: Type.String() };
export const DoseResult = Type.Object(
	{
		amount: Type.Object(Measured, exact),
		change: Type.Object({ parameter: Type.String(), ...Measured }, exact),
		/** What else it does: parameters in their own units; sodium, chloride and sulphate in mg/L. */
		sideEffects: Type.Array(
			Type.Object({ parameter: Type.String(), value: Type.Number(), unit: Type.String() }, exact)
		),
		/** Days it has to be spread over, and how much on each. */
		days: Type.Integer(),
		perDay: Type.Number(),
		/** Portions a day, hours apart; null: more than can be poured by hand, let a doser or a drip do it. */
		portions: Type.Union([Type.Integer(), Type.Null()]),
		/** Right after one portion has mixed, before the water breathes. */
		afterPortion: Type.Optional(Type.Object({ ph: Type.Number(), omegaAragonite: Type.Number() }, exact)),
		/** Days the bottle lasts; null where stock or use are not known, or nothing is used. */
		lastsDays: Type.Union([Type.Number(), Type.Null()]),
		cost: Type.Union([Type.Number(), Type.Null()]),
		cautions: Type.Array(Type.Unsafe<Caution>({ type: 'string', enum: [...CAUTIONS] }))
	},
	exact
);
export type DoseResult = Type.Static<typeof DoseResult>;

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
