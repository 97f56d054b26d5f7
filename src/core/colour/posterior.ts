import { nth } from '../base';
import { labIn, lightOf, outer, plus, type Covariance, type Triple } from './area';
import { onPath, valueAt, type Patch } from './path';

/** Places a patch step is divided into. */
const FINE = 40;
/** How far past the ends it is looked, in patch steps. */
const BEYOND = 1;
/** Clearly past an end: this chance, and at least so far, in patch steps. */
const CLEARLY = 0.975;
const CLEARLY_STEPS = 0.15;

/** What is not known of a picture, at some sizes, each with its chance before anything is seen: ours, and wide. */
type Chances = [at: number, chance: number][];
/** White light that lies evenly over the vial's colour (a pale wall mirrored in its glass, fog on it), as a share of the white ground's. */
const VEILS: Chances = [
	[0, 0.7],
	[0.02, 0.08],
	[0.05, 0.08],
	[0.1, 0.07],
	[0.2, 0.05],
	[0.3, 0.02]
];
/** Absorbance of the water by itself in the blue: humic matter is yellow. None is left where an untreated vial took it away. */
const TINTS: Chances = [
	[0, 0.55],
	[0.03, 0.13],
	[0.06, 0.13],
	[0.12, 0.11],
	[0.22, 0.08]
];
/** The same in red, green and blue: it falls by 0.014 to 0.018 a nanometre (Bricaud, Morel and Prieur 1981), here at 600, 535 and 460 nm. */
const TINT: Triple = [0.11, 0.3, 1];
/**
 * A vial is no print: colours that agree by day differ under other lamps (metamerism), the more the deeper they are, and most where the lamp
 * has gaps. By how much of its absorbance a vial may differ from its patch in each channel: nothing in a picture tells the lamp's spectrum,
 * what lies sideways of the path tells how much it is in this one.
 */
const DIFFERS: Chances = [
	[0.01, 0.35],
	[0.03, 0.3],
	[0.08, 0.17],
	[0.18, 0.12],
	[0.4, 0.06]
];
/** Under a lamp without white light each channel sees a water's tint otherwise: by so much of it. */
const TINT_DOUBT = 0.4;
/** What a vial's colour is off by beside, CIELAB units. */
const OFF = 0.5;

const UNIT: Covariance = [
	[1, 0, 0],
	[0, 1, 0],
	[0, 0, 1]
];
const WHITE: Triple = [1, 1, 1];

/** Squared Mahalanobis distance and the logarithm of the determinant, of 3 by 3. */
function held(d: Triple, s: Covariance): { squared: number; logDet: number } {
	const [[a, b, c], [, e, f], [, , i]] = s;
	const [A, B, C] = [e * i - f * f, c * f - b * i, b * f - c * e];
	const det = Math.max(a * A + b * B + c * C, 1e-30);
	const [E, F, I] = [a * i - c * c, b * c - a * f, a * e - b * b];
	const [x, y, z] = d;
	return {
		squared: (A * x * x + E * y * y + I * z * z + 2 * (B * x * y + C * x * z + F * y * z)) / det,
		logDet: Math.log(det)
	};
}

/** A colour of the path as light: shares of white in each channel, and how its CIELAB moves with each channel's absorbance. */
function asLight(lab: Triple): { light: Triple; absorbance: number; moves: Covariance } {
	const light = lightOf(lab).map((v) => Math.max(v, 1e-3)) as Triple;
	const absorbance = Math.max(...light.map((v) => -Math.log(Math.min(1, v))));
	const here = labIn(light, WHITE);
	const moves = light.reduce(
		(sum, _, c) => {
			const more = labIn(light.map((v, k) => (k === c ? v * 1.01 : v)) as Triple, WHITE);
			return plus(sum, outer(here.map((v, k) => (more[k as 0] - v) / 0.01) as Triple));
		},
		UNIT.map((row) => row.map(() => 0)) as Covariance
	);
	return { light, absorbance, moves };
}

