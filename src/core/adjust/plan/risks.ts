import { MOST_PORTIONS, OMEGA_TANK } from '../pour';
import { omegaAt } from './saturation';
import type { CorrectRequest, CorrectResult, PlanStep } from './schema';
import type { Situation } from './situation';
import { LEAST_POUR } from './steps';

/** Saturation this near to its bound is told. */
const NEAR_BOUND = 0.9;
/** A net volume known worse than this keeps pours small enough to say so. */
const VAGUE_VOLUME = 0.08;
/** What is left behind may thicken the water by this much before it is told, PSU. */
const CREEP = 0.3;

/** Glasses that were moved by hand and are not there in whole on their new day: what goes in of what was wanted, and what lacks of a healthy day. */
export function shortOf({ moves = [] }: CorrectRequest, { pourables }: Situation, steps: PlanStep[]) {
	return moves.flatMap(({ supplement, to, amount = 1 }) => {
		const pourable = pourables.find((s) => s.id === supplement);
		const kind = pourable ? 'dose' : 'water-change';
		const there = steps.find((s) => s.day === to && s.kind === kind && s.supplement === supplement);
		const got = pourable ? (there?.amount ?? 0) : there ? 1 : 0;
		const share = (amount - got) / (pourable?.most ?? 1);
		return share > 0 ? [{ supplement, to, wanted: amount, got, share }] : [];
	});
}

/** What is to be minded of a plan beside what its levels say (`check.ts`). */
export function risksOf(
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
