import { nth } from '../base';
import type { Covariance, Triple } from './area';

/** The colours of a card's patches as a line through colour space: patches at 0, 1, 2, … */
export interface Patch {
	value: number;
	lab: Triple;
	covariance: Covariance;
}

const along = (from: Triple, to: Triple, share: number): Triple =>
	from.map((v, c) => v + share * (to[c as 0] - v)) as Triple;

/** How fast colour changes with the value at a patch: the parabola through it and its neighbours (Bessel's tangent). */
function tangent(patches: Patch[], i: number): Triple {
	const [a, b] = [Math.max(0, i - 1), Math.min(patches.length - 1, i + 1)];
	const [before, at, after] = [nth(patches, a), nth(patches, i), nth(patches, b)];
	return at.lab.map((v, c) => {
		const left = a === i ? undefined : (v - before.lab[c as 0]) / (at.value - before.value);
		const right = b === i ? undefined : (after.lab[c as 0] - v) / (after.value - at.value);
		if (left === undefined || right === undefined) return left ?? right ?? 0;
		const [h, k] = [at.value - before.value, after.value - at.value];
		return (k * left + h * right) / (h + k);
	}) as Triple;
}

/**
 * The colour at a place of the path. Between two patches nobody printed anything: it lies halfway between the straight chord and the
 * smooth curve through all patches (cubic Hermite), and may be either. Beyond the ends it goes straight on.
 */
export function onPath(
	patches: Patch[],
	place: number
): { lab: Triple; doubt: Triple; covariance: Covariance } {
	const i = Math.max(0, Math.min(patches.length - 2, Math.floor(place)));
	const [from, to] = [nth(patches, i), nth(patches, i + 1)];
	const f = place - i;
	const chord = along(from.lab, to.lab, f);
	const g = Math.max(0, Math.min(1, f));
	const covariance = from.covariance.map((row, r) =>
		row.map((v, c) => (1 - g) ** 2 * v + g ** 2 * to.covariance[r as 0][c as 0])
	) as Covariance;
	if (f < 0 || f > 1) return { lab: chord, doubt: [0, 0, 0], covariance };
	const gap = to.value - from.value;
	const [m, n] = [tangent(patches, i), tangent(patches, i + 1)];
	const curve = from.lab.map(
		(v, c) =>
			(1 + 2 * f) * (1 - f) ** 2 * v +
			f * (1 - f) ** 2 * gap * m[c as 0] +
			f * f * (3 - 2 * f) * to.lab[c as 0] +
			f * f * (f - 1) * gap * n[c as 0]
	) as Triple;
	return {
		lab: along(chord, curve, 0.5),
		doubt: chord.map((v, c) => (curve[c as 0] - v) / 2) as Triple,
		covariance
	};
}

/** The value at a place: straight between two patches. */
export function valueAt(patches: { value: number }[], place: number): number {
	const i = Math.max(0, Math.min(patches.length - 2, Math.floor(place)));
	const [from, to] = [nth(patches, i).value, nth(patches, i + 1).value];
	return from + Math.max(0, Math.min(1, place - i)) * (to - from);
}
