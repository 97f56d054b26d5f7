import { nth } from '../../nth';
import { good, type Outcome } from '../../problems';
import { MOST_PORTIONS, OMEGA_TANK, portionsOf } from '../pour';
import {
	costOf,
	fractionOn,
	importanceOf,
	MOVED,
	named,
	NO_CHANGE,
	ONE,
	programmeOf,
	waysOfChanging,
	WEIGHTS,
	type Changing
} from './programme';
import { omegaAt, USUAL_PH } from './saturation';
import type { CorrectRequest, CorrectResult, PlanStep } from './schema';
import { CAREFUL, ROUNDED, Z95 } from './limits';
import { SURE_ENOUGH, situationOf, type Level, type Pourable, type Situation, type TopUp } from './situation';
import type { Solver } from './solver';
import { verdictOn } from './check';
import { follow } from './follow';

/** Of a healthy day: less is not worth going to the tank for. */
const LEAST_POUR = 0.02;
/**
 * Where the search for the fewest pours ends: gap and nodes, never a clock, so that a busy machine makes the same plan as an idle one.
 * Other programmes are linear and end by themselves.
 */
const LIMITS = { mip_rel_gap: 0.01, mip_max_nodes: 20, output_flag: false };
/** Saturation this near to its bound is told. */
const NEAR_BOUND = 0.9;
/** A net volume known worse than this keeps pours small enough to say so. */
const VAGUE_VOLUME = 0.08;
/** What is left behind may thicken the water by this much before it is told, PSU. */
const CREEP = 0.3;

/**
 * One plan that brings all parameters home: what to pour, change and test on which day, the levels it is expected to give, what it
 * refuses and risks, and what it costs. A mixed-integer linear programme (see `programme.ts`) between rules that are
 * in closed form (salinity first, dosers by use). Problems: as `situationOf`.
 */
export function correct(request: CorrectRequest, solver: Solver): Outcome<CorrectResult> {
	const prepared = situationOf(request);
	if (!prepared.ok) return prepared;
	let situation = prepared.value;
	let { acts, proved } = bestOf(request, situation, solver);
	const thinner = toppedUp(request, situation, acts);
	if (thinner.length) {
		const again = situationOf(request, thinner);
		if (again.ok) {
			situation = again.value;
			({ acts, proved } = bestOf(request, situation, solver));
		}
	}
	const checked = (found: PlanStep[]) => {
		const planned = [...situation.given, ...found];
		const steps = inOrder([...planned, ...testsOf(situation, planned)]);
		return { steps, ...verdictOn(request, steps) };
	};
	let made = checked(acts);
	// Neither one amount for all days nor a trip that is saved is worth a harm.
	if (!made.safe) {
		const few = WEIGHTS[request.prefer].act > 0;
		for (const level of situation.levels) level.anew = true;
		const found = bestOf(few ? { ...request, prefer: 'soonest' } : request, situation, solver);
		const other = checked(found.acts);
		if (harmFrom(other) > harmFrom(made)) {
			made = other;
			proved = found.proved && !few;
		}
	}
	const { steps, risks, safe, testBy } = made;
	const all = inOrder([
		...steps,
		// Whoever knows a level too badly to say that it stays clear of its alarm is asked to test it in time.
		...testBy
			.filter(
				({ parameter, day }) =>
					!steps.some((s) => s.kind === 'test' && s.parameter === parameter && s.day <= day)
			)
			.map(({ parameter, day }): PlanStep => ({ day, kind: 'test', parameter, why: 'unsure' }))
	]);
	const path = follow(situation, request.change?.water, all);
	const pours = all.filter((s) => s.kind === 'dose');
	return good({
		steps: withWaits(all, situation),
		path,
		home: Object.fromEntries(situation.levels.map((l) => [l.parameter, homeOf(l, path[l.parameter] ?? [])])),
		refused: situation.levels.flatMap(({ parameter, refused }) =>
			refused ? [{ parameter, why: refused }] : []
		),
		risks: [...risks, ...risksOf(request, situation, all, path)],
		safe,
		cost: {
			money:
				pours.reduce((sum, s) => sum + (s.amount ?? 0) * priceOf(situation, s), 0) + changeCost(request, all),
			pours: pours.length,
			amounts: amountsOf(pours),
			waterL: all.reduce((sum, s) => sum + (s.kind === 'water-change' ? (s.amount ?? 0) : 0), 0),
			daysOut: Array.from({ length: situation.days }, (_, t) => t + 1).filter((t) =>
				situation.levels.some((l) => outside(l, path[l.parameter]?.[t]?.mean ?? l.now))
			).length
		},
		proved
	});
}

