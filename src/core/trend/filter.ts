import { seenBetween, seenValue } from './moments';

/** Something that happens to the estimate at one moment. Times in days. */
export type Node =
	| { at: number; kind: 'look' }
	| { at: number; kind: 'value'; seen: number; noise: number; offset: number; reading: number }
	| { at: number; kind: 'between'; low: number; high: number; noise: number; offset: number; reading: number }
	| { at: number; kind: 'dose'; change: number; variance: number }
	| { at: number; kind: 'change'; fraction: number; newWater: number; variance: number };

/** A stretch in which so much is dosed a day. */
export interface Dosing {
	from: number;
	perDay: number;
}

/** How much the level, and its drift, stray: variances that one day adds. */
export interface Noise {
	level: number;
	drift: number;
}

/** The quantities followed: level, drift without dosing, and one offset for each method. */
export interface Model {
	/** In order of time. */
	nodes: Node[];
	dosing: Dosing[];
	/** Level and drift at the first node, standard deviations, and the trueness of each method. */
	start: { level: number; levelSd: number; driftSd: number; offsetSd: number[] };
}

/** Means and covariances (row by row) before and after each node. */
export interface Passage {
	size: number;
	logChance: number;
	before: Float64Array[];
	beforeCov: Float64Array[];
	after: Float64Array[];
	afterCov: Float64Array[];
	/** Days since the node before. */
	step: number[];
	/** Of each reading, by its number: the chance that it was honest. */
	honest: Map<number, number>;
}

/** What is dosed between two moments. */
export function dosedBetween(dosing: Dosing[], from: number, to: number): number {
	let sum = 0;
	for (let i = 0; i < dosing.length; i++) {
		const begin = Math.max(from, dosing[i]!.from);
		const end = Math.min(to, dosing[i + 1]?.from ?? Infinity);
		if (end > begin) sum += dosing[i]!.perDay * (end - begin);
	}
	return sum;
}

/**
 * One way through time from the first node to the last: predict, then take in what was seen. Level L and drift d follow
 * dL = (d + dosing) dt + level noise, dd = drift noise; offsets stay. With `keep` every mean and covariance is remembered
 * for the way back.
 */
export function forward(model: Model, noise: Noise, keep: boolean): Passage {
	const { nodes, dosing, start } = model;
	const size = 2 + start.offsetSd.length;
	const mean = new Float64Array(size);
	const cov = new Float64Array(size * size);
	mean[0] = start.level;
	cov[0] = start.levelSd ** 2;
	cov[size + 1] = start.driftSd ** 2;
	start.offsetSd.forEach((sd, i) => (cov[(2 + i) * (size + 1)] = sd * sd));
	const passage: Passage = {
		size,
		logChance: 0,
		before: [],
		beforeCov: [],
		after: [],
		afterCov: [],
		step: [],
		honest: new Map()
	};
	let now = nodes[0]?.at ?? 0;
	let stretch = 0;
	const gain = new Float64Array(size);
	for (const node of nodes) {
		const days = node.at - now;
		if (days > 0) {
			while (stretch + 1 < dosing.length && dosing[stretch + 1]!.from <= now) stretch++;
			const one = stretch + 1 >= dosing.length || dosing[stretch + 1]!.from >= node.at;
			const dosed =
				one && (dosing[stretch]?.from ?? Infinity) <= now
					? dosing[stretch]!.perDay * days
					: dosedBetween(dosing, now, node.at);
			predict(mean, cov, size, days, dosed, noise);
		}
		now = node.at;
		if (keep) {
			passage.before.push(mean.slice());
			passage.beforeCov.push(cov.slice());
			passage.step.push(Math.max(0, days));
		}
		if (node.kind === 'dose') {
			mean[0]! += node.change;
			cov[0]! += node.variance;
		} else if (node.kind === 'change') {
			const rest = 1 - node.fraction;
			mean[0] = rest * mean[0]! + node.fraction * node.newWater;
			for (let j = 1; j < size; j++) {
				cov[j]! *= rest;
				cov[j * size]! *= rest;
			}
			cov[0] = rest * rest * cov[0]! + node.fraction * node.fraction * node.variance;
		} else if (node.kind !== 'look') {
			const o = node.offset;
			// The quantity seen is level and offset together.
			for (let i = 0; i < size; i++) gain[i] = cov[i * size]! + (o ? cov[i * size + o]! : 0);
			const variance = gain[0]! + (o ? gain[o]! : 0);
			const expected = mean[0]! + (o ? mean[o]! : 0);
			const update =
				node.kind === 'value'
					? seenValue(expected, variance, node.seen, node.noise)
					: seenBetween(expected, variance, node.low, node.high, node.noise);
			passage.logChance += update.logChance;
			passage.honest.set(node.reading, update.honest);
			const shift = (update.mean - expected) / variance;
			const shrink = (update.variance - variance) / (variance * variance);
			for (let i = 0; i < size; i++) mean[i]! += gain[i]! * shift;
			for (let i = 0; i < size; i++)
				for (let j = 0; j < size; j++) cov[i * size + j]! += gain[i]! * gain[j]! * shrink;
		}
		if (keep) {
			passage.after.push(mean.slice());
			passage.afterCov.push(cov.slice());
		}
	}
	if (!keep) {
		passage.after.push(mean);
		passage.afterCov.push(cov);
	}
	return passage;
}

