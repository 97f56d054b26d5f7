import { nth } from '../nth';
import { addAt, cell, el } from '../statistics';
import { badAll, good, type Outcome, type Problem } from '../problems';
import { convert, isQuantity, parameterOf } from '../quantities';
import {
	expectedOf,
	jointForward,
	jointOf,
	marginal,
	processNoiseOf,
	TAKES,
	type Coupling,
	type Joint,
	type Member
} from './joint';
import { MOVE_KNOWN, SLIP, SLIP_ERRORS } from './hypotheses';
import { logDensity } from './moments';
import type { Noise, State } from './kalman';
import { smoothedBy } from './paths';
import { explain, isTest, type Explained, type Test } from './explain';
import type { Present } from './outlook';
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
/** And so many where one test is judged by its neighbours. */
const NEAR = 150;
/** Explanations of a parameter's own tests other than the likeliest weigh less than this together, or it stands for itself. */
const SETTLED = 0.15;
/** After so many days without a test of any of them, each falls back on what is usual for it. */
const JOINT_DAYS = 35;
/** Calcium goes so closely by alkalinity that a test of either keeps both from being forgotten. */
const TIED = ['alkalinity', 'calcium'];
/** From this chance on a slip is named. */
const SUSPECT = 0.25;

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
		return e && unit && isSettled(e) ? [{ parameter, explained: e, unit }] : [];
	});
	const now = members[0]?.explained.now ?? 0;
	const tested = Math.max(...members.map((m) => m.explained.tested));
	if (members.length < 2 || now - tested > JOINT_DAYS) return undefined;
	const ways = COUPLINGS.map(({ prior, ...coupling }) => {
		const joint = jointOf(members, coupling, WINDOW);
		const { logChance, state } = jointForward(joint, now);
		return { joint, prior, state, log: Math.log(prior) + logChance };
	});
	const top = Math.max(...ways.map((w) => w.log));
	const total = ways.reduce((sum, w) => sum + Math.exp(w.log - top), 0);
	const weighed = ways.map((w) => ({ ...w, weight: Math.exp(w.log - top) / total }));
	const best = nth(
		[...weighed].sort((a, b) => b.weight - a.weight),
		0
	);
	const newest = members.map((m) => m.explained.model.nodes.filter(isTest).at(-1)!);
	const near = COUPLINGS.map(({ prior, ...coupling }) => ({
		joint: jointOf(members, coupling, NEAR),
		prior
	}));
	const doubts = members.map((_, i) => doubtOf(near, i, nth(newest, i)));

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
	const joint: Together['joint'] = {};
	const sharpened: Record<string, number> = {};
	for (const [i, m] of members.entries()) {
		const { missing, moved } = nth(m.explained.tracks, 0);
		const as = { missing, still: moved?.tests ?? Infinity };
		const present: Present = weighed.map(({ joint, state, weight }) => ({
			weight,
			state: marginal(joint, state, i),
			...as
		}));
		const doubt = el(doubts, i);
		if (doubt >= SUSPECT) {
			// The test may be a slip: then what is known of the level is what all the others say.
			for (const part of present) part.weight *= 1 - doubt;
			present.push({
				weight: doubt,
				state: marginal(best.joint, jointForward(best.joint, now, newest[i]).state, i),
				...as
			});
		}
		const own = nth(
			smoothedBy({ ...m.explained.model, nodes: lookedAt(m.explained) }, m.explained.noise, [
				nth(m.explained.tracks, 0)
			]),
			0
		);
		const alone = own.states.at(-1)!;
		const whole = meanOf(present);
		joint[m.parameter] = {
			present,
			way: { ...own, states: [...own.states.slice(0, -1), whole] },
			noise: noiseOf(i),
			tested: TIED.includes(m.parameter) ? tested : m.explained.tested
		};
		sharpened[m.parameter] = Math.max(0, 1 - Math.sqrt(el(whole.cov, 0) / Math.max(el(alone.cov, 0), 1e-30)));
	}
	return {
		joint,
		coupling: {
			probability: weighed.filter((w) => w.joint.share > 0).reduce((sum, w) => sum + w.weight, 0),
			calcification:
				best.joint.share > 0 && calcifies(members) ? calcificationOf(best.joint, best.state) : null,
			ratio: ratioOf(weighed.map((w) => ({ ...w.joint, weight: w.weight }))),
			thinning: thinningOf(best.joint, best.state),
			sharpened
		},
		suspects: members.flatMap((m, i) =>
			el(doubts, i) >= SUSPECT
				? [{ parameter: m.parameter, index: nth(newest, i).reading, probability: el(doubts, i) }]
				: []
		)
	};
}