/**
 * What is to be poured and changed: the best of the programmes of all ways of changing water. A way whose bound is no better than what was
 * found is left out: what it weighs by itself, or, where trips count, its relaxed programme (branch and bound, Land & Doig 1960).
 */
function bestOf(
	request: CorrectRequest,
	situation: Situation,
	solver: Solver
): { acts: PlanStep[]; proved: boolean } {
	const solved = (way: Changing, relaxed: boolean) => {
		const text = programmeOf(request, situation, way, relaxed);
		let its = solver.solve(text, LIMITS);
		// Its first word is not taken for it: what is made simpler beforehand may break by the last digit.
		if (its.Status === 'Infeasible') its = solver.solve(text, { ...LIMITS, presolve: 'off' });
		const { Status, ObjectiveValue, Columns } = its;
		const value = (name: string) => Columns[name]?.Primal ?? 0;
		const found = Status !== 'Infeasible' && value(ONE) === 1;
		const ended = Status === 'Optimal' || (Status === 'Infeasible' && !isBorne(way, request, situation));
		return { worth: found ? ObjectiveValue : Infinity, ended, value };
	};
	const ways = waysOfChanging(situation, request.change);
	const counts = WEIGHTS[request.prefer].act > 0 && ways.length > 1;
	const bounded = ways.map((way) => ({
		way,
		bound: counts ? solved(way, true).worth : costOf(way, request, situation)
	}));
	if (counts) bounded.sort((a, b) => a.bound - b.bound);
	let best = { acts: [] as PlanStep[], worth: Infinity };
	let proved = true;
	let searched = 0;
	for (const { way, bound } of bounded) {
		if (bound >= best.worth * (1 - LIMITS.mip_rel_gap)) continue;
		if (counts && searched++ === MOST_SEARCHED) return { acts: best.acts, proved: false };
		const { worth, ended, value } = solved(way, false);
		proved &&= ended;
		if (worth < best.worth) best = { acts: actsOf(request, situation, way, value), worth };
	}
	// Where no whole trips were found, the pours of the relaxed programme keep every rule: they are only more trips.
	if (best.worth === Infinity)
		return { acts: actsOf(request, situation, NO_CHANGE, solved(NO_CHANGE, true).value), proved: false };
	return { acts: best.acts, proved };
}
/** The first day of harm; none: beyond all days. */
const harmFrom = ({ risks, safe }: Pick<CorrectResult, 'risks' | 'safe'>): number =>
	safe ? Infinity : Math.min(...risks.filter((r) => r.kind === 'alarm').map((r) => r.day));

/** Whether animals bear a way of changing water where nothing is poured: then there is a plan by it, whatever a solver says. */
function isBorne(way: Changing, request: CorrectRequest, situation: Situation): boolean {
	const changes = situation.changeDays.map((day): PlanStep => ({
		day,
		kind: 'water-change',
		fraction: fractionOn(day, way, situation),
		why: 'hold'
	}));
	const path = follow(situation, request.change?.water, [...situation.given, ...changes]);
	return situation.levels.every(({ parameter, up, down }) => {
		const fresh = request.change?.water[parameter];
		return changes.every(({ day, fraction = 0 }) => {
			const by = fresh === undefined ? 0 : fraction * (fresh - (path[parameter]?.[day]?.mean ?? fresh));
			return by <= up && by >= -down;
		});
	});
}

/**
 * Fresh water for tank water where what is poured would carry salinity over its band: a careful day's, on the day before. What that takes of the
 * ions is in the plan that is then made anew.
 */
