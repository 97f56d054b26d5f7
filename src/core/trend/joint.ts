import { nth } from '../base';
import { parameterOf } from '../catalogue';
import { cell, el, zeros } from '../statistics';
import { isTest, type Explained } from './explain';
import type { Node } from './hypotheses';
import type { Noise, State } from './kalman';
import type { Body, Flow, Water } from './water';

/**
 * Several parameters as one water: levels, their own drifts, what calcification takes of all of them, and the offsets of their
 * kits, in one state. Calcification moves alkalinity, calcium and magnesium together; salinity thins or thickens
 * every dissolved thing in proportion. How far they do is a share of each one's own restlessness (0: each for itself), so that
 * together no parameter is more restless than its own tests found it.
 */

/** However well they go together, each keeps at least this share of its own variance. */
const LEAST_OWN = 0.08;
/** Calcium goes so closely by alkalinity that a test of either keeps both from being forgotten. */
export const TIED = ['alkalinity', 'calcium'];

/** One coupled parameter, in its own unit; `unit`: how many of the reading's units one of its own unit is. */
export interface Member {
	parameter: string;
	explained: Explained;
	unit: number;
}

/** How coupled parameters go together: what share of what they stray is common, and the calcium a dKH takes, as a part of what skeleton takes. */
export interface Coupling {
	share: number;
	ratio: number;
}

/** What a dKH of calcification takes of a parameter, and what a unit of salinity brings, in its reading unit. */
interface Ties {
	takes: number;
	thins: number;
}

export interface Joint extends Coupling {
	water: Water;
	start: State;
	nodes: Node[];
	ties: Ties[];
	/** Where the rate of calcification stands in the state. */
	calcification: number;
	/** Which of the parameters salinity is; undefined where it is none of them. */
	salinity: number | undefined;
}

/** The joint model of some parameters, by their newest `most` nodes, where `share` of what alkalinity (or the first) strays is common to all. */
export function jointOf(members: Member[], coupling: Coupling, most: number): Joint {
	const found = members.findIndex((m) => m.parameter === 'salinity');
	const salinity = found < 0 ? undefined : found;
	const ties = members.map((m) =>
		tiesOf(m, coupling, salinity === undefined ? undefined : nth(members, salinity))
	);
	const bodies = members.map(({ explained: { model } }, i): Body => ({
		level: 2 * i,
		drift: 2 * i + 1,
		dosing: model.dosing,
		moves: model.moves,
		usual: model.usual,
		floor: model.floor
	}));
	const { common, own } = processNoise(members, ties, coupling.share, salinity);
	const tied = members.flatMap((m, i) => (coupling.share > 0 && TIED.includes(m.parameter) ? [i] : []));
	const calcification = 2 * members.length;
	/** What is common is remembered as long as any of those it is common to. */
	const rememberedBy = (of: number[]): Pick<Flow, 'bodies' | 'usual'> => ({
		bodies: of,
		usual: of.map((b) => nth(bodies, b).usual).reduce((a, b) => (b.days > a.days ? b : a))
	});
	const flows = members.map((_, i): Flow => {
		const thinned =
			i === salinity ? ties.flatMap(({ thins }, body) => (thins ? [{ body, by: thins }] : [])) : [];
		return {
			drift: 2 * i + 1,
			acts: [{ body: i, by: 1 }, ...thinned],
			noise: nth(own, i),
			...rememberedBy(tied.includes(i) ? tied : [i])
		};
	});
	const taken = ties.flatMap(({ takes }, body) => (takes ? [{ body, by: -takes }] : []));
	if (taken.length)
		flows.push({
			drift: calcification,
			acts: taken,
			noise: common,
			...rememberedBy(taken.map((t) => t.body))
		});
	// The kits of each stand behind; in its own model they begin at 2.
	let size = calcification + 1;
	const kits = members.map(({ explained: { methods } }) => {
		size += methods.names.length;
		return size - methods.names.length - 2;
	});
	const nodes = members
		.flatMap(({ explained: { model } }, of) =>
			model.nodes.map((node): Node =>
				'offset' in node && node.offset
					? { ...node, offset: node.offset + el(kits, of), of }
					: { ...node, of }
			)
		)
		.sort((a, b) => a.at - b.at)
		.slice(-most);
	return {
		...coupling,
		water: { bodies, flows },
		start: begin(members, ties, coupling.share, nodes, size, kits),
		nodes,
		ties,
		calcification,
		salinity
	};
}

function tiesOf(m: Member, { share, ratio }: Coupling, salt: Member | undefined): Ties {
	if (share === 0) return { takes: 0, thins: 0 };
	const typical = (of: Member) => of.explained.model.usual.level;
	return {
		takes: (parameterOf(m.parameter)?.takenPerDkh ?? 0) * (m.parameter === 'alkalinity' ? 1 : ratio) * m.unit,
		thins: salt && m !== salt ? typical(m) / Math.max(typical(salt), 1e-9) : 0
	};
}

