import { badAll, good, nth, type Outcome, type Problem } from '../base';
import { addAt, cell, el } from '../statistics';
import { convert } from '../quantities';
import { parameterOf } from '../catalogue';
import { explain, isTest, type Explained } from './explain';
import { jointOf, marginal, processNoiseOf, TIED, type Coupling, type Joint, type Member } from './joint';
import type { Noise, State } from './kalman';
import { smoothedBy } from './paths';
import { forward, goOn, standingOf, type Standing } from './regimes';
import { lookedAt, report, type KnownTogether } from './trend';
import { COUPLED, type TankRequest, type TankResult } from './tank-schema';
import type { TrendRequest } from './schema';
import { inputsSince } from './water-events';

/** How coupled parameters may go together, and how likely each way is beforehand: apart, or by much or most, in ratios about skeleton's own. */
const APART = 0.1;
const SHARES = [
	{ share: 0.5, prior: 0.35 },
	{ share: 0.8, prior: 0.65 }
];
const RATIOS = [
	{ ratio: 0.75, prior: 0.2 },
	{ ratio: 1, prior: 0.6 },
	{ ratio: 1.3, prior: 0.2 }
];
const COUPLINGS: (Coupling & { prior: number })[] = [
	{ share: 0, ratio: 1, prior: APART },
	...SHARES.flatMap(({ share, prior: by }) =>
		RATIOS.map(({ ratio, prior }) => ({ share, ratio, prior: (1 - APART) * by * prior }))
	)
];
/** So many of the newest readings and events of all of them are looked at together. */
const WINDOW = 400;
/** From this chance on a test that its own past explains is named. */
const SUSPECT = 0.25;
/** Explanations of less than this chance are shared out among the others. */
const LEAST = 0.002;

/**
 * All parameters of a tank as one water: each as `trend` gives it, and alkalinity, calcium, magnesium and salinity together,
 * where the tests bear that out (Bayesian average over how much they have in common). A reading of one sharpens the others; a
 * test that fits its own past but not its neighbours is named (measurement test: Mah and Tamhane 1982). Units as in the
 * request; coupling in dKH and shares a day. Problems: as `trend`, with the parameter in the path.
 */
export function tank(request: TankRequest): Outcome<TankResult> {
	const { parameters, events = [], now, phase, horizonDays } = request;
	return asOneWater(
		Object.entries(parameters).map(([parameter, { unit, readings, band }]) => ({
			parameter,
			unit,
			readings,
			events: inputsSince(parameter, events, Math.min(...readings.map((r) => Date.parse(r.at)))),
			now,
			...(band ? { band } : {}),
			...(phase ? { phase } : {}),
			...(horizonDays ? { horizonDays } : {})
		}))
	);
}

/** The same of requests as `trend` takes them, all of one moment. */
export function asOneWater(requests: TrendRequest[]): Outcome<TankResult> {
	const problems: Problem[] = [];
	const explained: Record<string, Explained> = {};
	for (const request of requests) {
		const found = explain(request);
		if (found.ok) explained[request.parameter] = found.value;
		else
			problems.push(
				...found.problems.map((p) => ({ ...p, path: `/parameters/${request.parameter}${p.path}` }))
			);
	}
	if (problems.length) return badAll(problems);
	const together = coupled(explained);
	return good({
		parameters: Object.fromEntries(
			Object.entries(explained).map(([parameter, e]) => [parameter, report(e, together?.joint[parameter])])
		),
		coupling: together?.coupling ?? null,
		suspects: together?.suspects ?? []
	});
}

interface Together {
	joint: Record<string, KnownTogether>;
	coupling: NonNullable<TankResult['coupling']>;
	suspects: TankResult['suspects'];
}