function toppedUp(request: CorrectRequest, situation: Situation, acts: PlanStep[]): TopUp[] {
	const level = situation.levels.find((l) => l.parameter === 'salinity');
	if (!level || level.refused || situation.salinityHome > 0) return [];
	const path = follow(situation, request.change?.water, acts)['salinity'] ?? [];
	const over = path.findIndex(
		({ mean }, day) => day > 0 && mean > level.upper && mean > nth(level.natural, day)
	);
	if (over < 0) return [];
	const end = path.at(-1)!.mean;
	const by = Math.min(CAREFUL * level.down, end - Math.min(level.inner[1], level.upper));
	return by > 0 ? [{ day: over - 1, by }] : [];
}

/** Ways of changing water for which the fewest pours are searched: each takes some tenths of a second in a large plan. */
const MOST_SEARCHED = 2;

/** What the programme's weights make of a path and what it took: less is better. For comparing plans, in days a band away. */
export function scoreOf(request: CorrectRequest, situation: Situation, steps: PlanStep[]): number {
	const weights = WEIGHTS[request.prefer];
	const path = follow(situation, request.change?.water, steps);
	let score = 0;
	for (const level of situation.levels) {
		const its = path[level.parameter] ?? [];
		for (let t = 1; t < its.length; t++) {
			const mean = nth(its, t).mean;
			const end = t === situation.days ? weights.end : 0;
			const importance = importanceOf(level.parameter);
			const off = (low: number, high: number) =>
				(Math.max(0, level.lower > 0 ? low - mean : 0) + Math.max(0, mean - high)) / level.scale;
			score += importance * (weights.out + end) * off(level.lower, level.upper);
			if (!level.wants) continue;
			score += importance * (weights.unsure + 0.3 * end) * off(...level.sure);
			score += importance * weights.inner * off(...level.inner);
		}
	}
	for (const step of steps) {
		const pourable = situation.pourables.find((s) => s.id === step.supplement);
		if (step.kind === 'dose' && pourable)
			score +=
				((step.amount ?? 0) / pourable.most) * weights.pour +
				weights.act +
				weights.money * pourable.price * (step.amount ?? 0);
		if (step.kind === 'water-change')
			score +=
				weights.change * (0.5 + (step.fraction ?? 0)) +
				weights.money * (request.change?.costPerL ?? 0) * (step.amount ?? 0);
	}
	for (const short of shortOf(request, situation, steps)) score += MOVED * short.share;
	return score;
}

/** Glasses that were moved by hand and are not there in whole on their new day: what goes in of what was wanted, and what lacks of a healthy day. */
function shortOf({ moves = [] }: CorrectRequest, { pourables }: Situation, steps: PlanStep[]) {
	return moves.flatMap(({ supplement, to, amount = 1 }) => {
		const pourable = pourables.find((s) => s.id === supplement);
		const kind = pourable ? 'dose' : 'water-change';
		const there = steps.find((s) => s.day === to && s.kind === kind && s.supplement === supplement);
		const got = pourable ? (there?.amount ?? 0) : there ? 1 : 0;
		const share = (amount - got) / (pourable?.most ?? 1);
		return share > 0 ? [{ supplement, to, wanted: amount, got, share }] : [];
	});
}

const outside = (level: Level, mean: number): boolean =>
	(level.lower > 0 && mean < level.lower - ROUNDED * level.scale) ||
	mean > level.upper + ROUNDED * level.scale;

/** Pours and water changes of a solution. */
function actsOf(
	request: CorrectRequest,
	situation: Situation,
	way: Changing,
	value: (name: string) => number
): PlanStep[] {
	const { pourables, days, levels, litres } = situation;
	const steps: PlanStep[] = [];
	for (let t = 0; t < days; t++) {
		pourables.forEach((pourable, i) => {
			const level = levels.find((l) => l.parameter === pourable.main);
			if (!level?.pourDays.includes(t) || level.mode[t] === 'none') return;
			const share = value(named.pour(i, t, level));
			if (share < LEAST_POUR) return;
			steps.push(pourStep(request, situation, pourable, t, share * pourable.most));
		});
		const fraction = fractionOn(t, way, situation);
		if (fraction > 0)
			steps.push({
				day: t,
				kind: 'water-change',
				fraction,
				amount: fraction * litres,
				unit: 'L',
				why: levels.some((l) => outside(l, nth(l.natural, t))) ? 'bring-home' : 'hold'
			});
	}
	return steps;
}

