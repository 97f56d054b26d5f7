import { SEA_PSU, seaAt } from '../seawater';
import type { WaterEvent } from '../trend';
import { compositionOf, DRY_MIX, SALT_PER_PSU } from './composition';
import { healthyOf } from './dose';
import type { Supplement } from './supplement';

/** What a pour moves beside its own level is an event where it is more than this share of a healthy day. */
const NOTEWORTHY = 0.02;
/** What a dosing pump moves beside, where it is more than this share of a healthy day while its own level moves a whole one: whatever its rate, so that a
 * lower rate, or none, ends what a higher one began. */
const NOTEWORTHY_BESIDE = 0.1;

/**
 * A pour (mL of what is liquid, g of what is not) into so many litres as what was done to the water: its own parameter first, with the
 * amount, then whatever else it moves. Nothing where the bottle cannot be read.
 *
 * @example pourEvents({ format: 'tevrik.supplement/1', id: 'soda', name: 'Soda', kind: 'solution', composition: { label: { amount: 1, unit: 'mL', waterL: 100, raises: { parameter: 'alkalinity', value: 0.25, unit: 'dKH' } } } }, 8, 200)[0].change // → 1
 */
export function pourEvents(bottle: Supplement, amount: number, litres: number): WaterEvent[] {
	return movesOf(bottle, litres)
		.filter(({ parameter, by, isMain }) => isMain || amount * by > NOTEWORTHY * healthyDay(parameter))
		.map(({ parameter, by, isMain, per }) => ({
			kind: 'dose',
			parameter,
			change: amount * by,
			supplement: bottle.name,
			supplementId: bottle.id,
			...(isMain ? (per === 'g' ? { amountG: amount } : { amountMl: amount }) : {})
		}));
}

/** What the dry mix for sea water is called where it was poured. */
const SALT = 'salt';
/**
 * So many grams of dry mix, dissolved, into so many litres: salinity first, then the ions that it is made to bring with it, as in the sea.
 *
 * @example saltEvents(100, 100)[0].parameter // → 'salinity'
 */
export function saltEvents(grams: number, litres: number): WaterEvent[] {
	const psu = (grams * DRY_MIX) / (SALT_PER_PSU * litres);
	const ions = Object.entries(seaAt(SEA_PSU)).map(([parameter, there]): [string, number] => [
		parameter,
		there * (psu / SEA_PSU)
	]);
	return [
		{ kind: 'dose', parameter: 'salinity', change: psu, supplement: SALT, amountG: grams },
		...ions
			.filter(([parameter, change]) => change > NOTEWORTHY * healthyDay(parameter))
			.map(([parameter, change]): WaterEvent => ({ kind: 'dose', parameter, change, supplement: SALT }))
	];
}

/** A dosing pump's rate (mL a day) in the same way. */
export function dosingEvents(bottle: Supplement, mlPerDay: number, litres: number): WaterEvent[] {
	const moves = movesOf(bottle, litres);
	const days = (move: Move) => move.by / healthyDay(move.parameter);
	const own = moves.find((m) => m.isMain);
	return moves
		.filter((m) => m.isMain || (own && days(m) > NOTEWORTHY_BESIDE * days(own)))
		.map(({ parameter, by, isMain }) => ({
			kind: 'dosing',
			parameter,
			perDay: mlPerDay * by,
			supplement: bottle.name,
			supplementId: bottle.id,
			...(isMain ? { mlPerDay } : {})
		}));
}

const healthyDay = (parameter: string): number => healthyOf(parameter) ?? Infinity;

interface Move {
	parameter: string;
	/** In its own unit, by one mL or g. */
	by: number;
	isMain: boolean;
	per: 'mL' | 'g';
}
function movesOf(bottle: Supplement, litres: number): Move[] {
	const brings = compositionOf(bottle);
	if (!brings.ok) return [];
	const { main, raises, per } = brings.value;
	return Object.entries(raises)
		.map(([parameter, perL]) => ({ parameter, by: perL / litres, isMain: parameter === main, per }))
		.sort((a, b) => Number(b.isMain) - Number(a.isMain));
}
