import { compositionOf } from '../composition';
import { alarmOf, FOOD, IONS, ROUNDED } from './limits';
import type { CorrectRequest, CorrectResult, PlanStep } from './schema';

/**
 * A plan checked after it is made: plain mass balance from the request and the steps alone, day by day, at what is believed and at one and two standard
 * deviations of level, use, net volume and label. It shares nothing with the programme that made the steps.
 */

/** How far off what is believed may be, in standard deviations. */
interface Off {
	level?: number;
	use?: number;
	volume?: number;
	label?: number;
}
const FACTORS = ['level', 'use', 'volume', 'label'] as const;

/** A level at the start of each day: as believed, and one and two standard deviations below and above it. */
interface CheckedPath {
	mean: number[];
	low: [one: number[], two: number[]];
	high: [one: number[], two: number[]];
}

/** The levels of all parameters if these steps are done, by parameter. */
export function checkedPaths(request: CorrectRequest, steps: PlanStep[]): Record<string, CheckedPath> {
	const means = followed(request, steps, {});
	// Errors are independent: how far each of them alone carries a level adds up by squares.
	const reach = (sign: 1 | -1, times: number) => {
		const alone = FACTORS.map((factor) => followed(request, steps, { [factor]: times }));
		const against = FACTORS.map((factor) => followed(request, steps, { [factor]: -times }));
		return Object.fromEntries(
			Object.entries(means).map(([parameter, mean]) => [
				parameter,
				mean.map((at, day) => {
					const squares = FACTORS.map((_, f) => {
						const both = [alone[f]![parameter]![day]! - at, against[f]![parameter]![day]! - at];
						return Math.max(0, ...both.map((by) => sign * by)) ** 2;
					});
					return Math.max(0, at + sign * Math.sqrt(squares.reduce((a, b) => a + b, 0)));
				})
			])
		);
	};
	const [low1, low2, high1, high2] = [reach(-1, 1), reach(-1, 2), reach(1, 1), reach(1, 2)];
	return Object.fromEntries(
		Object.entries(means).map(([parameter, mean]): [string, CheckedPath] => [
			parameter,
			{ mean, low: [low1[parameter]!, low2[parameter]!], high: [high1[parameter]!, high2[parameter]!] }
		])
	);
}

function followed(request: CorrectRequest, steps: PlanStep[], off: Off): Record<string, number[]> {
	const { days, water, parameters, supplements, dosing, change } = request;
	const litres = water.volumeL.value + (off.volume ?? 0) * water.volumeL.standardUncertainty;
	const bottles = new Map(
		supplements.map(({ stock = Infinity, ...profile }) => {
			const its = compositionOf(profile);
			const strength = its.ok ? 1 + (off.label ?? 0) * its.value.relativeError : 0;
			return [profile.id, { left: stock, strength, raises: its.ok ? its.value.raises : {} }];
		})
	);
	const rates = new Map(dosing.map((d) => [d.supplement, d.mlPerDay]));
	const levels = new Map(
		parameters.map((p) => [p.parameter, Math.max(0, p.now.mean + (off.level ?? 0) * p.now.standardDeviation)])
	);
	const paths = Object.fromEntries(parameters.map((p) => [p.parameter, [levels.get(p.parameter)!]]));
	const add = (parameter: string, by: number) => {
		const at = levels.get(parameter);
		if (at !== undefined) levels.set(parameter, Math.max(0, at + by));
	};
	const give = (id: string, amount: number) => {
		const bottle = bottles.get(id);
		if (!bottle) return;
		const given = Math.min(amount, bottle.left);
		bottle.left -= given;
		for (const [parameter, raises] of Object.entries(bottle.raises))
			add(parameter, (given * raises * bottle.strength) / litres);
	};
	const exchange = (share: number) => {
		for (const { parameter } of parameters) {
			const fresh = change?.water[parameter] ?? (FOOD.includes(parameter) ? 0 : undefined);
			if (fresh !== undefined) add(parameter, share * (fresh - levels.get(parameter)!));
		}
	};
	const thicken = (by: number) => {
		const at = levels.get('salinity') ?? water.salinity;
		add('salinity', by);
		for (const ion of IONS) add(ion, ((levels.get(ion) ?? 0) * by) / at);
	};
	const take = (step: PlanStep) => {
		if (step.kind === 'dosing-rate') rates.set(step.supplement ?? '', step.amount ?? 0);
		if (step.kind === 'dose') give(step.supplement ?? '', step.amount ?? 0);
		if (step.kind === 'water-change') exchange(step.fraction ?? 0);
		if (step.kind === 'salt' || step.kind === 'fresh-water') thicken(step.changes?.['salinity'] ?? 0);
	};
	for (let day = 0; day < days; day++) {
		for (const step of steps.filter((s) => s.day === day)) take(step);
		for (const [id, rate] of rates) give(id, rate);
		for (const p of parameters) {
			add(p.parameter, -(p.usePerDay.mean + (off.use ?? 0) * p.usePerDay.standardDeviation));
			paths[p.parameter]!.push(levels.get(p.parameter)!);
		}
	}
	return paths;
}

