import type { Restlessness } from '../catalogue';
import type { Noise } from './kalman';
import { startOf, type Model } from './hypotheses';
import { forward } from './regimes';
import { waterAlone } from './water';

/** How much the readings may change the usual restlessness: spread of its logarithm, and the limits either way. */
const PRIOR_SPREAD = 1.1;
const LIMIT = Math.log(12);
const COARSE = [-1.6, 0, 1.6];
const STEPS = [0.8, 0.4];
/** Explanations carried on while the noise is sought: enough to tell a jump from restless water. */
const FIT_TRACKS = 3;

/**
 * The process noise under which what was seen is likeliest, leaning on what is usual (a log-normal prior): with few readings
 * the usual stays, with many the readings speak. A coarse grid of both, then smaller and smaller steps about the best.
 */
export function fitNoise(model: Model, usual: Restlessness): Noise {
	const known = new Map<string, number>();
	const start = startOf(model);
	const at = (level: number, drift: number): number => {
		const key = `${level.toFixed(2)}/${drift.toFixed(2)}`;
		const before = known.get(key);
		if (before !== undefined) return before;
		const far = Math.max(Math.abs(level), Math.abs(drift)) > LIMIT;
		const chance = far
			? -Infinity
			: forward(waterAlone(model, noiseOf(usual, level, drift)), start, model.nodes, FIT_TRACKS).logChance -
				(level * level + drift * drift) / (2 * PRIOR_SPREAD * PRIOR_SPREAD);
		known.set(key, chance);
		return chance;
	};
	let best: [number, number] = [0, 0];
	for (const level of COARSE)
		for (const drift of COARSE) if (at(level, drift) > at(...best)) best = [level, drift];
	for (const step of STEPS)
		for (let moved = true; moved;) {
			moved = false;
			const [level, drift] = best;
			for (const next of [
				[level + step, drift],
				[level - step, drift],
				[level, drift + step],
				[level, drift - step]
			] as [number, number][])
				if (at(...next) > at(...best) + 1e-9) {
					best = next;
					moved = true;
				}
		}
	return weighed(usual, known);
}

/** The mean over all that was tried, each by its chance: the likeliest alone is too sure of itself. */
function weighed(usual: Restlessness, known: Map<string, number>): Noise {
	const top = Math.max(...known.values());
	const mean = { level: 0, drift: 0 };
	let total = 0;
	for (const [key, chance] of known) {
		const weight = Math.exp(chance - top);
		if (!(weight > 0)) continue;
		const [level = 0, drift = 0] = key.split('/').map(Number);
		const noise = noiseOf(usual, level, drift);
		mean.level += weight * Math.sqrt(noise.level);
		mean.drift += weight * Math.sqrt(noise.drift);
		total += weight;
	}
	return { level: (mean.level / total) ** 2, drift: (mean.drift / total) ** 2 };
}

const noiseOf = (usual: Restlessness, level: number, drift: number): Noise => ({
	level: (usual.level * Math.exp(level)) ** 2,
	drift: (usual.drift * Math.exp(drift)) ** 2
});
