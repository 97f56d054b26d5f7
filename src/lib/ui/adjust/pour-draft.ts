import {
	AFTER_POUR,
	USUAL_WATER,
	compositionOf,
	dose,
	type Brings,
	type CorrectRequest,
	type DoseResult
} from '$core/adjust';
import { parameterOf } from '$core/catalogue';
import { isQuantity, type Quantity } from '$core/quantities';
import { amountIn, changeIn } from '$core/quick';
import type { ShelfSupplement } from '$lib/api/supplements';
import { unitFor } from '$lib/ui/habits';
import { changeFrom } from '$lib/ui/mine';

/** A bottle that can be poured: what it brings, first of all. */
export interface PourableBottle extends ShelfSupplement {
	brings: Brings;
	main: Quantity;
}
/** What was typed last is the question; the other field follows. */
export interface PourAsked {
	of: 'change' | 'amount';
	text: string;
}
/** The water it goes into, with levels and paces in the parameters' own units. */
interface PouredInto {
	water: CorrectRequest['water'];
	levels: Record<string, number>;
	planned: Pick<CorrectRequest['parameters'][number], 'parameter' | 'healthyPerDay'>[];
}

export const pourableOf = (shelf: ShelfSupplement[]): PourableBottle[] =>
	shelf.flatMap((bottle) => {
		const its = compositionOf(bottle.profile);
		return its.ok && isQuantity(its.value.main)
			? [{ ...bottle, brings: its.value, main: its.value.main }]
			: [];
	});

/** Where a level stands, or the middle of what is plausible where nobody knows: a change is converted there. */
export const levelAt = (levels: Record<string, number>, parameter: string): number =>
	levels[parameter] ?? (parameterOf(parameter)?.plausible.reduce((a, b) => a + b, 0) ?? 0) / 2;

/** A level as it may be said of the water that is poured into. */
const within = (levels: Record<string, number>, of: keyof typeof AFTER_POUR): number => {
	const { minimum, maximum } = AFTER_POUR[of];
	return Math.min(maximum, Math.max(minimum, levels[of] ?? USUAL_WATER[of]));
};

/** How much of a bottle brings the change that was typed, or what the amount that was typed brings; undefined where nothing is typed. */
export function pourOf(
	asked: PourAsked,
	{ main, brings, profile, left, lastsDays }: PourableBottle,
	{ water, levels, planned }: PouredInto
): DoseResult | { problem: string } | undefined {
	if (!asked.text.trim()) return undefined;
	const typed =
		asked.of === 'amount'
			? amountIn(asked.text, brings.per === 'g' ? 'mass' : 'volume', brings.per)
			: changeIn(asked.text, main, unitFor(main));
	if (!typed.ok) return { problem: typed.problems[0]?.message ?? 'is not a number' };
	if (!(typed.value > 0)) return { problem: 'must be more than nothing: nothing that is poured takes away' };
	const healthy = planned.find((p) => p.parameter === main)?.healthyPerDay.up;
	const changed = () => ({
		parameter: main,
		value: changeFrom(main, typed.value, levelAt(levels, main)),
		unit: parameterOf(main)!.unit
	});
	const made = dose({
		supplement: profile,
		volume: water.volumeL,
		...(asked.of === 'amount' ? { amount: typed.value } : { change: changed() }),
		...(healthy === undefined ? {} : { healthyPerDay: healthy }),
		...(left === null ? {} : { stock: left }),
		...(left !== null && lastsDays ? { usedPerDay: left / lastsDays } : {}),
		water: {
			salinity: water.salinity,
			temperatureC: water.temperatureC,
			ph: within(levels, 'ph'),
			alkalinity: within(levels, 'alkalinity'),
			calcium: within(levels, 'calcium')
		}
	});
	return made.ok ? made.value : { problem: made.problems[0]?.message ?? 'cannot be worked out' };
}