/** How many of a unit one of the parameter's own unit is; undefined where the unit is no plain multiple (specific gravity). */
function ownUnits(parameter: string, unit: string): number | undefined {
	const own = parameterOf(parameter)?.unit;
	if (own === unit) return 1;
	if (!own || !isQuantity(parameter) || parameter === 'salinity' || TAKES[parameter] === undefined)
		return undefined;
	const one = convert({ quantity: parameter, value: 1, from: own, to: unit });
	return one.ok ? one.value.value : undefined;
}

/** Whether a parameter's own tests have one explanation: an odd test, or water that just moved, is for its own model. */
const isSettled = ({ tracks }: Explained): boolean => {
	const [first, ...others] = tracks;
	const regime = first!.said?.regime;
	return (
		regime === 'as before' &&
		(first!.moved?.tests ?? Infinity) >= MOVE_KNOWN &&
		others
			.filter((t) => t.said?.regime !== 'as before' || (t.moved?.tests ?? Infinity) < MOVE_KNOWN)
			.reduce((sum, t) => sum + Math.exp(t.log), 0) < SETTLED
	);
};

/**
 * The chance that a test is a slip, as its neighbours have it; how far they go together is judged without it. What was tested
 * the same evening counts, whichever came first.
 */
function doubtOf(joints: { joint: Joint; prior: number }[], member: number, node: Test): number {
	if (node.kind !== 'value') return 0;
	const ways = joints.map(({ joint, prior }) => {
		const { state, logChance } = jointForward(joint, node.at + EVENING, node);
		const { mean, variance } = expectedOf(joint, state, member, node);
		// A wrong column would be seen by its own past: what only the neighbours see is off by errors.
		const by = (noise: number) => logDensity(node.seen - mean, variance + noise);
		return {
			log: Math.log(prior) + logChance,
			honest: by(node.noise),
			slip: by(SLIP_ERRORS ** 2 * node.noise)
		};
	});
	const top = Math.max(...ways.map((w) => w.log));
	let [honest, slip] = [0, 0];
	for (const w of ways) {
		honest += (1 - SLIP) * Math.exp(w.log - top + w.honest);
		slip += SLIP * Math.exp(w.log - top + w.slip);
	}
	return slip / Math.max(honest + slip, 1e-300);
}
/** Tests of one evening lie within so many days. */
const EVENING = 0.2;

/** Several explanations as one: their common mean and covariance. */
function meanOf(present: Present): State {
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

const calcificationOf = ({ calcification: g, size }: Joint, { mean, cov }: State) => ({
	alkalinityPerDay: el(mean, g),
	standardDeviation: Math.sqrt(Math.max(0, cell(cov, size, g, g)))
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
function thinningOf({ salinity, size }: Joint, { mean, cov }: State) {
	if (salinity === undefined) return { perDay: 0, standardDeviation: 0 };
	const level = Math.max(el(mean, salinity), 1e-9);
	const drift = salinity + 1;
	return {
		perDay: el(mean, drift) / level,
		standardDeviation: Math.sqrt(Math.max(0, cell(cov, size, drift, drift))) / level
	};
}
