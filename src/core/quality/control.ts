import { nth } from '../nth';
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

/**
 * A chart of single checks (Shewhart; ISO 7870-2): about what the water holds, in what one test scatters by.
 *
 * @example controlOf(8, 0.1, [{ at: '2026-05-06T18:00:00Z', z: 4 }]).points[0].rule // → 'one-beyond-3'
 */
export function controlOf(
	centre: number,
	sigma: number,
	tests: { at: string; z: number }[]
): NonNullable<ReferenceResult['control']> {
	const z = tests.map((t) => t.z);
	return {
		centre,
		sigma,
		warning: [centre - 2 * sigma, centre + 2 * sigma],
		action: [centre - 3 * sigma, centre + 3 * sigma],
		points: tests.map(({ at }, i) => {
			const rule = ruleAt(z, i);
			return { at, z: nth(z, i), ...(rule ? { rule } : {}) };
		})
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
