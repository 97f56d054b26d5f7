import { isSolute } from '../../catalogue';
import { badAll, good, nth, type Outcome, type Problem } from '../../base';
import { compositionOf, type Brings } from '../composition';
import { dosingPumps, salinityPlan, type DosingPumps, type TopUp } from './given';
import { levelOf, movedDays, type Level } from './level';
import type { CorrectRequest, PlanStep } from './schema';

export interface Pourable {
	id: string;
	brings: Brings;
	main: string;
	/** Change of each level by one mL or g, in own units. */
	effect: Record<string, number>;
	/** The most on one day: what moves its parameter by a healthy day over what the tank uses. */
	most: number;
	stock: number | undefined;
	price: number;
	when?: 'morning' | 'evening';
}

export interface Situation {
	days: number;
	litres: number;
	/** Relative standard uncertainty of the net volume. */
	volumeError: number;
	levels: Level[];
	pourables: Pourable[];
	/** All dissolved is multiplied by this on each day: salt or fresh water. */
	thickening: number[];
	/** Day from which salinity is home. */
	salinityHome: number;
	/** What dosing pumps add a day to each level, by day. */
	dosed: DosingPumps['dosed'];
	drawn: DosingPumps['drawn'];
	rests: DosingPumps['rests'];
	/** Steps that follow from rules and not from the programme. */
	given: PlanStep[];
	changeDays: number[];
	fractions: number[];
}

/** What is wrong with a request that no schema can say. `usable`: supplements that can be poured for something. */
function flawsOf(
	{ days, parameters, supplements, dosing, change, moves = [] }: CorrectRequest,
	brought: Outcome<Brings>[],
	usable: ReadonlySet<string>
): Problem[] {
	const problems: Problem[] = [];
	parameters.forEach(({ parameter, band }, i) => {
		if (!isSolute(parameter))
			problems.push({ path: `/parameters/${i}/parameter`, message: 'is nothing that can be poured' });
		if (!(band.lower < band.upper))
			problems.push({
				path: `/parameters/${i}/band`,
				message: 'must have its lower limit below its upper limit'
			});
		if (parameters.findIndex((p) => p.parameter === parameter) !== i)
			problems.push({ path: `/parameters/${i}/parameter`, message: 'stands there twice' });
	});
	supplements.forEach(({ id }, i) => {
		const composition = nth(brought, i);
		if (supplements.findIndex((s) => s.id === id) !== i)
			problems.push({ path: `/supplements/${i}/id`, message: 'stands there twice' });
		if (!composition.ok)
			problems.push(...composition.problems.map((p) => ({ ...p, path: `/supplements/${i}${p.path}` })));
	});
	const isReadable = (id: string) => supplements.some((s, i) => s.id === id && nth(brought, i).ok);
	for (const [i, { supplement }] of dosing.entries())
		if (!isReadable(supplement))
			problems.push({ path: `/dosing/${i}/supplement`, message: 'is not among the supplements' });
		else if (dosing.findIndex((d) => d.supplement === supplement) !== i)
			problems.push({
				path: `/dosing/${i}/supplement`,
				message: 'stands there twice: write what all pumps give of it together'
			});
	moves.forEach(({ supplement, from, to }, i) => {
		if (supplement === undefined ? !change : !usable.has(supplement))
			problems.push({ path: `/moves/${i}/supplement`, message: 'is nothing this plan has' });
		if (from >= days || to >= days)
			problems.push({ path: `/moves/${i}`, message: `lies outside the plan's ${days} days` });
	});
	return problems;
}

