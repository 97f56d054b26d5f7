import { nth } from '../base';
import { dosedBetween, type Dosing, type Noise, type State, type Usual } from './kalman';

/**
 * How the water goes on in time, of one parameter or of several that are one water: dL = (d + dosing) dt + level noise,
 * dd = drift noise, where a drift may move more levels than its own. Far from the last test levels and drifts are drawn to what is usual: the
 * level to its usual mean and spread, its net change to nothing. Times in days.
 */

/** How far the water moves when it moves: standard deviations of a jump of the level, and of the drift a day. */
export interface Moves {
	level: number;
	drift: number;
}

/** One parameter in the water: where its level and its drift stand in the state, and what is known of it beforehand. */
export interface Body {
	level: number;
	drift: number;
	dosing: Dosing[];
	moves: Moves;
	usual: Usual;
	/** Nothing lies below it. */
	floor: number;
}

/** A drift, and the levels that it moves, each by so much; it is remembered from the newest test of any of `bodies` on, as `usual` has it. */
export interface Flow {
	drift: number;
	acts: { body: number; by: number }[];
	noise: Noise;
	bodies: number[];
	usual: Usual;
}

/** The first flows are the parameters' own drifts, in order; after them comes what is common to several. */
export interface Water {
	bodies: Body[];
	flows: Flow[];
}

/** Water of one parameter. */
export const waterAlone = (
	body: Pick<Body, 'dosing' | 'usual' | 'floor'> & { moves?: Moves },
	noise: Noise
): Water => ({
	bodies: [{ moves: { level: 0, drift: 0 }, ...body, level: 0, drift: 1 }],
	flows: [{ drift: 1, acts: [{ body: 0, by: 1 }], noise, bodies: [0], usual: body.usual }]
});

/** Longer steps are taken in parts, days: within one the share that is remembered changes little. */
const PART = 4;
/** Below this the tests are young and all of them is remembered. */
const YOUNG = 0.25;

/** What is left of what was known, over some days that begin `since` days after the last test: 1 at first, then less and less. */
function remembered(since: number, days: number, usual: Usual): number {
	if (since + days < YOUNG * usual.days) return 1;
	return Math.exp((since / usual.days) ** 4 - ((since + days) / usual.days) ** 4);
}

/** How a state came from the one before: x = F·x + …, in parts, and what of each level then stays. */
export interface Transition {
	/** Of each its days, and what of every flow is remembered. */
	parts: { days: number; kept: number[] }[];
	/** What is dosed a day, of each parameter. */
	rates: number[];
	/** Share of each level (and of all that goes with it) that a water change or the floor leaves; 1 where there is none. */
	rest: number[];
}

/** The step between two moments; `tested`: when each parameter was tested last. */
export function transitionOf(
	{ bodies, flows }: Water,
	from: number,
	to: number,
	tested: number[]
): Transition {
	const days = to - from;
	const rest = new Array<number>(bodies.length).fill(1);
	const rates = bodies.map(({ dosing }) =>
		days > 0 && dosing.length ? dosedBetween(dosing, from, to) / days : 0
	);
	if (!(days > 0)) return { parts: [], rates, rest };
	const since = flows.map((f) => {
		let newest = -Infinity;
		for (const b of f.bodies) newest = Math.max(newest, tested[b]!);
		return from - newest;
	});
	let young = true;
	for (let f = 0; f < flows.length; f++) young &&= since[f]! + days < YOUNG * flows[f]!.usual.days;
	const count = young ? 1 : Math.ceil(days / PART);
	const part = days / count;
	const parts = Array.from({ length: count }, (_, p) => ({
		days: part,
		kept: since.map((s, f) => remembered(s + p * part, part, nth(flows, f).usual))
	}));
	return { parts, rates, rest };
}

/** Moves a state on, in place. */
export function predict({ mean, cov }: State, water: Water, { parts, rates }: Transition): void {
	const { bodies, flows } = water;
	const size = mean.length;
	for (const part of parts) {
		const { days, kept } = part;
		// x' = F·x + B·u: F keeps `kept` of each level and drift and adds `days` of drift to a level; u is what is usual and what is dosed.
		// P' = F·P·Fᵀ + Q: `shear` on both sides, then `stray` adds Q, what level and drift stray in this time.
		bodies.forEach(({ level, usual }, b) => {
			const k = kept[b]!;
			mean[level] = usual.level + k * (mean[level]! - usual.level) + days * k * rates[b]!;
		});
		for (const { drift, acts } of flows)
			for (const { body, by } of acts) mean[bodies[body]!.level]! += days * kept[body]! * by * mean[drift]!;
		flows.forEach(({ drift }, f) => {
			const rate = rates[f] ?? 0;
			mean[drift] = kept[f]! * (mean[drift]! + rate) - rate;
		});
		shear(cov, size, size, 1, water, part);
		shear(cov, size, 1, size, water, part);
		stray(cov, size, water, part);
	}
}

/** F·M, where `along` steps from row to row of the matrix and `across` within one; the other way round M·Fᵀ. In place. */
function shear(
	matrix: number[],
	size: number,
	along: number,
	across: number,
	{ bodies, flows }: Water,
	{ days, kept }: Transition['parts'][number]
): void {
	const end = size * across;
	for (let b = 0; b < bodies.length; b++) scaleRow(matrix, bodies[b]!.level * along, across, end, kept[b]!);
	for (const { drift, acts } of flows) {
		const from = drift * along;
		for (const { body, by } of acts) {
			const to = bodies[body]!.level * along;
			const share = days * kept[body]! * by;
			for (let j = 0; j < end; j += across) matrix[to + j]! += share * matrix[from + j]!;
		}
	}
	for (let f = 0; f < flows.length; f++) scaleRow(matrix, flows[f]!.drift * along, across, end, kept[f]!);
}

function scaleRow(matrix: number[], row: number, across: number, end: number, by: number): void {
	if (by !== 1) for (let j = 0; j < end; j += across) matrix[row + j]! *= by;
}

/** What the water strays in a part. It is forgotten like all else (the mean of kept² over the part); what is usual takes its place. */
function stray(
	cov: number[],
	size: number,
	{ bodies, flows }: Water,
	{ days, kept }: Transition['parts'][number]
): void {
	flows.forEach(({ drift, acts, noise }, f) => {
		const k = kept[f]!;
		const time = k === 1 ? days : (days * (1 - k * k)) / (-2 * Math.log(k));
		const both = (noise.drift * days * time) / 2;
		const own = noise.level * time + (noise.drift * days * days * time) / 3;
		cov[drift * (size + 1)]! += noise.drift * time;
		for (const { body, by } of acts) {
			const row = bodies[body]!.level * size;
			cov[row + drift]! += by * both;
			cov[drift * size + bodies[body]!.level]! += by * both;
			for (const other of acts) cov[row + bodies[other.body]!.level]! += by * other.by * own;
		}
	});
	bodies.forEach(({ level, usual }, b) => {
		const k = kept[b]!;
		if (k !== 1) cov[level * (size + 1)]! += usual.sd ** 2 * (1 - k * k);
	});
}

/** Covariance of a state with what is predicted from it: cov · Fᵀ. */
export function crossOf(cov: number[], size: number, water: Water, { parts, rest }: Transition): number[] {
	const cross = cov.slice();
	for (const part of parts) shear(cross, size, 1, size, water, part);
	rest.forEach((share, b) => {
		const { level } = nth(water.bodies, b);
		scaleRow(cross, level, size, size * size, share);
	});
	return cross;
}
