import type { Misreading } from '../instruments';
import { read, type Measured, type Question, type ReadingRequest } from '../methods';
import { COVERAGE_95 } from '../statistics';
import { formatMeasured, formatUnit } from '../quantities';
import { usualRestlessness } from '../trend';
import { alternatives } from './alternatives';
import { priorOf, type Prior } from './prior';

/** How often a careful keeper reads right; the rest is shared evenly among the misreadings a method allows. */
const READ_RIGHT = 0.95;

/** How often the water itself has changed since it was last known: a few times a year of weekly tests. */
const CHANGED = 1 / 60;
/** A reading that would give the same value, to so much of its error, is not asked about. */
const SAME = 0.25;

/** A misreading explains a reading only if without it the value would be where it was expected, within so many deviations. */
const EXPLAINS = 4;

/**
 * Was it misread? Bayes over the reading as given and every misreading the method allows, against what this tank was expected
 * to show (or, with no history, what such water shows); that the water changed is weighed too. Misreadings more likely than the
 * reading as given, changed water or not, come back as questions, most likely first. `measured` is the reading as given.
 *
 * @example questions({ method: SHIPPED_METHODS[0], reading: { left: 0.3 }, expected: { mean: 5, standardDeviation: 0.2 } }, read({ method: SHIPPED_METHODS[0], reading: { left: 0.3 } }).value)[0].slip // → 'left-used-swapped'
 */
export function questions(request: ReadingRequest, measured: Measured): Question[] {
	const expected: Prior | undefined = request.expected ?? priorOf(request);
	const given = weighable(measured);
	if (!expected || !given) return [];
	const known = alternatives(request).flatMap((alternative) => {
		const result = read(alternative.request);
		const value = result.ok ? weighable(result.value) : undefined;
		const same = value && Math.abs(value.value - given.value) <= SAME * Math.max(value.u, given.u);
		return value && !same ? [{ ...alternative, ...value }] : [];
	});
	const kinds = new Map<Misreading, number>();
	for (const { slip } of known) kinds.set(slip, (kinds.get(slip) ?? 0) + 1);

	// The same distance on the instrument is a different distance in value under each misreading: `stretch` evens that out.
	// In logarithms, so that what is far off still compares.
	const right = logSum(
		Math.log(READ_RIGHT) + logDensity(given, expected),
		Math.log(CHANGED) + logDensity(given, request.expected ? changed(request) : expected)
	);
	const weighed = known
		.filter((k) => Math.abs(standardised(k, expected)) <= EXPLAINS)
		.map((k) => ({
			...k,
			weight:
				Math.log(
					((1 - READ_RIGHT) / kinds.size) * (k.chance ?? 1 / kinds.get(k.slip)!) * Math.abs(k.stretch)
				) + logDensity(k, expected)
		}));
	const misreadings = best(weighed);
	const heaviest = Math.max(right, ...misreadings.map((k) => k.weight));
	const share = (weight: number) => Math.exp(weight - heaviest);
	const total = share(right) + misreadings.reduce((sum, k) => sum + share(k.weight), 0);
	return misreadings
		.filter((k) => k.weight > right)
		.map((k) => asked(k, share(k.weight) / total, measured.unit));
}

interface Weighable {
	value: number;
	/** Standard uncertainty of that value. */
	u: number;
}

/** A bound stands for the middle of what it leaves open, or for its limit where nothing closes the other side. */
function weighable(measured: Measured): Weighable | undefined {
	if (measured.value !== null) return { value: measured.value, u: measured.standardUncertainty ?? 0 };
	const [low, high] = measured.interval;
	if (low !== null && high !== null) return { value: (low + high) / 2, u: (high - low) / Math.sqrt(12) };
	const limit = low ?? high;
	return limit === null ? undefined : { value: limit, u: 0 };
}

/** Distance from the forecast in predictive standard deviations: the forecast widened by the reading's own error. */
const standardised = ({ value, u }: Weighable, { mean, standardDeviation }: Prior): number =>
	(value - mean) / Math.hypot(standardDeviation, u);

/** Of what is never negative only one half of the bell is left, and counts twice. */
const logDensity = (w: Weighable, expected: Prior): number =>
	-0.5 * standardised(w, expected) ** 2 -
	Math.log(Math.hypot(expected.standardDeviation, w.u)) +
	(expected.halved ? Math.LN2 : 0);

const logSum = (a: number, b: number): number => Math.max(a, b) + Math.log1p(Math.exp(-Math.abs(a - b)));

/** Where a tank's water is found once something has happened to it. */
function changed({ method, expected }: ReadingRequest): Prior {
	const { mean, standardDeviation } = expected!;
	const { jump } = usualRestlessness(method.parameter, method.unit, mean);
	return { mean, standardDeviation: Math.hypot(standardDeviation, jump) };
}

/** Of each kind of misreading the likeliest form stands for all, with the weight of all; likeliest kind first. */
function best<T extends { slip: Misreading; weight: number }>(known: T[]): T[] {
	const kinds = new Map<Misreading, T>();
	const sums = new Map<Misreading, number>();
	for (const k of known) {
		if (!(kinds.get(k.slip)! && kinds.get(k.slip)!.weight >= k.weight)) kinds.set(k.slip, k);
		sums.set(k.slip, (sums.get(k.slip) ?? 0) + Math.exp(k.weight));
	}
	return [...kinds.values()]
		.map((k) => ({ ...k, weight: Math.max(k.weight, Math.log(sums.get(k.slip)!)) }))
		.sort((a, b) => b.weight - a.weight);
}

function asked(
	k: Weighable & { slip: Misreading; ask: string },
	probability: number,
	unit: string
): Question {
	const value = formatMeasured(k.value, COVERAGE_95 * k.u).value;
	return {
		slip: k.slip,
		value: k.value,
		probability,
		ask: `${k.ask} Then it is ${value} ${formatUnit(unit)}`.trim() + '.'
	};
}
