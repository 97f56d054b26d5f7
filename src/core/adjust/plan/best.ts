import { costOf, isBorne, NO_CHANGE, waysOfChanging, type Changing } from './changing';
import { ONE } from './names';
import { programmeOf } from './programme';
import type { CorrectRequest, PlanStep } from './schema';
import type { Situation } from './situation';
import type { Solver } from './solver';
import { actsOf } from './steps';
import { WEIGHTS } from './weights';

/**
 * Where the search for the fewest pours ends: gap and nodes, never a clock, so that a busy machine makes the same plan as an idle one.
 * Other programmes are linear and end by themselves.
 */
const LIMITS = { mip_rel_gap: 0.01, mip_max_nodes: 20, output_flag: false };
/** Ways of changing water for which the fewest pours are searched: each takes some tenths of a second in a large plan. */
const MOST_SEARCHED = 2;

/**
 * What is to be poured and changed: the best of the programmes of all ways of changing water. A way whose bound is no better than what was
 * found is left out: what it weighs by itself, or, where trips count, its relaxed programme (branch and bound, Land & Doig 1960).
 */
export function bestOf(
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