/** Moves mean and covariance on by some days, in place. */
export function predict(
	mean: Float64Array,
	cov: Float64Array,
	size: number,
	days: number,
	dosed: number,
	noise: Noise
): void {
	mean[0]! += mean[1]! * days + dosed;
	// The level's row and column take the drift's, times the days.
	for (let j = 0; j < size; j++) cov[j]! += days * cov[size + j]!;
	for (let i = 0; i < size; i++) cov[i * size]! += days * cov[i * size + 1]!;
	cov[0]! += noise.level * days + (noise.drift * days ** 3) / 3;
	cov[1]! += (noise.drift * days * days) / 2;
	cov[size]! += (noise.drift * days * days) / 2;
	cov[size + 1]! += noise.drift * days;
}

/** Level and drift without dosing at one node: means and variances. */
export interface Smoothed {
	mean: number;
	variance: number;
	drift: number;
	driftVariance: number;
}

/** The way back (Rauch, Tung and Striebel 1965): level and drift at every node, given all that was seen. */
export function levelsKnowingAll(model: Model, passage: Passage): Smoothed[] {
	const { size, before, beforeCov, after, afterCov, step } = passage;
	const count = after.length;
	let mean = after[count - 1]!;
	let cov = afterCov[count - 1]!;
	const taken = (): Smoothed => ({
		mean: mean[0]!,
		variance: Math.max(cov[0]!, 0),
		drift: mean[1]!,
		driftVariance: Math.max(cov[size + 1]!, 0)
	});
	const levels = Array.from({ length: count }, taken);
	for (let k = count - 2; k >= 0; k--) {
		// From the state after node k to the state after node k+1 by way of what was predicted for k+1; what a dose or a water
		// change did at k+1 is undone first.
		const [back, backCov] = undone(model.nodes[k + 1]!, mean, cov, size, before[k + 1]!, beforeCov[k + 1]!);
		const cross = crossOf(afterCov[k]!, size, step[k + 1]!);
		const gain = solve(beforeCov[k + 1]!, cross, size);
		const nextMean = after[k]!.slice();
		const nextCov = afterCov[k]!.slice();
		const off = back.map((x, i) => x - before[k + 1]![i]!);
		for (let i = 0; i < size; i++)
			for (let j = 0; j < size; j++) nextMean[i]! += gain[i * size + j]! * off[j]!;
		const diff = backCov.map((x, i) => x - beforeCov[k + 1]![i]!);
		for (let i = 0; i < size; i++)
			for (let j = 0; j < size; j++) {
				let sum = 0;
				for (let a = 0; a < size; a++)
					for (let b = 0; b < size; b++)
						sum += gain[i * size + a]! * diff[a * size + b]! * gain[j * size + b]!;
				nextCov[i * size + j]! += sum;
			}
		mean = nextMean;
		cov = nextCov;
		levels[k] = taken();
	}
	return levels;
}

