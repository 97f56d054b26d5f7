import { COVERAGE_95, ONE_SIDED_95 } from '../../statistics';
import { nth } from '../../base';
import { DRY_MIX, SALT_PER_PSU } from '../composition';
import { CAREFUL, INNER } from './limits';
import type { CorrectRequest, PlanStep, PlannedParameter } from './schema';
import type { Pourable } from './situation';

/** Fresh water in place of tank water on a day: by how many PSU it thins. */
export interface TopUp {
	day: number;
	by: number;
}

/**
 * Salinity comes home first, in closed form: a healthy day at a time, by dry mix dissolved beforehand or by fresh water for tank water. Where it is
 * at home, what pours leave behind is thinned on the days that say so.
 */
export function salinityPlan(
	{ parameters, days, water }: CorrectRequest,
	topUps: TopUp[]
): {
	thickening: number[];
	home: number;
	steps: PlanStep[];
} {
	const thickening = new Array<number>(days).fill(1);
	const s = parameters.find((p) => p.parameter === 'salinity');
	const out = s && (s.now.mean < s.band.lower || s.now.mean > s.band.upper);
	const steps: PlanStep[] = [];
	if (s && !out)
		for (const { day, by } of topUps) {
			thickening[day] = (s.now.mean - by) / s.now.mean;
			steps.push({
				day,
				kind: 'fresh-water',
				parameter: 'salinity',
				amount: (by / s.now.mean) * water.volumeL.value,
				unit: 'L',
				changes: { salinity: -by },
				why: 'hold'
			});
		}
	if (!s || !out || s.odd || s.unproved) return { thickening, home: 0, steps };
	const aim = aimOf(s);
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
/** The limit's inner side: half of the way to the ideal, never beyond it. */
function aimOf(p: PlannedParameter): number {
	const [low, high] = innerOf(p);
	return p.now.mean < low ? low : p.now.mean > high ? high : p.now.mean;
}

export function innerOf({ band, ideal, now }: PlannedParameter): [number, number] {
	const middle = ideal ?? (band.lower + band.upper) / 2;
	const noise = ONE_SIDED_95 * now.standardDeviation;
	const low = band.lower === 0 ? 0 : middle - INNER * (middle - band.lower);
	const high = middle + INNER * (band.upper - middle);
	return [
		band.lower === 0 ? 0 : Math.min(middle, Math.max(low, band.lower + noise)),
		Math.max(middle, Math.min(high, band.upper - noise))
	];
}

/** A rate that one standard deviation tells from use is tuned all the same where it would carry its level out of the band within so many days. */
const LOOKED_AHEAD = 14;

/** What dosing pumps give, and what follows from it. */
export interface DosingPumps {
	/** A day to each level, by day. */
	dosed: Record<string, number[]>;
	steps: PlanStep[];
	/** Of each bottle what its pump takes over the plan, mL, and the day on which it is empty. */
	drawn: Record<string, { mL: number; emptyOn?: number; needs: number }>;
	/** Days for which nothing is poured by hand from a bottle, since its pump was just set to give less. */
	rests: Record<string, number>;
}

/**
 * A dosing pump is tuned by use and not by level, where its difference to use is beyond noise or carries the level out of its band; while the level stands
 * above the band it gives less, and no more than is used after that. What animals feel is the level's change: as far as the use is sure, that
 * is none. Dosing pumps of one parameter share what it uses, in their order. A bottle that is empty gives nothing.
 */
export function dosingPumps(
	{ dosing, parameters, days }: CorrectRequest,
	pourables: Pourable[]
): DosingPumps {
	const found: DosingPumps = { dosed: {}, steps: [], drawn: {}, rests: {} };
	const set = new Map(dosing.map((d) => [d.supplement, d.mlPerDay]));
	const bottle = (id: string): Pourable =>
		nth(
			pourables,
			pourables.findIndex((s) => s.id === id)
		);
	for (const { supplement, mlPerDay, mostPerDay = Infinity } of dosing) {
		const pourable = bottle(supplement);
		const { main, stock = Infinity } = pourable;
		const per = pourable.effect[main] ?? 0;
		const its = parameters.find((p) => p.parameter === main);
		let rates = new Array<number>(days).fill(mlPerDay);
		if (its && per > 0 && !its.odd && !its.unproved) {
			const { now, band, usePerDay, healthyPerDay } = its;
			const others = [...set].reduce(
				(sum, [id, rate]) => sum + (id === supplement ? 0 : rate * (bottle(id).effect[main] ?? 0)),
				0
			);
			const left = usePerDay.mean - others;
			const gives = mlPerDay * per;
			const ahead = now.mean + LOOKED_AHEAD * (gives - left);
			const leaves = ahead > band.upper || (band.lower > 0 && ahead < band.lower);
			// A dosing pump’s difference to use counts from the error of the use on.
			const unsure = COVERAGE_95 * usePerDay.standardDeviation;
			const beyond = Math.abs(left - gives) > (leaves ? usePerDay.standardDeviation : unsure);
			// However wrong the use is, the level goes by no more than half a healthy day.
			const most = Math.max(gives, left - unsure + healthyPerDay.up / 2);
			const least = Math.min(gives, left + unsure - healthyPerDay.down / 2);
			const over = now.mean > band.upper;
			const wanted = beyond ? Math.max(least, Math.min(most, left)) : gives;
			const next = Math.min(
				Math.max(0, (over ? Math.min(wanted, left) : wanted) / per),
				Math.max(mlPerDay, mostPerDay)
			);
			const less = Math.max(0, next - (CAREFUL * healthyPerDay.down) / per);
			const lessDays =
				over && less < next ? Math.min(days, Math.ceil((now.mean - aimOf(its)) / ((next - less) * per))) : 0;
			rates = rates.map((_, t) => (t < lessDays ? less : next));
			const tell = (day: number, rate: number, before: number) =>
				found.steps.push({
					day,
					kind: 'dosing-rate',
					parameter: main,
					supplement,
					amount: rate,
					unit: 'mL/day',
					changes: { [main]: (rate - before) * per },
					why: lessDays ? 'bring-home' : 'tune'
				});
			const first = nth(rates, 0);
			if (first !== mlPerDay) tell(0, first, mlPerDay);
			if (lessDays && lessDays < days) tell(lessDays, next, less);
			if (first < mlPerDay) found.rests[supplement] = Math.max(1, lessDays);
			set.set(supplement, next);
		}
		let drawn = 0;
		let emptyOn: number | undefined;
		const needs = rates.reduce((sum, rate) => sum + rate, 0);
		rates = rates.map((rate, day) => {
			const given = Math.min(rate, stock - drawn);
			drawn += given;
			if (given < rate) emptyOn ??= day;
			return given;
		});
		found.drawn[supplement] = { mL: drawn, needs, ...(emptyOn === undefined ? {} : { emptyOn }) };
		for (const [parameter, effect] of Object.entries(pourable.effect)) {
			const sum = (found.dosed[parameter] ??= new Array<number>(days).fill(0));
			rates.forEach((rate, t) => (sum[t] = nth(sum, t) + rate * effect));
		}
	}
	return found;
}
