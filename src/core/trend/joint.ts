import { nth } from '../nth';
import { CALCIUM_PER_DKH, ATOM } from '../quantities';
import { addAt, addToCell, cell, el, zeros } from '../statistics';
import { clamp, dosedBetween, rateAt, seenBy, type Noise, type State } from './kalman';
import { add, addedBy, happen, missingOf, movesIn, see, type Node, type Regime } from './hypotheses';
import { saidBy } from './regimes';
import { isTest, type Explained, type Test } from './explain';

/**
 * Several parameters as one water: levels, their own drifts, what calcification takes of all of them, and the offsets of their
 * kits, in one Kalman filter. Calcification moves alkalinity, calcium and magnesium together; salinity thins or thickens
 * every dissolved thing in proportion. How far they do is a share of each one's own restlessness (0: each for itself), so that
 * together no parameter is more restless than its own tests found it.
 */

/** Magnesium built into skeleton and coralline algae, as a share of the calcium, by amount: about a tenth. */
const MAGNESIUM_SHARE = 0.1;
/** What a dKH of calcification takes, in each parameter's own unit. */
export const TAKES: Record<string, number> = {
	alkalinity: 1,
	calcium: CALCIUM_PER_DKH,
	magnesium: (CALCIUM_PER_DKH / ATOM.Ca) * ATOM.Mg * MAGNESIUM_SHARE
};
/** However well they go together, each keeps at least this share of its own variance. */
const LEAST_OWN = 0.08;

/** One coupled parameter, in its own unit; `unit`: how many of the reading's units one of its own unit is. */
export interface Member {
	parameter: string;
	explained: Explained;
	unit: number;
}

interface Place {
	level: number;
	drift: number;
	/** Of each kit, by its number in the parameter's own model less 2. */
	offsets: number;
	/** What a dKH of calcification takes, and what a unit of salinity brings, in the parameter's reading unit. */
	takes: number;
	thins: number;
}

export interface Joint {
	members: Member[];
	places: Place[];
	size: number;
	calcification: number;
	/** Where salinity's level stands among the states; undefined where it is not among the members. */
	salinity: number | undefined;
	nodes: { member: number; node: Node }[];
	said: Map<number, Regime>[];
	share: number;
	ratio: number;
}

/** How coupled parameters go together: what share of what they stray is common, and the calcium a dKH takes, as a part of what skeleton takes. */
export interface Coupling {
	share: number;
	ratio: number;
}

/** The joint model of some parameters in which `share` of what alkalinity (or the first) strays is common to all. */
export function jointOf(members: Member[], { share, ratio }: Coupling, most: number): Joint {
	const salt = members.findIndex((m) => m.parameter === 'salinity');
	const typical = (m: Member) => m.explained.model.usual.level;
	let size = 0;
	const places = members.map((m): Place => {
		const level = size;
		size += 2;
		return {
			level,
			drift: level + 1,
			offsets: 0,
			takes: share > 0 ? (TAKES[m.parameter] ?? 0) * (m.parameter === 'alkalinity' ? 1 : ratio) * m.unit : 0,
			thins:
				share > 0 && salt >= 0 && m.parameter !== 'salinity'
					? typical(m) / Math.max(typical(nth(members, salt)), 1e-9)
					: 0
		};
	});
	const calcification = size++;
	for (const [i, m] of members.entries()) {
		nth(places, i).offsets = size;
		size += m.explained.methods.names.length;
	}
	const nodes = members
		.flatMap((m, member) => m.explained.model.nodes.map((node) => ({ member, node })))
		.sort((a, b) => a.node.at - b.node.at)
		.slice(-most);
	return {
		members,
		places,
		size,
		calcification,
		salinity: salt >= 0 ? nth(places, salt).level : undefined,
		nodes,
		said: members.map((m) => saidBy(nth(m.explained.tracks, 0))),
		share,
		ratio
	};
}

/** How much of what calcium strays is calcification's, where all of alkalinity's is. */
const TIED = { level: 0.5, drift: 1 };

