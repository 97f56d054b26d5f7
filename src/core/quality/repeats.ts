import { good, nth, type Outcome } from '../base';
import { chiSquareAbove } from '../statistics';
import type { RepeatsRequest, RepeatsResult } from './schema';
import { DIFFER, weightedMean, type Scattered } from './spread';

/** One more reading is worth its minutes where it takes at least a tenth off the error. */
const WORTH = 0.1;

/**
 * Several readings of one sample by one kit as one: mean weighted by what changes from reading to reading, with what stays
 * with the kit counted once (GUM 5.2); whether they agree (chi-square; Birge 1932 where they do not), and whether one more
 * is worth it. Values and errors in the readings' unit.
 *
 * @example repeats({ readings: [{ value: 8.1, repeatability: 0.1, trueness: 0.1 }, { value: 8.3, repeatability: 0.1, trueness: 0.1 }] }).value.mean // → { value: 8.2, standardUncertainty: 0.1225, repeatability: 0.07071, trueness: 0.1 }
 */
export function repeats({ readings }: RepeatsRequest): Outcome<RepeatsResult> {
	const n = readings.length;
	const weights = readings.map((r) => r.repeatability ** -2);
	const total = weights.reduce((a, b) => a + b, 0);
	const meanOf = (of: (r: (typeof readings)[number]) => number) =>
		readings.reduce((sum, r, i) => sum + nth(weights, i) * of(r), 0) / total;
	const value = meanOf((r) => r.value);
	const trueness = meanOf((r) => r.trueness);
	const square = scatterOf(readings);
	const chance = n > 1 ? chiSquareAbove(square, n - 1) : 1;
	const agree = chance >= DIFFER;
	// Readings that scatter more than they say are worth less than they say.
	const ratio = agree ? 1 : Math.sqrt(square / (n - 1));
	const shared = readings.every((r) => r.quantisation !== undefined) ? weightedMean(readings).shared : 0;
	const scatter = ratio / Math.sqrt(total);
	const repeatability = Math.hypot(scatter, shared);
	const standardUncertainty = Math.hypot(repeatability, trueness);
	const more = Math.hypot(scatter * Math.sqrt(n / (n + 1)), shared, trueness);
	const share = standardUncertainty > 0 ? 1 - more / standardUncertainty : 0;
	return good({
		mean: { value, standardUncertainty, repeatability, trueness },
		agree,
		chance,
		apart: agree ? [] : apartOf(readings),
		next: !agree || share >= WORTH ? 'repeat' : 'stop',
		gain: { standardUncertainty: more, share }
	});
}

/** Those left out, the worst first, until the others agree; of two nobody can say which. */
function apartOf(readings: RepeatsRequest['readings']): number[] {
	let kept = readings.map((r, i) => ({ ...r, i }));
	const apart: number[] = [];
	while (kept.length > 2) {
		const without = kept.map((r) => scatterOf(kept.filter((o) => o !== r)));
		const best = without.indexOf(Math.min(...without));
		apart.push(nth(kept, best).i);
		kept = kept.filter((_, k) => k !== best);
		if (chiSquareAbove(nth(without, best), kept.length - 1) >= DIFFER) return apart.sort((x, y) => x - y);
	}
	return readings.map((_, i) => i);
}

/** Half a step of a scale whose matched step is triangular over half of it either way (GUM 4.3.9), for its standard uncertainty. */
const HALF_STEP = Math.sqrt(6);

/** Sum of squares about the weighted mean beyond what steps explain, each over its own variance. */
function scatterOf(readings: Scattered[]): number {
	const total = readings.reduce((sum, r) => sum + r.repeatability ** -2, 0);
	const mean = readings.reduce((sum, r) => sum + r.value * r.repeatability ** -2, 0) / total;
	const beyond = (r: Scattered) =>
		Math.max(0, Math.abs(r.value - mean) - HALF_STEP * (r.quantisation ?? 0)) / r.repeatability;
	return readings.reduce((sum, r) => sum + beyond(r) ** 2, 0);
}