function pourStep(
	{ water }: CorrectRequest,
	situation: Situation,
	pourable: Pourable,
	day: number,
	amount: number
): PlanStep {
	const { levels, litres } = situation;
	const level = levels.find((l) => l.parameter === pourable.main);
	const measured = threeFigures(amount);
	const of = (parameter: string, usual: number) =>
		levels.find((l) => l.parameter === parameter)?.now ?? usual;
	const portions = portionsOf(measured, pourable.brings, litres, {
		salinity: water.salinity,
		temperatureC: water.temperatureC,
		ph: water.ph ?? USUAL_PH,
		alkalinity: of('alkalinity', 8),
		calcium: of('calcium', 425)
	});
	// No portion moves a level by more than a healthy day.
	const healthy = Math.max(
		1,
		...levels.map((l) =>
			Math.ceil(((pourable.effect[l.parameter] ?? 0) * measured) / Math.max(l.up, 1e-9) - 1e-6)
		)
	);
	return {
		day,
		kind: 'dose',
		parameter: pourable.main,
		supplement: pourable.id,
		amount: measured,
		unit: pourable.brings.per,
		portions: Math.min(Math.max(portions, healthy), MOST_PORTIONS),
		...(pourable.when ? { when: pourable.when } : {}),
		changes: Object.fromEntries(
			Object.entries(pourable.effect).map(([parameter, effect]) => [parameter, effect * measured])
		),
		why: level && level.now < level.lower && day < level.keptFrom ? 'bring-home' : 'hold'
	};
}

/** Nobody measures 12.3456 mL; downwards, so that rounding passes no limit. */
function threeFigures(amount: number): number {
	const unit = 10 ** (Math.floor(Math.log10(amount)) - 2);
	return Number((Math.floor(amount / unit + 1e-6) * unit).toPrecision(3));
}

/** A test before every second pour that rests on a number not sure by then, after the last one, and of what is refused. */
function testsOf(situation: Situation, steps: PlanStep[]): PlanStep[] {
	const tests: PlanStep[] = [];
	for (const level of situation.levels) {
		const { parameter } = level;
		const test = (day: number, why: PlanStep['why']) => {
			if (day <= situation.days && !tests.some((s) => s.parameter === parameter && s.day === day))
				tests.push({ day, kind: 'test', parameter, why });
		};
		if (level.refused === 'odd') test(0, 'odd');
		if (level.refused === 'unproved' || level.refused === 'unknown') test(0, 'unproved');
		if (level.refused === 'salinity-first') test(situation.salinityHome, 'salinity-first');
		if (parameter === 'salinity' && situation.salinityHome) test(situation.salinityHome, 'check');
		const pours = [
			...new Set(steps.filter((s) => s.kind === 'dose' && s.parameter === parameter).map((s) => s.day))
		].sort((a, b) => a - b);
		let tested = 0;
		pours.forEach((day, i) => {
			const known = Math.hypot(level.sd, (day - tested) * level.useSd);
			// Nor by one that days have made unsure before the first.
			if ((i % 2 === 0 && (i > 0 || day === 0)) || Z95 * known <= SURE_ENOUGH * level.scale) return;
			test(day, 'before-acting');
			tested = day;
		});
		// When it should be home that is looked at, and again after the last pour.
		if (pours.some((day) => day < level.keptFrom)) test(level.keptFrom, 'check');
		const last = pours.at(-1);
		if (last !== undefined) test(last + 1, 'check');
	}
	return tests;
}

const ORDER: Record<PlanStep['kind'], number> = {
	test: 0,
	'dosing-rate': 1,
	salt: 2,
	'fresh-water': 2,
	'water-change': 3,
	dose: 4,
	wait: 5
};
const inOrder = (steps: PlanStep[]): PlanStep[] =>
	[...steps].sort(
		(a, b) =>
			a.day - b.day ||
			ORDER[a.kind] - ORDER[b.kind] ||
			(a.when === 'evening' ? 1 : 0) - (b.when === 'evening' ? 1 : 0) ||
			importanceOf(b.parameter ?? '') - importanceOf(a.parameter ?? '')
	);

