import { nth } from '../../nth';
import { DRY_MIX, SALT_PER_PSU } from '../composition';
import { CAREFUL, INNER, Z95 } from './limits';
import type { CorrectRequest, PlanStep, PlannedParameter } from './schema';
import type { Pourable } from './situation';

/** Salinity comes home first, in closed form: a healthy day at a time, by dry mix dissolved beforehand or by fresh water for tank water. */
export function salinityPlan({ parameters, days, water }: CorrectRequest): {
	thickening: number[];
	home: number;
	steps: PlanStep[];
} {
	const thickening = new Array<number>(days).fill(1);
	const s = parameters.find((p) => p.parameter === 'salinity');
	const out = s && (s.now.mean < s.band.lower || s.now.mean > s.band.upper);
	if (!s || !out || s.odd || s.unproved) return { thickening, home: 0, steps: [] };
	const aim = aimOf(s);
	const steps: PlanStep[] = [];
	let [at, day] = [s.now.mean, 0];
	for (; day < days && Math.abs(aim - at) > 1e-6; day++) {
		const step = Math.max(-s.healthyPerDay.down * CAREFUL, Math.min(s.healthyPerDay.up * CAREFUL, aim - at));
		thickening[day] = (at + step) / at;
		const litres = water.volumeL.value;
		steps.push(
			step > 0
				? {
						day,
						kind: 'salt',
						parameter: 'salinity',
						amount: (step * SALT_PER_PSU * litres) / DRY_MIX,
						unit: 'g',
						changes: { salinity: step },
						why: 'salinity-first'
					}
				: {
						day,
						kind: 'fresh-water',
						parameter: 'salinity',
						amount: (-step / at) * litres,
						unit: 'L',
						changes: { salinity: step },
						why: 'salinity-first'
					}
		);
		at += step;
	}
	return { thickening, home: day, steps };
}
/** The edge's inner side: half of the way to the ideal, never beyond it. */
function aimOf(p: PlannedParameter): number {
	const [low, high] = innerOf(p);
	return p.now.mean < low ? low : p.now.mean > high ? high : p.now.mean;
}

export function innerOf({ band, ideal, now }: PlannedParameter): [number, number] {
	const middle = ideal ?? (band.lower + band.upper) / 2;
	const noise = Z95 * now.standardDeviation;
	const low = band.lower === 0 ? 0 : middle - INNER * (middle - band.lower);
	const high = middle + INNER * (band.upper - middle);
	return [
		band.lower === 0 ? 0 : Math.min(middle, Math.max(low, band.lower + noise)),
		Math.max(middle, Math.min(high, band.upper - noise))
	];
}

/**
 * A doser is tuned by use and not by level, and only where its difference to use is beyond noise; while its level stands above the
 * band it gives less.
 */
export function dosers(
	{ dosing, parameters, days }: CorrectRequest,
	pourables: Pourable[]
): { dosed: Record<string, number[]>; steps: PlanStep[] } {
	const dosed: Record<string, number[]> = {};
	const steps: PlanStep[] = [];
	for (const { supplement, mlPerDay, mostPerDay } of dosing) {
		const pourable = nth(
			pourables,
			pourables.findIndex((s) => s.id === supplement)
		);
		const per = pourable.effect[pourable.main] ?? 0;
		const its = parameters.find((p) => p.parameter === pourable.main);
		let rates = new Array<number>(days).fill(mlPerDay);
		if (its && per > 0 && !its.odd && !its.unproved) {
			const others = dosing
				.filter((d) => d.supplement !== supplement)
				.reduce(
					(sum, d) =>
						sum + d.mlPerDay * (pourables.find((s) => s.id === d.supplement)?.effect[pourable.main] ?? 0),
					0
				);
			const tuned = Math.min(mostPerDay ?? Infinity, Math.max(0, (its.usePerDay.mean - others) / per));
			const beyond =
				Math.abs(its.usePerDay.mean - others - mlPerDay * per) > 1.96 * its.usePerDay.standardDeviation;
			// A change of more than half a healthy day is made in halves: the next plan makes the other.
			const largest = (0.5 * its.healthyPerDay.up) / per;
			const next = beyond ? mlPerDay + Math.max(-largest, Math.min(largest, tuned - mlPerDay)) : mlPerDay;
			const over = its.now.mean - its.band.upper;
			const less = Math.max(0, next - (CAREFUL * its.healthyPerDay.down) / per);
			const lessDays =
				over > 0 && less < next
					? Math.min(days, Math.ceil((its.now.mean - aimOf(its)) / ((next - less) * per)))
					: 0;
			rates = rates.map((_, t) => (t < lessDays ? less : next));
			const tell = (day: number, rate: number, before: number) =>
				steps.push({
					day,
					kind: 'dosing-rate',
					parameter: pourable.main,
					supplement,
					amount: rate,
					unit: 'mL/day',
					changes: { [pourable.main]: (rate - before) * per },
					why: lessDays ? 'bring-home' : 'tune'
				});
			if (nth(rates, 0) !== mlPerDay) tell(0, nth(rates, 0), mlPerDay);
			if (lessDays && lessDays < days) tell(lessDays, next, less);
		}
		for (const [parameter, effect] of Object.entries(pourable.effect)) {
			const sum = (dosed[parameter] ??= new Array<number>(days).fill(0));
			rates.forEach((rate, t) => (sum[t] = nth(sum, t) + rate * effect));
		}
	}
	return { dosed, steps };
}