/** What strays a day, as variances: what is common by calcification and by salt, and what is each one's own. */
function processNoise({ members, places, share, salinity }: Joint): { common: Noise; own: Noise[] } {
	const lead = members.findIndex((_, i) => nth(places, i).takes > 0);
	const of = (i: number) => nth(members, i).explained.noise;
	const per = lead < 0 ? 1 : nth(places, lead).takes ** 2;
	const common =
		lead < 0
			? { level: 0, drift: 0 }
			: { level: (share * of(lead).level) / per, drift: (share * of(lead).drift) / per };
	const salt = salinity === undefined ? undefined : of(members.findIndex((m) => m.parameter === 'salinity'));
	const own = members.map((m, i) => {
		const { takes, thins } = nth(places, i);
		const rest = (kind: 'level' | 'drift') => {
			// Calcium goes by what calcification does, its day-to-day scatter by half; magnesium has more to go by.
			const tied = takes > 0 && m.parameter !== 'magnesium';
			const left = tied ? (1 - TIED[kind] * share) * of(i)[kind] : of(i)[kind] - takes * takes * common[kind];
			return Math.max(LEAST_OWN * of(i)[kind], left - thins * thins * (salt?.[kind] ?? 0));
		};
		return { level: rest('level'), drift: rest('drift') };
	});
	return { common, own };
}

/** What one member will stray a day but for the salt, which swings about its mark ({@link marginal}). */
export function processNoiseOf(joint: Joint, member: number): Noise {
	const { common, own } = processNoise(joint);
	const { takes } = nth(joint.places, member);
	const of = (kind: 'level' | 'drift') => nth(own, member)[kind] + takes * takes * common[kind];
	return { level: of('level'), drift: of('drift') };
}

/** The state before the first node: each as its own model has it, with what is common of their first drifts. */
function begin(joint: Joint): State {
	const { members, places, size, calcification, share, nodes } = joint;
	const mean = zeros(size);
	const cov = zeros(size * size);
	const lead = members.findIndex((_, i) => nth(places, i).takes > 0);
	const first =
		lead < 0
			? 0
			: (share * nth(members, lead).explained.model.start.driftSd ** 2) / nth(places, lead).takes ** 2;
	cov[calcification * (size + 1)] = first;
	for (const [i, m] of members.entries()) {
		const { level, drift, offsets, takes } = nth(places, i);
		const { start } = m.explained.model;
		// The window may begin long after the parameter's first test: it is known no better than then.
		const test = nodes.find((n) => n.member === i && isTest(n.node))?.node;
		mean[level] = test?.kind === 'value' ? test.seen : start.level;
		cov[level * (size + 1)] = start.levelSd ** 2;
		cov[drift * (size + 1)] = Math.max(
			LEAST_OWN * start.driftSd ** 2,
			start.driftSd ** 2 - takes * takes * first
		);
		mean[drift] = start.drift;
		start.offsetSd.forEach((sd, k) => (cov[(offsets + k) * (size + 1)] = sd * sd));
	}
	return { mean, cov };
}

