import { nth } from '../base';
import type { ReferenceResult, Rule } from './schema';

/** EWMA: λ 0.2 with limits at 2.962 sigma: one false alarm in 500 checks, a shift of one sigma seen after ten (Lucas & Saccucci 1990, Technometrics 32, 1). */
const LAMBDA = 0.2;
const EWMA_LIMIT = 2.962;

/**
 * The rule that a point completes, if any, of what came before it and it (Western Electric 1956). Points in sigma.
 *
 * @example ruleAt([2.3, 0.1, 2.1], 2) // → 'two-of-three-beyond-2'
 */
export function ruleAt(z: number[], i: number): Rule | undefined {
	const side = Math.sign(nth(z, i));
	const beyond = (limit: number, of: number) =>
		z.slice(Math.max(0, i - of + 1), i + 1).filter((x) => side * x > limit).length;
	if (Math.abs(nth(z, i)) > 3) return 'one-beyond-3';
	if (side * nth(z, i) > 2 && beyond(2, 3) >= 2) return 'two-of-three-beyond-2';
	if (side * nth(z, i) > 1 && beyond(1, 5) >= 4) return 'four-of-five-beyond-1';
	return side !== 0 && beyond(0, 8) === 8 ? 'eight-on-one-side' : undefined;
}

/** Between two steps of a scale nobody can tell: a check that moved by one is off by half of it, as a share. */
const HALF_STEP = 0.5;
/** Values that come again are of a scale with steps: fewer kinds than this share of checks. */
const STEPS_SHOW = 0.67;

/**
 * A chart of single checks (Shewhart; ISO 7870-2), self-starting (Hawkins 1987, The Statistician 36, 451): each check in sigma of what was to be expected of it
 * by what the water holds, by what the kit may be off by at all, and by the checks before it. Centre and lines are those of the next check.
 *
 * @example controlOf({ value: 8, standardUncertainty: 0 }, 0.1, [{ at: '2026-05-06T18:00:00Z', value: 8.6, repeatability: 0.1 }]).points[0].rule // → 'one-beyond-3'
 */
export function controlOf(
	known: { value: number; standardUncertainty: number },
	trueness: number,
	tests: { at: string; value: number; repeatability: number }[]
): NonNullable<ReferenceResult['control']> {
	const kinds = [...new Set(tests.map((t) => t.value))].sort((a, b) => a - b);
	const steps = kinds.slice(1).map((v, i) => v - nth(kinds, i));
	const stepped = tests.length > 2 && kinds.length < STEPS_SHOW * tests.length;
	const step = stepped && steps.length ? Math.min(...steps) : 0;
	// The offset of this kit in this water: a normal prior, a normal for each check (Kalman 1960 of a constant).
	let offset = 0;
	let variance = trueness ** 2 + known.standardUncertainty ** 2;
	const z: number[] = [];
	const points = tests.map(({ at, value, repeatability }, i) => {
		const noise = Math.max(repeatability, HALF_STEP * step) ** 2;
		const off = value - known.value - offset;
		// The same step again, or the next one, is no news.
		const again = stepped && value === tests[i - 1]?.value;
		const beyond = again ? 0 : Math.sign(off) * Math.max(0, Math.abs(off) - HALF_STEP * step);
		z.push(beyond / Math.sqrt(variance + noise));
		const gain = variance / (variance + noise);
		offset += gain * off;
		variance *= 1 - gain;
		const rule = ruleAt(z, z.length - 1);
		return { at, value, z: nth(z, z.length - 1), ...(rule ? { rule } : {}) };
	});
	const single = tests.reduce((sum, t) => sum + t.repeatability ** 2, 0) / tests.length;
	const sigma = Math.sqrt(variance + Math.max(single, (HALF_STEP * step) ** 2));
	const centre = known.value + offset;
	return {
		centre,
		sigma,
		warning: [centre - 2 * sigma, centre + 2 * sigma],
		action: [centre - 3 * sigma, centre + 3 * sigma],
		points
	};
}

/**
 * The exponentially weighted mean of checks, which sees what creeps. Limits as wide as so many checks make them.
 *
 * @example ewmaOf([{ at: '2026-05-06T18:00:00Z', z: 1 }]).points[0].z // → 0.2
 */
export function ewmaOf(tests: { at: string; z: number }[]): NonNullable<ReferenceResult['ewma']> {
	let level = 0;
	const points = tests.map(({ at, z }, i) => {
		level = LAMBDA * z + (1 - LAMBDA) * level;
		const spread = Math.sqrt((LAMBDA / (2 - LAMBDA)) * (1 - (1 - LAMBDA) ** (2 * (i + 1))));
		const limit = EWMA_LIMIT * spread;
		return { at, z: level, limit, out: Math.abs(level) > limit };
	});
	return { points, out: points.at(-1)?.out ?? false };
}
