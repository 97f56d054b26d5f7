import {
	COVERAGE_95,
	read,
	type Expected,
	type Measured,
	type Question,
	type ReadingRequest
} from '../methods';
import { formatMeasured, formatUnit, parameterOf, convert, isQuantity } from '../quantities';
import { alternatives, type Slip } from './alternatives';

/** How often a careful keeper reads right; the rest is shared evenly among the slips a method allows. */
const READ_RIGHT = 0.95;

/** A slip explains a reading only if without it the value would be where it was expected, within so many deviations. */
const EXPLAINS = 4;

/**
 * Was it misread? Bayes over the reading as given and every slip the method allows, against what this tank was expected
 * to show (or, with no history, what such water shows). Slips more likely than the reading as given come back as
 * questions, most likely first. `measured` is the reading as given.
 */
export function questions(request: ReadingRequest, measured: Measured): Question[] {
	const expected = request.expected ?? plausible(request);
	const given = weighable(measured);
	if (!expected || !given) return [];
	const known = alternatives(request).flatMap((alternative) => {
		const result = read(alternative.request);
		const value = result.ok ? weighable(result.value) : undefined;
		return value ? [{ ...alternative, ...value }] : [];
	});
	const kinds = new Map<Slip, number>();
	for (const { slip } of known) kinds.set(slip, (kinds.get(slip) ?? 0) + 1);

	// The same distance on the instrument is a different distance in value under each slip: `stretch` evens that out.
	// In logarithms, so that what is far off still compares.
	const right = Math.log(READ_RIGHT) + logDensity(given, expected);
	const weighed = known
		.filter((k) => Math.abs(standardised(k, expected)) <= EXPLAINS)
		.map((k) => ({
			...k,
			weight:
				Math.log(((1 - READ_RIGHT) / kinds.size / kinds.get(k.slip)!) * Math.abs(k.stretch)) +
				logDensity(k, expected)
		}));
	const slips = best(weighed);
	const heaviest = Math.max(right, ...slips.map((k) => k.weight));
	const share = (weight: number) => Math.exp(weight - heaviest);
	const total = share(right) + slips.reduce((sum, k) => sum + share(k.weight), 0);
	return slips.filter((k) => k.weight > right).map((k) => asked(k, share(k.weight) / total, measured.unit));
}

interface Weighable {
	value: number;
	/** Standard uncertainty of that value. */
	u: number;
}

/** A bound stands for the middle of what it leaves open, or for its edge where nothing closes the other side. */
function weighable(measured: Measured): Weighable | undefined {
	if (measured.value !== null) return { value: measured.value, u: measured.standardUncertainty ?? 0 };
	const [low, high] = measured.interval;
	if (low !== null && high !== null) return { value: (low + high) / 2, u: (high - low) / Math.sqrt(12) };
	const edge = low ?? high;
	return edge === null ? undefined : { value: edge, u: 0 };
}

/** What such water shows when nothing is known of this tank: 95 % of honest readings in the parameter's plausible range. */
function plausible({ method }: ReadingRequest): Expected | undefined {
	const parameter = parameterOf(method.parameter);
	if (!parameter) return undefined;
	const ends = parameter.plausible.map((value) => {
		if (!isQuantity(method.parameter)) return undefined;
		const result = convert({ quantity: method.parameter, value, from: parameter.unit, to: method.unit });
		return result.ok ? result.value.value : undefined;
	});
	const [low, high] = ends;
	if (low === undefined || high === undefined) return undefined;
	return { mean: (low + high) / 2, standardDeviation: (high - low) / 2 / COVERAGE_95 };
}

/** Distance from the forecast in predictive standard deviations: the forecast widened by the reading's own error. */
const standardised = ({ value, u }: Weighable, { mean, standardDeviation }: Expected): number =>
	(value - mean) / Math.hypot(standardDeviation, u);

const logDensity = (w: Weighable, expected: Expected): number =>
	-0.5 * standardised(w, expected) ** 2 - Math.log(Math.hypot(expected.standardDeviation, w.u));

/** Of each kind of slip the likeliest form stands for all, with the weight of all; likeliest kind first. */
function best<T extends { slip: Slip; weight: number }>(known: T[]): T[] {
	const kinds = new Map<Slip, T>();
	const sums = new Map<Slip, number>();
	for (const k of known) {
		if (!(kinds.get(k.slip)! && kinds.get(k.slip)!.weight >= k.weight)) kinds.set(k.slip, k);
		sums.set(k.slip, (sums.get(k.slip) ?? 0) + Math.exp(k.weight));
	}
	return [...kinds.values()]
		.map((k) => ({ ...k, weight: Math.max(k.weight, Math.log(sums.get(k.slip)!)) }))
		.sort((a, b) => b.weight - a.weight);
}

function asked(k: Weighable & { slip: Slip; ask: string }, probability: number, unit: string): Question {
	const value = formatMeasured(k.value, COVERAGE_95 * k.u).value;
	return {
		slip: k.slip,
		value: k.value,
		probability,
		ask: `${k.ask} Then it is ${value} ${formatUnit(unit)}`.trim() + '.'
	};
}
