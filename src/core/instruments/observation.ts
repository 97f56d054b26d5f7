import type { Contribution } from './reading-parts';

/**
 * What was seen on an instrument, on that instrument's own axis (mL used, drops, shade, shown value): a point, an
 * interval whose ends are all that is known, or a bound. `errors` are standard uncertainties on the same axis.
 */
export type Observation = { errors: Contribution[] } &
	/** `within`: what it cannot be outside of, whatever its error. */
	(
		| { kind: 'point'; at: number; within?: [number, number] }
		| { kind: 'between'; from: number; to: number }
		| { kind: 'below'; at: number }
		| { kind: 'above'; at: number }
	);

/** Standard uncertainty of anything equally likely within ±halfWidth (GUM 4.3.7). */
export const rectangular = (halfWidth: number) => halfWidth / Math.sqrt(3);

/** Of a scale read to its nearest line, most likely on the line and never half a line off (GUM 4.3.9). */
export const triangular = (halfWidth: number) => halfWidth / Math.sqrt(6);

export const repeatability = (source: string, standardUncertainty: number): Contribution => ({
	source,
	standardUncertainty,
	kind: 'repeatability'
});

export const trueness = (source: string, standardUncertainty: number): Contribution => ({
	source,
	standardUncertainty,
	kind: 'trueness'
});

/** Root of the sum of squares: contributions are independent (GUM 5.1.2). */
export const combined = (errors: Contribution[]): number =>
	Math.hypot(...errors.map((e) => e.standardUncertainty));

/** An error through a slope: what lies to one side turns with it. */
export const scaledError = (e: Contribution, by: number): Contribution => ({
	...e,
	standardUncertainty: e.standardUncertainty * Math.abs(by),
	...(e.mean === undefined ? {} : { mean: e.mean * by })
});

/** How far the true value lies from what was read on average, and the standard deviation about that. */
export function centred(errors: Contribution[]): { mean: number; sd: number } {
	const mean = errors.reduce((sum, e) => sum + (e.mean ?? 0), 0);
	const aside = errors.reduce((sum, e) => sum + (e.mean ?? 0) ** 2, 0);
	return { mean, sd: Math.sqrt(Math.max(0, combined(errors) ** 2 - aside)) };
}

/** A number seen, or two ends it lies between, as an observation. */
export const seenAs = (seen: number | [number, number], errors: Contribution[]): Observation =>
	typeof seen === 'number'
		? { kind: 'point', at: seen, errors }
		: { kind: 'between', from: Math.min(...seen), to: Math.max(...seen), errors };