/** Moves the state on by some days, in place: levels by their own drifts, by calcification, and by what the salt does. */
function predict(
	joint: Joint,
	{ mean, cov }: State,
	from: number,
	days: number,
	noise: ReturnType<typeof processNoise>
): void {
	const { members, places, size, calcification: g, salinity } = joint;
	const salt = salinity === undefined ? -1 : salinity + 1;
	for (const [i, m] of members.entries()) {
		const { level, drift, takes, thins } = nth(places, i);
		const dosed = dosedBetween(m.explained.model.dosing, from, from + days);
		addAt(
			mean,
			level,
			days * (el(mean, drift) - takes * el(mean, g) + (thins ? thins * el(mean, salt) : 0)) + dosed
		);
	}
	// F has ones on its diagonal; row by row, then column by column.
	for (const { level, drift, takes, thins } of places)
		for (let j = 0; j < size; j++)
			addToCell(
				cov,
				size,
				level,
				j,
				days *
					(cell(cov, size, drift, j) -
						takes * cell(cov, size, g, j) +
						(thins ? thins * cell(cov, size, salt, j) : 0))
			);
	for (const { level, drift, takes, thins } of places)
		for (let i = 0; i < size; i++)
			addToCell(
				cov,
				size,
				i,
				level,
				days *
					(cell(cov, size, i, drift) -
						takes * cell(cov, size, i, g) +
						(thins ? thins * cell(cov, size, i, salt) : 0))
			);
	const add = (i: number, j: number, x: number) => {
		addToCell(cov, size, i, j, x);
		if (i !== j) addToCell(cov, size, j, i, x);
	};
	/** A drift that strays by q a day, acting on levels by `acts`. */
	const stray = (drift: number, acts: [level: number, by: number][], level: number, q: number) => {
		add(drift, drift, q * days);
		for (const [k, [at, by]] of acts.entries()) {
			add(at, drift, (by * q * days * days) / 2);
			for (const [other, others] of acts.slice(k))
				add(at, other, by * others * (level * days + (q * days ** 3) / 3));
		}
	};
	stray(
		g,
		places.filter((p) => p.takes > 0).map((p) => [p.level, -p.takes]),
		noise.common.level,
		noise.common.drift
	);
	for (const [i, place] of places.entries()) {
		const acts: [number, number][] = [[place.level, 1]];
		if (nth(members, i).parameter === 'salinity')
			for (const p of places) if (p.thins) acts.push([p.level, p.thins]);
		stray(place.drift, acts, nth(noise.own, i).level, nth(noise.own, i).drift);
	}
}

interface Seen {
	/** Logarithm of the chance of all tests. */
	logChance: number;
	state: State;
	at: number;
}

/** Where the offset of a reading's kit stands in the joint state; 0: a kit without. */
const offsetOf = (joint: Joint, member: number, node: Test): number =>
	node.offset ? nth(joint.places, member).offsets + node.offset - 2 : 0;

/** What the joint state expects of a test: mean and variance without the test's own error. */
export const expectedOf = (joint: Joint, state: State, member: number, node: Test) =>
	seenBy(state, offsetOf(joint, member, node), nth(joint.places, member).level);

/**
 * One way through time to `until`; `without` leaves one test out. Tests are explained as each parameter's likeliest explanation
 * has them.
 */
export function jointForward(joint: Joint, until: number, without?: Test): Seen {
	const { members, places, nodes, said } = joint;
	const state = begin(joint);
	const noise = processNoise(joint);
	let at = nodes[0]?.node.at ?? until;
	let logChance = 0;
	/** Of each member what of its dosing does not arrive, and when it was tested last. */
	const missing = zeros(members.length);
	const tested = members.map(() => at);
	for (const { member, node } of nodes) {
		if (node.at > until) break;
		if (node.at > at) predict(joint, state, at, node.at - at, noise);
		at = node.at;
		const { level, drift } = nth(places, member);
		const { floor, moves, dosing } = nth(members, member).explained.model;
		clamp(state, floor, level);
		if (node === without) continue;
		if (node.kind === 'value' || node.kind === 'between') {
			const regime = nth(said, member).get(node.reading) ?? 'as before';
			const rate = rateAt(dosing, at);
			add(state, addedBy(regime, moves, at - el(tested, member), rate), level, drift);
			if (movesIn(regime) === 'dosing') missing[member] = missingOf(regime, rate);
			tested[member] = at;
			logChance += see(state, node, regime, level, offsetOf(joint, member, node));
		} else {
			const track = { state, missing: el(missing, member) };
			happen(track, node, level, drift);
			missing[member] = track.missing;
		}
	}
	if (until > at) predict(joint, state, at, until - at, noise);
	return { logChance, state, at: until };
}

/**
 * Level and drift of one member, all that moves it together, as a state of its own. Of what the salt is about to do as much is carried on
 * as is sure: a tank is topped up to its mark, and salinity swings about it, unless it drifts (shrunk as James and Stein 1961 do).
 */
export function marginal(joint: Joint, { mean, cov }: State, member: number): State {
	const { size, calcification: g } = joint;
	const { level, drift, takes, thins } = nth(joint.places, member);
	const salt = joint.salinity === undefined ? 0 : joint.salinity + 1;
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