function coupled(explained: Record<string, Explained>): Together | undefined {
	const members = COUPLED.flatMap((parameter): Member[] => {
		const e = explained[parameter];
		const unit = e && ownUnits(parameter, e.request.unit);
		return e && unit ? [{ parameter, explained: e, unit }] : [];
	});
	if (members.length < 2) return undefined;
	const { now } = nth(members, 0).explained;
	const ways = COUPLINGS.map(({ prior, ...coupling }) => {
		const joint = jointOf(members, coupling, WINDOW);
		const { water, start, nodes } = joint;
		const passage = forward(water, start, nodes);
		goOn(passage, water, now);
		return { joint, tracks: passage.tracks, log: Math.log(prior) + passage.logChance };
	});
	const top = Math.max(...ways.map((w) => w.log));
	const total = ways.reduce((sum, w) => sum + Math.exp(w.log - top), 0);
	const weighed = ways.map((w) => ({ ...w, weight: Math.exp(w.log - top) / total }));
	const best = weighed.reduce((a, b) => (b.weight > a.weight ? b : a));
	const { state } = best.tracks.reduce((a, b) => (b.log > a.log ? b : a));

	const noiseOf = (member: number): Noise => {
		const noise = { level: 0, drift: 0 };
		for (const { joint, weight } of weighed) {
			const stray = joint.share > 0 ? processNoiseOf(joint, member) : nth(members, member).explained.noise;
			noise.level += weight * stray.level;
			// Both are guesses of the same: where its own tests found it calmer, they are believed.
			noise.drift += weight * Math.min(stray.drift, nth(members, member).explained.noise.drift);
		}
		return noise;
	};
	const newest = Math.max(
		...members.filter((m) => TIED.includes(m.parameter)).map((m) => m.explained.tested)
	);
	const joint: Together['joint'] = {};
	const sharpened: Record<string, number> = {};
	const suspects: Together['suspects'] = [];
	for (const [i, { parameter, explained: own }] of members.entries()) {
		const present = whole(
			weighed.flatMap(({ joint, tracks, weight }) =>
				standingOf(tracks, i, (all) => marginal(joint, all, i)).map((s) => ({
					...s,
					weight: weight * s.weight
				}))
			)
		);
		const [likeliest] = own.tracks;
		const way = nth(smoothedBy({ ...own.model, nodes: lookedAt(own) }, own.noise, [likeliest!]), 0);
		const alone = way.states.at(-1)!;
		const together = meanOf(present);
		joint[parameter] = {
			present,
			way: { ...way, states: [...way.states.slice(0, -1), together] },
			noise: noiseOf(i),
			tested: TIED.includes(parameter) ? newest : own.tested
		};
		sharpened[parameter] = Math.max(
			0,
			1 - Math.sqrt(el(together.cov, 0) / Math.max(el(alone.cov, 0), 1e-30))
		);
		const { reading } = own.model.nodes.filter(isTest).at(-1)!;
		const probability = oddly(present, reading);
		if (
			probability >= SUSPECT &&
			oddly(
				standingOf(own.tracks, 0, (all) => all),
				reading
			) < SUSPECT
		)
			suspects.push({ parameter, index: reading, probability });
	}
	return {
		joint,
		coupling: {
			probability: weighed.filter((w) => w.joint.share > 0).reduce((sum, w) => sum + w.weight, 0),
			calcification: best.joint.share > 0 && calcifies(members) ? calcificationOf(best.joint, state) : null,
			ratio: ratioOf(weighed.map((w) => ({ ...w.joint, weight: w.weight }))),
			thinning: thinningOf(best.joint, state),
			sharpened
		},
		suspects
	};
}

/** The chance that a test is not to be taken as it stands: it is a misreading, or the water moved just before it. */
const oddly = (present: Standing[], reading: number): number =>
	present.reduce((sum, { weight, said }) => sum + (said.has(reading) ? weight : 0), 0);

/** Those that count, the likeliest first; what is given up is shared out. */
function whole(present: Standing[]): Standing[] {
	const kept = present.filter((p) => p.weight >= LEAST).sort((a, b) => b.weight - a.weight);
	const total = kept.reduce((sum, p) => sum + p.weight, 0);
	return kept.map((p) => ({ ...p, weight: p.weight / total }));
}

/** How many of a unit one of the parameter's own unit is; undefined where the unit is no plain multiple (specific gravity). */
function ownUnits(parameter: string, unit: string): number | undefined {
	const its = parameterOf(parameter);
	if (its?.unit === unit) return 1;
	if (!its || its.takenPerDkh === null) return undefined;
	const one = convert({ quantity: its.id, value: 1, from: its.unit, to: unit });
	return one.ok ? one.value.value : undefined;
}

/** Several explanations as one: their common mean and covariance. */
function meanOf(present: Standing[]): State {
	const mean = [0, 0];
	const cov = [0, 0, 0, 0];
	for (const { weight, state } of present) for (const i of [0, 1]) addAt(mean, i, weight * el(state.mean, i));
	for (const { weight, state } of present)
		for (const i of [0, 1])
			for (const j of [0, 1])
				addAt(
					cov,
					2 * i + j,
					weight *
						(el(state.cov, 2 * i + j) + (el(state.mean, i) - el(mean, i)) * (el(state.mean, j) - el(mean, j)))
				);
	return { mean, cov };
}

const calcificationOf = ({ calcification: g }: Joint, { mean, cov }: State) => ({
	alkalinityPerDay: el(mean, g),
	standardDeviation: Math.sqrt(Math.max(0, cell(cov, mean.length, g, g)))
});

/** Whether what takes alkalinity can be told from acid: skeleton takes calcium too. */
const calcifies = (members: Member[]): boolean =>
	['alkalinity', 'calcium'].every((p) => members.some((m) => m.parameter === p));

/** Of the ways in which they go together: the calcium that goes with a dKH, over what skeleton takes. */
function ratioOf(ways: { share: number; ratio: number; weight: number }[]) {
	const coupled = ways.filter((w) => w.share > 0);
	const total = coupled.reduce((sum, w) => sum + w.weight, 0) || 1;
	const mean = coupled.reduce((sum, w) => sum + (w.weight / total) * w.ratio, 0);
	const square = coupled.reduce((sum, w) => sum + (w.weight / total) * (w.ratio - mean) ** 2, 0);
	return { value: mean, standardDeviation: Math.sqrt(square) };
}

/** Change of salinity a day over its level; nothing known where it is not among them. */
function thinningOf({ salinity, water: { bodies } }: Joint, { mean, cov }: State) {
	if (salinity === undefined) return { perDay: 0, standardDeviation: 0 };
	const salt = nth(bodies, salinity);
	const level = Math.max(el(mean, salt.level), 1e-9);
	return {
		perDay: el(mean, salt.drift) / level,
		standardDeviation: Math.sqrt(Math.max(0, cell(cov, mean.length, salt.drift, salt.drift))) / level
	};
}
