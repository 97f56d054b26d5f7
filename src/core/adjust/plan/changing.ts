import { nth } from '../../base';
import { follow } from './follow';
import { FOOD } from './limits';
import type { CorrectRequest, PlanStep } from './schema';
import { holdsSome } from './level';
import type { Situation } from './situation';
import { MOVED, WEIGHTS } from './weights';

/** How water is changed in a plan: what share the first time, and each time after it. */
export interface Changing {
	first: number;
	later: number;
}
export const NO_CHANGE: Changing = { first: 0, later: 0 };

/** Every way of changing water that is weighed, the likeliest to be good first. */
export function waysOfChanging(situation: Situation, change: CorrectRequest['change']): Changing[] {
	const { changeDays, fractions } = situation;
	const sizes = [0, ...[...fractions].reverse()];
	const firsts = changeDays.length ? sizes.filter((f) => f === 0 || isBorneNow(f, situation, change)) : [0];
	const laters = changeDays.length > 1 ? sizes : [0];
	return laters
		.flatMap((later) => firsts.map((first) => ({ first, later })))
		.filter((way) => isWorthIt(way, situation, change))
		.sort((a, b) => Number(a.first > 0 && a.first !== a.later) - Number(b.first > 0 && b.first !== b.later));
}

/**
 * Whether changing so leaves every level in its band that would stay there by itself, as far as new water carries it. A level beyond its alarm that new
 * water brings nearer is reason enough not to; whatever else it is good for is none.
 */
function isWorthIt(way: Changing, situation: Situation, change: CorrectRequest['change']): boolean {
	const helps = situation.levels.some(({ parameter, natural, alarm: [low, high] }) => {
		const fresh = freshOf(parameter, change);
		return (
			fresh !== undefined &&
			natural.some((level) => (level < low && fresh > level) || (level > high && fresh < level))
		);
	});
	return (
		helps ||
		situation.levels.every(({ parameter, natural, lower, upper }) => {
			const fresh = freshOf(parameter, change);
			const poured = situation.pourables.some((s) => s.main === parameter && holdsSome(s));
			// What it takes can be poured; what it brings stays.
			if (fresh === undefined || (fresh < nth(natural, 0) && poured)) return true;
			// How far it is from what it would be by itself.
			let off = 0;
			return natural.slice(0, -1).every((at, day) => {
				off += fractionOn(day, way, situation) * (fresh - at - off);
				const level = at + off;
				return off < 0 ? level >= lower || at < lower : level <= upper || at > upper;
			});
		})
	);
}

/** Whether animals bear a change of this size today; one on a later day is left to the programme. */
const isBorneNow = (
	f: number,
	{ changeDays, levels }: Situation,
	change: CorrectRequest['change']
): boolean =>
	changeDays[0] !== 0 ||
	levels.every((level) => {
		const fresh = freshOf(level.parameter, change);
		const by = fresh === undefined ? 0 : f * (fresh - level.now);
		return by <= level.up && by >= -level.down;
	});

/** What new water has of something; undefined where it is not known and taken to be like the tank. */
export const freshOf = (parameter: string, change: CorrectRequest['change']): number | undefined =>
	change && (change.water[parameter] ?? (FOOD.includes(parameter) ? 0 : undefined));

/** The share of the water that is changed on a day. */
export const fractionOn = (day: number, { first, later }: Changing, { changeDays }: Situation): number =>
	!changeDays.includes(day) ? 0 : day === changeDays[0] ? first : later;

/** What a way of changing water weighs by itself: the trips, the water's price, and a change that was moved by hand and is none. */
export function costOf(way: Changing, request: CorrectRequest, situation: Situation): number {
	const { change, prefer, moves = [] } = request;
	const weights = WEIGHTS[prefer];
	const changes = situation.changeDays.map((day) => fractionOn(day, way, situation)).filter((f) => f > 0);
	const cost = changes.reduce(
		(sum, f) =>
			sum + weights.change * (0.5 + f) + weights.money * (change?.costPerL ?? 0) * f * situation.litres,
		0
	);
	const missing = moves.filter((m) => m.supplement === undefined && !fractionOn(m.to, way, situation));
	return cost + MOVED * missing.length;
}

/** Whether animals bear a way of changing water where nothing is poured: then there is a plan by it, whatever a solver says. */
export function isBorne(way: Changing, request: CorrectRequest, situation: Situation): boolean {
	const changes = situation.changeDays.map((day): PlanStep => ({
		day,
		kind: 'water-change',
		fraction: fractionOn(day, way, situation),
		why: 'hold'
	}));
	const path = follow(situation, request.change?.water, [...situation.given, ...changes]);
	return situation.levels.every(({ parameter, up, down }) => {
		const fresh = freshOf(parameter, request.change);
		return changes.every(({ day, fraction = 0 }) => {
			const by = fresh === undefined ? 0 : fraction * (fresh - (path[parameter]?.[day]?.mean ?? fresh));
			return by <= up && by >= -down;
		});
	});
}