/** What may be poured, and what for: of each supplement that can be read. */
function pourablesOf(request: CorrectRequest, brought: Outcome<Brings>[]): Pourable[] {
	const { water, parameters, supplements } = request;
	const hasBottle = (parameter: string) =>
		supplements.some((s, k) => {
			const its = nth(brought, k);
			return its.ok && its.value.main === parameter && (s.stock ?? Infinity) > 0;
		});
	return supplements.flatMap(({ id, stock, pricePerUnit }, i): Pourable[] => {
		const composition = nth(brought, i);
		if (!composition.ok) return [];
		const brings = composition.value;
		const effect = Object.fromEntries(
			Object.entries(brings.raises).map(([p, x]) => [p, x / water.volumeL.value])
		);
		const main = purposeOf(brings, request, hasBottle);
		const its = parameters.find((p) => p.parameter === main);
		const when = main === 'alkalinity' ? 'morning' : main === 'calcium' ? 'evening' : undefined;
		return [
			{
				id,
				brings,
				main,
				effect,
				most: its ? (its.healthyPerDay.up + Math.max(0, its.usePerDay.mean)) / (effect[main] ?? NaN) : 0,
				stock,
				price: pricePerUnit ?? 0,
				...(when ? { when } : {})
			}
		];
	});
}

/**
 * What a request means: which levels ask for something, what may be poured for them when, how sure they will be, and what salt and dosing pumps
 * do. `topUps`: fresh water that goes in for tank water beside. Problems: things that are no solutes, bands the wrong way round, supplements that cannot be read or are named twice.
 */
export function situationOf(request: CorrectRequest, topUps: TopUp[] = []): Outcome<Situation> {
	const { days, water, parameters, supplements, change, moves = [] } = request;
	const litres = water.volumeL.value;
	const brought = supplements.map(({ stock: _stock, ...profile }) => compositionOf(profile));
	const pourables = pourablesOf(request, brought);
	const usable = new Set(pourables.flatMap((s) => (s.most > 0 ? [s.id] : [])));
	const problems = flawsOf(request, brought, usable);
	if (problems.length) return badAll(problems);

	const salt = salinityPlan(request, topUps);
	const { dosed, steps, drawn, rests } = dosingPumps(request, pourables);
	const situation: Situation = {
		days,
		litres,
		volumeError: water.volumeL.standardUncertainty / litres,
		levels: [],
		pourables,
		thickening: salt.thickening,
		salinityHome: salt.home,
		dosed,
		drawn,
		rests,
		given: [...salt.steps, ...steps],
		changeDays: [],
		fractions: []
	};
	if (change) {
		const from = Math.max(change.notBefore ?? 0, salt.home);
		for (let t = from; t < days; t += change.everyDays) situation.changeDays.push(t);
		situation.changeDays = movedDays(
			situation.changeDays,
			moves.filter((m) => m.supplement === undefined && m.to >= from),
			change.everyDays / 2
		);
		situation.fractions = fractionsOf(change.largestFraction, days * parameters.length > LARGE);
	}
	situation.levels = parameters.map((p) => levelOf(p, request, situation));
	return good(situation);
}

/** What a bottle is poured for: its main parameter, or, where that does not lack, one that is low and that no other bottle is for. */
function purposeOf(
	{ main, raises }: Brings,
	{ parameters }: CorrectRequest,
	hasBottle: (parameter: string) => boolean
): string {
	const isLow = (parameter: string): boolean =>
		parameters.some((p) => p.parameter === parameter && p.now.mean < p.band.lower);
	if (isLow(main)) return main;
	const lacking = Object.entries(raises).find(
		([parameter, by]) => by > 0 && parameter !== 'salinity' && isLow(parameter) && !hasBottle(parameter)
	);
	return lacking?.[0] ?? main;
}

/** Days times levels from which on fewer sizes of a change are weighed: each is a programme of its own. */
const LARGE = 150;

/** Sizes of a water change, in twentieths: of the largest a fifth, two and three fifths and all; in a large plan two of them. */
function fractionsOf(largest: number, large: boolean): number[] {
	const sizes = (large ? [0.4, 1] : [0.2, 0.4, 0.6, 1])
		.map((part) => Math.round(largest * part * 20) / 20)
		.filter((f) => f > 0 && f <= largest + 1e-9);
	return [...new Set(sizes.length ? sizes : [largest])];
}