/** The state just before a node, given the state just after it, all knowledge taken in. */
function undone(
	node: Node,
	mean: Float64Array,
	cov: Float64Array,
	size: number,
	predicted: Float64Array,
	predictedCov: Float64Array
): [Float64Array, Float64Array] {
	if (node.kind === 'dose' && node.variance === 0) {
		const back = mean.slice();
		back[0]! -= node.change;
		return [back, cov];
	}
	if (node.kind === 'dose' || node.kind === 'change') {
		// The state after is A·before + noise: the same step back as through time.
		const rest = node.kind === 'dose' ? 1 : 1 - node.fraction;
		const added = node.kind === 'dose' ? node.variance : node.fraction ** 2 * node.variance;
		const expected = predicted.slice();
		expected[0] =
			node.kind === 'dose' ? expected[0]! + node.change : rest * expected[0]! + node.fraction * node.newWater;
		const cross = predictedCov.slice();
		for (let i = 0; i < size; i++) cross[i * size]! *= rest;
		const afterCov = cross.slice();
		for (let j = 0; j < size; j++) afterCov[j]! *= rest;
		afterCov[0]! += added;
		const gain = solve(afterCov, cross, size);
		const back = predicted.slice();
		const backCov = predictedCov.slice();
		for (let i = 0; i < size; i++)
			for (let j = 0; j < size; j++) {
				back[i]! += gain[i * size + j]! * (mean[j]! - expected[j]!);
				let sum = 0;
				for (let a = 0; a < size; a++)
					for (let b = 0; b < size; b++)
						sum += gain[i * size + a]! * (cov[a * size + b]! - afterCov[a * size + b]!) * gain[j * size + b]!;
				backCov[i * size + j]! += sum;
			}
		return [back, backCov];
	}
	return [mean, cov];
}

/** Covariance of the state with what is predicted from it some days on. */
function crossOf(cov: Float64Array, size: number, days: number): Float64Array {
	const cross = cov.slice();
	for (let i = 0; i < size; i++) cross[i * size]! += days * cov[i * size + 1]!;
	return cross;
}

/** cross · inverse(cov) by Gauss with pivots; a direction of no variance gets no gain. */
function solve(cov: Float64Array, cross: Float64Array, size: number): Float64Array {
	const scale = Float64Array.from({ length: size }, (_, i) =>
		Math.sqrt(Math.max(cov[i * size + i]!, 1e-300))
	);
	const a = Float64Array.from(cov, (x, k) => x / (scale[Math.floor(k / size)]! * scale[k % size]!));
	// Right-hand sides: the rows of cross, scaled alike.
	const b = Float64Array.from(cross, (x, k) => x / scale[k % size]!);
	for (let i = 0; i < size; i++) a[i * size + i]! += 1e-12;
	for (let p = 0; p < size; p++) {
		let pivot = p;
		for (let r = p + 1; r < size; r++)
			if (Math.abs(a[r * size + p]!) > Math.abs(a[pivot * size + p]!)) pivot = r;
		if (pivot !== p) {
			for (let c = 0; c < size; c++)
				[a[p * size + c], a[pivot * size + c]] = [a[pivot * size + c]!, a[p * size + c]!];
			for (let r = 0; r < size; r++)
				[b[r * size + p], b[r * size + pivot]] = [b[r * size + pivot]!, b[r * size + p]!];
		}
		for (let r = p + 1; r < size; r++) {
			const f = a[r * size + p]! / a[p * size + p]!;
			if (f === 0) continue;
			for (let c = p; c < size; c++) a[r * size + c]! -= f * a[p * size + c]!;
			for (let k = 0; k < size; k++) b[k * size + r]! -= f * b[k * size + p]!;
		}
	}
	for (let p = size - 1; p >= 0; p--)
		for (let k = 0; k < size; k++) {
			let x = b[k * size + p]!;
			for (let c = p + 1; c < size; c++) x -= a[p * size + c]! * b[k * size + c]!;
			b[k * size + p] = x / a[p * size + p]!;
		}
	// Undo the scaling of the unknowns.
	return b.map((x, k) => x / scale[k % size]!);
}