/**
 * Where on the path a colour lies: mean, deviation and 95 % in patch steps, and whether it is clearly past an end. What nobody knows of the
 * picture is summed over by its chances (a Bayesian model average): a veil of white, water with a colour of its own (none where `clear`: an
 * untreated vial took it away), a lamp under which vial and print differ.
 */
export function posterior(path: Patch[], lab: Triple, own: Covariance, clear: boolean) {
	const last = path.length - 1;
	const places = Array.from({ length: (last + 2 * BEYOND) * FINE + 1 }, (_, k) => k / FINE - BEYOND);
	const there = places.map((place) => {
		const at = onPath(path, place);
		return {
			...at,
			...asLight(at.lab),
			sigma: plus(plus(own, at.covariance), plus(outer(at.doubt), UNIT, OFF ** 2))
		};
	});
	const logs: number[][] = [];
	for (const [tint, tinted] of clear ? TINTS.slice(0, 1) : TINTS) {
		const through = TINT.map((share) => 10 ** (-share * tint)) as Triple;
		const sigmas = DIFFERS.map(([by]) =>
			there.map(({ sigma, absorbance, moves }) =>
				plus(sigma, moves, (by * absorbance) ** 2 + (TINT_DOUBT * tint * Math.LN10) ** 2)
			)
		);
		for (const [veil, veiled] of VEILS) {
			const d = there.map(({ lab: plain, light }): Triple => {
				const seen =
					veil === 0 && tint === 0
						? plain
						: labIn(light.map((v, c) => v * through[c as 0] + veil) as Triple, WHITE);
				return lab.map((v, c) => v - seen[c as 0]) as Triple;
			});
			DIFFERS.forEach(([, chance], n) => {
				const log = Math.log(veiled * tinted * chance);
				logs.push(
					d.map((v, k) => {
						const { squared, logDet } = held(v, nth(nth(sigmas, n), k));
						return log - 0.5 * (squared + logDet);
					})
				);
			});
		}
	}
	const top = Math.max(...logs.map((of) => Math.max(...of)));
	const weights = places.map((_, k) => logs.reduce((sum, of) => sum + Math.exp(nth(of, k) - top), 0));
	const all = summed(places, weights, path);
	const below = shareOf(places, weights, (p) => p < 0);
	const above = shareOf(places, weights, (p) => p > last);
	const beyond =
		below > CLEARLY && all.mean < -CLEARLY_STEPS
			? ('<' as const)
			: above > CLEARLY && all.mean > last + CLEARLY_STEPS
				? ('>' as const)
				: undefined;
	const inside = weights.map((w, k) => (nth(places, k) < 0 || nth(places, k) > last ? 0 : w));
	return {
		...summed(places, inside.some((w) => w > 1e-12) ? inside : weights, path),
		beyond,
		best: nth(places, weights.indexOf(Math.max(...weights)))
	};
}

const shareOf = (places: number[], weights: number[], of: (place: number) => boolean): number => {
	const sum = weights.reduce((a, b) => a + b, 0);
	return weights.reduce((a, w, k) => a + (of(nth(places, k)) ? w : 0), 0) / sum;
};

function summed(places: number[], weights: number[], path: Patch[]) {
	const sum = weights.reduce((a, b) => a + b, 0);
	const mean = places.reduce((a, p, k) => a + p * nth(weights, k), 0) / sum;
	const deviation = Math.sqrt(places.reduce((a, p, k) => a + (p - mean) ** 2 * nth(weights, k), 0) / sum);
	const values = places.map((p) => valueAt(path, p));
	const middle = values.reduce((a, v, k) => a + v * nth(weights, k), 0) / sum;
	const valueDeviation = Math.sqrt(
		values.reduce((a, v, k) => a + (v - middle) ** 2 * nth(weights, k), 0) / sum
	);
	const quantile = (chance: number) => {
		let sofar = 0;
		return nth(
			places,
			Math.max(
				0,
				weights.findIndex((w) => (sofar += w) >= chance * sum)
			)
		);
	};
	return { mean, deviation, valueDeviation, low: quantile(0.025), high: quantile(0.975) };
}