/** How much of what calcium strays is calcification's, where all of alkalinity's is. */
const TIED_BY = { level: 0.5, drift: 1 };

/** What strays a day, as variances: what is common by calcification and by salt, and what is each one's own. */
function processNoise(
	members: Member[],
	ties: Ties[],
	share: number,
	salinity: number | undefined
): { common: Noise; own: Noise[] } {
	const lead = ties.findIndex((t) => t.takes > 0);
	const of = (i: number) => nth(members, i).explained.noise;
	const per = lead < 0 ? 1 : nth(ties, lead).takes ** 2;
	const common =
		lead < 0
			? { level: 0, drift: 0 }
			: { level: (share * of(lead).level) / per, drift: (share * of(lead).drift) / per };
	const salt = salinity === undefined ? undefined : of(salinity);
	const own = members.map((m, i) => {
		const { takes, thins } = nth(ties, i);
		const rest = (kind: 'level' | 'drift') => {
			// Calcium goes by what calcification does, its day-to-day scatter by half; magnesium has more to go by.
			const tied = takes > 0 && m.parameter !== 'magnesium';
			const left = tied
				? (1 - TIED_BY[kind] * share) * of(i)[kind]
				: of(i)[kind] - takes * takes * common[kind];
			return Math.max(LEAST_OWN * of(i)[kind], left - thins * thins * (salt?.[kind] ?? 0));
		};
		return { level: rest('level'), drift: rest('drift') };
	});
	return { common, own };
}

/** What one of them will stray a day but for the salt, which swings about its mark ({@link marginal}). */
export function processNoiseOf({ water: { flows }, ties, calcification }: Joint, of: number): Noise {
	const own = nth(flows, of).noise;
	const { takes } = nth(ties, of);
	const common = flows.find((f) => f.drift === calcification)?.noise ?? { level: 0, drift: 0 };
	return {
		level: own.level + takes * takes * common.level,
		drift: own.drift + takes * takes * common.drift
	};
}

/** The state before the first node: each as its own model has it, with what is common of their first drifts. */
function begin(
	members: Member[],
	ties: Ties[],
	share: number,
	nodes: Node[],
	size: number,
	kits: number[]
): State {
	const mean = zeros(size);
	const cov = zeros(size * size);
	const lead = ties.findIndex((t) => t.takes > 0);
	const first =
		lead < 0
			? 0
			: (share * nth(members, lead).explained.model.start.driftSd ** 2) / nth(ties, lead).takes ** 2;
	cov[2 * members.length * (size + 1)] = first;
	for (const [i, m] of members.entries()) {
		const [level, drift] = [2 * i, 2 * i + 1];
		const { start } = m.explained.model;
		// The window may begin long after the parameter's first test: it is known no better than then.
		const test = nodes.find((n) => n.of === i && isTest(n));
		mean[level] = test?.kind === 'value' ? test.seen : start.level;
		cov[level * (size + 1)] = start.levelSd ** 2;
		cov[drift * (size + 1)] = Math.max(
			LEAST_OWN * start.driftSd ** 2,
			start.driftSd ** 2 - nth(ties, i).takes ** 2 * first
		);
		mean[drift] = start.drift;
		start.offsetSd.forEach((sd, k) => (cov[(el(kits, i) + 2 + k) * (size + 1)] = sd * sd));
	}
	return { mean, cov };
}

/**
 * Level and drift of one of them, all that moves it together, as a state of its own. Of what the salt is about to do as much is carried on
 * as is sure: a tank is topped up to its mark, and salinity swings about it, unless it drifts (shrunk as James and Stein 1961 do).
 */
export function marginal(
	{ water: { bodies }, ties, calcification: g, salinity }: Joint,
	{ mean, cov }: State,
	of: number
): State {
	const size = mean.length;
	const { level, drift } = nth(bodies, of);
	const { takes, thins } = nth(ties, of);
	const salt = salinity === undefined ? 0 : nth(bodies, salinity).drift;
	const moves = thins ? el(mean, salt) ** 2 : 0;
	const sure = moves > 0 ? Math.max(0, 1 - cell(cov, size, salt, salt) / moves) : 0;
	const rows: [number, number][] = [[drift, 1]];
	if (takes) rows.push([g, -takes]);
	if (sure > 0) rows.push([salt, sure * thins]);
	let [d, dd, ld] = [0, 0, 0];
	for (const [i, a] of rows) {
		d += a * el(mean, i);
		ld += a * cell(cov, size, level, i);
		for (const [j, b] of rows) dd += a * b * cell(cov, size, i, j);
	}
	return { mean: [el(mean, level), d], cov: [cell(cov, size, level, level), ld, ld, dd] };
}
