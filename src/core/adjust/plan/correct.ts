import { good, nth, type Outcome } from '../../base';
import { bestOf } from './best';
import { verdictOn } from './check';
import { follow } from './follow';
import { CAREFUL } from './limits';
import { risksOf } from './risks';
import type { CorrectRequest, CorrectResult, PlanStep } from './schema';
import type { TopUp } from './given';
import type { Level } from './level';
import { situationOf, type Situation } from './situation';
import type { Solver } from './solver';
import { inOrder, outside, testsOf, withWaits } from './steps';
import { WEIGHTS } from './weights';

/**
 * One plan that brings all parameters home: what to pour, change and test on which day, the levels it is expected to give, what it
 * refuses and risks, and what it costs. A mixed-integer linear programme (see `programme.ts`) between rules that are
 * in closed form (salinity first, dosing pumps by use). Problems: as `situationOf`.
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
	const { steps, risks, safe, testBy, low } = made;
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
			// What stays in its band by the check lacks no bottle.
			refused && (refused !== 'no-supplement' || low.includes(parameter)) ? [{ parameter, why: refused }] : []
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

/** The first day of harm; none: beyond all days. */
const harmFrom = ({ risks, safe }: Pick<CorrectResult, 'risks' | 'safe'>): number =>
	safe ? Infinity : Math.min(...risks.filter((r) => r.kind === 'alarm').map((r) => r.day));

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
