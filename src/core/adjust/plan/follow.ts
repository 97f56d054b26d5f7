import { nth } from '../../base';
import type { CorrectResult, PlanStep } from './schema';
import { FOOD, IONS } from './limits';
import type { Situation } from './situation';

/**
 * What steps do to the levels, day by day, without any programme: mass balance. A day's pours and its water change come before its use.
 * New water of which nothing is known is taken to be like the tank, of nitrate and phosphate to hold none.
 */
export function follow(
	situation: Situation,
	newWater: Record<string, number> | undefined,
	steps: PlanStep[]
): CorrectResult['path'] {
	const path: CorrectResult['path'] = {};
	for (const level of situation.levels) {
		const { parameter } = level;
		const fresh = newWater?.[parameter] ?? (FOOD.includes(parameter) ? 0 : undefined);
		const days = [{ day: 0, mean: level.now, sd: level.sd }];
		let tested = 0;
		let poured = 0;
		let at = level.now;
		for (let t = 0; t < situation.days; t++) {
			const today = steps.filter((s) => s.day === t);
			if (today.some((s) => s.kind === 'test' && s.parameter === parameter)) [tested, poured] = [t, 0];
			const pours = today
				.filter((s) => s.kind === 'dose')
				.reduce((sum, s) => sum + (s.changes?.[parameter] ?? 0), 0);
			const fraction = today.find((s) => s.kind === 'water-change')?.fraction ?? 0;
			const thick = parameter === 'salinity' || IONS.includes(parameter) ? nth(situation.thickening, t) : 1;
			const exchange = fresh === undefined ? 0 : fraction * (fresh - at);
			const drift = (situation.dosed[parameter]?.[t] ?? 0) - level.use;
			at = Math.max(0, at * thick + pours + exchange + drift);
			poured += pours;
			const known = Math.hypot(level.sd, (t + 1 - tested) * level.useSd);
			days.push({ day: t + 1, mean: at, sd: Math.hypot(known, situation.volumeError * poured) });
		}
		path[parameter] = days;
	}
	return path;
}