/** Where nothing is to be done, that is said: today there is always a line. */
function withWaits(steps: PlanStep[], { days, levels }: Situation): PlanStep[] {
	if (steps.some((s) => s.day === 0)) return steps;
	const later = steps.some((s) => s.day < days);
	const why = later
		? 'hold'
		: levels.some((l) => l.refused !== undefined || outside(l, l.now))
			? 'out'
			: 'check';
	return [{ day: 0, kind: 'wait', why }, ...steps];
}

const priceOf = (situation: Situation, step: PlanStep): number =>
	situation.pourables.find((s) => s.id === step.supplement)?.price ?? 0;
const changeCost = ({ change }: CorrectRequest, steps: PlanStep[]): number =>
	steps.reduce(
		(sum, s) => sum + (s.kind === 'water-change' ? (s.amount ?? 0) * (change?.costPerL ?? 0) : 0),
		0
	);
function amountsOf(pours: PlanStep[]): Record<string, number> {
	const amounts: Record<string, number> = {};
	for (const { supplement = '', amount = 0 } of pours)
		amounts[supplement] = (amounts[supplement] ?? 0) + amount;
	return amounts;
}

/** The first day from which the mean stays in the band to the end; null where it is out at the end. */
function homeOf(level: Level, path: { mean: number }[]): number | null {
	let home: number | null = null;
	path.forEach(({ mean }, day) => {
		if (outside(level, mean)) home = null;
		else home ??= day;
	});
	return home;
}

function risksOf(
	request: CorrectRequest,
	situation: Situation,
	steps: PlanStep[],
	path: CorrectResult['path']
): CorrectResult['risks'] {
	const risks: CorrectResult['risks'] = [];
	for (const pourable of situation.pourables) {
		const drawn = situation.drawn[pourable.id];
		const poured = steps
			.filter((s) => s.supplement === pourable.id && s.kind === 'dose')
			.reduce((sum, s) => sum + (s.amount ?? 0), 0);
		const needs = poured + (drawn?.needs ?? 0);
		if (pourable.stock !== undefined && needs > 0.9 * pourable.stock)
			risks.push({
				kind: 'stock',
				day: drawn?.emptyOn ?? 0,
				supplement: pourable.id,
				numbers: { needs, has: pourable.stock }
			});
	}
	for (const { supplement, to, wanted, got, share } of shortOf(request, situation, steps))
		if (share > LEAST_POUR)
			risks.push({ kind: 'moved', day: to, ...(supplement ? { supplement } : {}), numbers: { wanted, got } });
	const heavy = steps.find((s) => (s.portions ?? 1) >= MOST_PORTIONS);
	if (heavy)
		risks.push({
			kind: 'pour',
			day: heavy.day,
			...(heavy.supplement ? { supplement: heavy.supplement } : {}),
			numbers: { portions: heavy.portions ?? 0 }
		});
	const alkalinity = path['alkalinity'];
	const calcium = path['calcium'];
	if (alkalinity && calcium) {
		const highest = alkalinity
			.map(({ day, mean }) => ({ day, omega: omegaAt(request.water, mean, calcium[day]?.mean ?? 0) ?? 0 }))
			.reduce((a, b) => (b.omega > a.omega ? b : a));
		if (highest.omega > NEAR_BOUND * OMEGA_TANK)
			risks.push({ kind: 'saturation', day: highest.day, numbers: { omega: highest.omega } });
	}
	const poured = steps.some((s) => s.kind === 'dose');
	if (poured && situation.volumeError > VAGUE_VOLUME)
		risks.push({ kind: 'volume', day: 0, numbers: { relative: situation.volumeError } });
	const creep = steps.reduce(
		(sum, s) => sum + (s.kind === 'dose' && s.parameter !== 'salinity' ? (s.changes?.['salinity'] ?? 0) : 0),
		0
	);
	if (creep > CREEP) risks.push({ kind: 'salt-creep', day: situation.days, numbers: { psu: creep } });
	return risks;
}
