import { good, nth, type Outcome } from '../base';
import type { TechniqueRequest, TechniqueResult, Spread } from './technique-schema';
import { COVERAGE_95, median } from '../statistics';
import { eyeBy } from './staircase';

/** Fewer tries say too little of a scatter to be used: its interval is wider than two to one. */
const ENOUGH_TRIES = 10;
const ENOUGH_LOOKS = 30;
/** Answers that do not agree say nothing, however many: the interval's ends must lie within this of each other. */
const MOST_DOUBT = 5;

/**
 * Tries that go too far now and then are skewed, and Student's interval of twenty of them holds 92 % instead of 95 (simulated, exponential law;
 * the lack falls with their number): it is wider by this share of one try.
 */
const SKEWED = 3;
/** The number a share of 97.5 % of Student's distribution lies below (Abramowitz and Stegun 26.7.5; within 0.01 from five degrees on). */
function student(freedom: number): number {
	const z = COVERAGE_95;
	return (
		z +
		(z ** 3 + z) / (4 * freedom) +
		(5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * freedom ** 2) +
		(3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / (384 * freedom ** 3)
	);
}

/**
 * Bias and scatter of tries: the mean with Student's distribution (GUM G.3; wider by what skewed tries ask), the standard deviation with an interval that holds for other
 * laws than the normal too (Bonett 2006). Undefined of fewer than two.
 *
 * @example spreadOf([0.2, 0.6, 0.4, 0.8]).bias // → 0.5
 */
export function spreadOf(values: number[]): Spread | undefined {
	const n = values.length;
	if (n < 2) return undefined;
	const mean = values.reduce((a, b) => a + b, 0) / n;
	const square = values.reduce((sum, v) => sum + (v - mean) ** 2, 0);
	const scatter = Math.sqrt(square / (n - 1));
	return {
		tries: n,
		bias: mean,
		standardUncertainty: (((scatter / Math.sqrt(n)) * student(n - 1)) / COVERAGE_95) * (1 + SKEWED / n),
		scatter,
		interval: scatterInterval(values, scatter),
		next: scatter * Math.sqrt((n - 1) / Math.max(1, n - 3)),
		enough: n >= ENOUGH_TRIES
	};
}

/** Hands go too far more often than a normal law has it: their kurtosis, as from so many tries of others (an exponential law has 9). */
const OTHER_HANDS = { kurtosis: 9, tries: 20 };
/** Bonett 2006, Approximate confidence interval for standard deviation of nonnormal distributions, equations 3 to 6. */
function scatterInterval(values: number[], scatter: number): [number, number] {
	const n = values.length;
	if (n < 5 || !(scatter > 0)) return [0, scatter * Math.max(4, 40 / n)];
	const cut = Math.floor(n / (2 * Math.sqrt(n - 4)));
	const middle = [...values]
		.sort((a, b) => a - b)
		.slice(Math.min(cut, (n - 1) >> 1), n - Math.min(cut, (n - 1) >> 1));
	const trimmed = middle.length ? middle.reduce((a, b) => a + b, 0) / middle.length : median(values);
	const square = (n - 1) * scatter ** 2;
	const own = (n * values.reduce((sum, v) => sum + (v - trimmed) ** 4, 0)) / square ** 2;
	const kurtosis = (n * own + OTHER_HANDS.tries * OTHER_HANDS.kurtosis) / (n + OTHER_HANDS.tries);
	const c = n / (n - COVERAGE_95);
	const error = c * Math.sqrt(Math.max(0, kurtosis - (n - 3) / n) / (n - 1));
	return [-1, 1].map((sign) =>
		Math.sqrt(Math.exp(Math.log(c * scatter ** 2) + sign * COVERAGE_95 * error))
	) as [number, number];
}

const grouped = <T>(items: T[], key: (item: T) => string): T[][] => [
	...items
		.reduce(
			(groups, item) => groups.set(key(item), [...(groups.get(key(item)) ?? []), item]),
			new Map<string, T[]>()
		)
		.values()
];

/**
 * What a hand and an eye are worth, by tries whose truth was known: bias and scatter of end points, of reading a plunger, and the smallest
 * difference of shade, each with its error. No problems: of nothing it says nothing.
 *
 * @example hand({ plungers: [{ off: 0.1 }, { off: -0.3 }] }).value.plunger.bias // → -0.1
 */
export function hand({
	endPoints = [],
	plungers = [],
	looks = []
}: TechniqueRequest): Outcome<TechniqueResult> {
	return good({
		endPoints: grouped(endPoints, (t) => [t.instrument, t.parameter, t.light].join('\n')).flatMap((its) => {
			const spread = spreadOf(its.map((t) => t.over));
			const { instrument, parameter, light } = nth(its, 0);
			return spread ? [{ instrument, parameter, light, ...spread }] : [];
		}),
		plunger: spreadOf(plungers.map((t) => t.off)) ?? null,
		eyes: grouped(looks, (l) => `${l.parameter}\n${l.light}`).map((its) => {
			const { parameter, light } = nth(its, 0);
			const eye = eyeBy(its);
			const [low, high] = eye.interval;
			return { parameter, light, ...eye, enough: its.length >= ENOUGH_LOOKS && high < MOST_DOUBT * low };
		})
	});
}