/**
 * What the levels say of a plan: an alarm that is left or not come back from makes it unsafe; a level that leaves its band, or ends below it
 * beside a bottle that brings it, is told; where two standard deviations lie beyond an alarm before the next test of it, it has to be tested until then.
 */
export function verdictOn(
	request: CorrectRequest,
	steps: PlanStep[]
): {
	risks: CorrectResult['risks'];
	safe: boolean;
	testBy: { parameter: string; day: number }[];
	/** Levels that lie below their band on some day. */
	low: string[];
} {
	const risks: CorrectResult['risks'] = [];
	const testBy: { parameter: string; day: number }[] = [];
	const low: string[] = [];
	let safe = true;
	for (const [parameter, path] of Object.entries(checkedPaths(request, steps))) {
		const its = request.parameters.find((p) => p.parameter === parameter)!;
		const [least, most] = alarmOf(its);
		const width = its.band.upper - its.band.lower;
		const slack = ROUNDED * width;
		const off = (level: number) => Math.max(least - level, level - most, 0);
		const { mean } = path;
		if (mean.some((level) => level < its.band.lower - slack)) low.push(parameter);
		const [now, end] = [mean[0]!, mean.at(-1)!];
		const left = mean.findIndex((level, day) => day > 0 && off(level) > slack);
		// Who begins outside is on the way back: only a way that leads further out is no plan.
		if (left > 0 && (off(now) <= slack || off(end) > off(now) + slack)) {
			safe = false;
			const level = mean[left]!;
			const gives = request.dosing.reduce(
				(sum, d) => sum + d.mlPerDay * perUnit(request, d.supplement, parameter),
				0
			);
			risks.push({
				kind: 'alarm',
				day: left,
				parameter,
				numbers: { level, alarm: level < least ? least : most, needsPerDay: its.usePerDay.mean - gives }
			});
			continue;
		}
		const { lower, upper } = its.band;
		const outside = (level: number) => (lower > 0 && level < lower - slack) || level > upper + slack;
		const beyond = (level: number) => Math.max(lower > 0 ? lower - level : 0, level - upper, 0);
		const out = mean.findIndex((level, day) => day > 0 && outside(level));
		const other = now < lower ? end > upper : now > upper && end < lower;
		const bottle = request.supplements.some(
			(s) => (s.stock ?? Infinity) > 0 && perUnit(request, s.id, parameter) > 0
		);
		// What began outside and is on its way back is no news.
		const told = outside(now)
			? outside(end) && (other || beyond(end) > beyond(now) + slack || (end < lower && bottle))
			: out > 0;
		if (told) {
			const [day, level] = outside(end) ? [request.days, end] : [out, mean[out]!];
			risks.push({
				kind: 'band',
				day,
				parameter,
				numbers: { level, edge: level < lower ? lower : upper, bottles: Number(bottle) }
			});
		}
		const [lowest, highest] = [path.low[1], path.high[1]];
		const near = mean.findIndex(
			(_, day) => day > 0 && ((least > 0 && lowest[day]! < least - slack) || highest[day]! > most + slack)
		);
		if (near > 0 && off(now) <= slack) testBy.push({ parameter, day: Math.max(0, near - 1) });
	}
	return { risks, safe, testBy, low };
}

const perUnit = ({ supplements, water }: CorrectRequest, id: string, parameter: string): number => {
	const profile = supplements.find((s) => s.id === id);
	const { stock: _stock, ...its } = profile ?? ({} as never);
	const found = profile ? compositionOf(its) : undefined;
	return found?.ok ? (found.value.raises[parameter] ?? 0) / water.volumeL.value : 0;
};
