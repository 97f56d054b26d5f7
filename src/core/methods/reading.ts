import { bad, badAll, good, type Outcome } from '../problems';
import { convert, isQuantity, type Quantity } from '../quantities';
import { checkMethod } from './check';
import { misfit, observe } from './observe';
import {
	centred,
	combined,
	rectangular,
	repeatability,
	scaledError,
	trueness,
	type Observation
} from './observation';
import type { DropsMethod, Method, SampleSize, SyringeMethod } from './profile';
import { resultAsProved } from './proved';
import { range95Of } from './range';
import { interpolate, sortedPoints } from './scale';
import { COVERAGE_95 } from '../statistics';
import { columnRead } from './shades';
import type { Contribution, Dilution, Measured, RawReading, ReadingRequest, ShadesReading } from './schema';

/** Changes whenever the same raw reading would give another number; kept with each reading. */
export const READING_VERSION = 'reading/5';

/** What a keeper draws volumes with: the largest volume, mL, and the standard uncertainty of any volume in it, mL. */
const VESSELS = [
	// A hundredth-marked 1 mL syringe, its plunger's edge set by eye.
	{ upToMl: 1, volumeMl: 0.01 },
	// A household 5 mL syringe with marks of 0.2 mL.
	{ upToMl: 6, volumeMl: 0.06 },
	// A line on the vial, or a larger syringe.
	{ upToMl: Infinity, volumeMl: 0.15 }
];
/**
 * Standard uncertainty of a volume drawn, mL, where the method does not say.
 *
 * @example defaultVolumeMl(5) // → 0.06
 */
export const defaultVolumeMl = (ml: number): number => VESSELS.find((v) => ml <= v.upToMl)!.volumeMl;
/** Strength of a titrant from batch to batch. */
export const DEFAULT_TITRANT_RELATIVE = 0.01;

/**
 * From what was seen on an instrument to a value in the method's unit with its error budget (GUM, JCGM 100).
 * Never rounded; a bound or an interval stays one. Problems carry paths into the request.
 *
 * @example read({ method: SHIPPED_METHODS[0], reading: { left: 0.48 } }).value.value // → 8.748
 */
export function read(request: ReadingRequest): Outcome<Measured> {
	const { method } = request;
	const reading = request.proved?.scatter ? unpractised(request.reading) : request.reading;
	const flaws = checkMethod(method);
	if (flaws.length) return badAll(flaws.map((f) => ({ ...f, path: `/method${f.path}` })));
	const wrongKind = misfit(method, reading);
	if (wrongKind) return badAll([wrongKind]);
	const sample = chosenSample(method, request.sample);
	if (!sample.ok) return sample;

	const seen = observe(method, reading);
	if (!seen.ok) return seen;
	const shares = sharesOf(method, sample.value);
	const onChart = toValue(method, reading, titrated(method, seen.value, shares));
	if (!onChart.ok) return onChart;

	const { dilution } = reading;
	if (dilution && UNDILUTED.includes(method.parameter))
		return bad(
			'/reading/dilution',
			'cannot be: purified water does not thin this, it changes it in ways of its own'
		);
	const diluted = dilution ? (dilution.sampleMl + dilution.waterMl) / dilution.sampleMl : 1;
	let result = scaledBy(onChart.value, sample.value.times * diluted);
	const size = Math.abs(standsFor(result));
	// Where nothing is titrated the sample acts on the value itself.
	if (!isTitration(method)) result.errors.push(...shares.map((e) => scaledError(e, size)));
	if (dilution)
		result.errors.push(repeatability('diluting the sample', dilutionError(method, dilution) * size));
	if (method.takeAway) {
		const { parameter, times } = method.takeAway;
		const other = request.other?.[parameter];
		if (!other)
			return bad(
				`/other/${parameter}`,
				`is needed: this method takes the ${parameter} of the same water away`
			);
		result = without(result, parameter, times, other, shares);
	}
	result.errors = result.errors.filter((e) => e.standardUncertainty > 0);
	if (method.takeAway && isLessThanNothing(result, method))
		return bad(
			'/reading',
			`leaves less than nothing once the ${method.takeAway.parameter} is taken away; measure both again in the same water`
		);
	const said = assemble(result, method);
	return good(request.proved ? resultAsProved(said, method.parameter, request.proved) : said);
}

/** Pairs of real water say what a hand scatters by better than practice does: of that only where it ends stays. */
function unpractised(reading: RawReading): RawReading {
	if (!('hand' in reading) || !reading.hand) return reading;
	const { hand, ...seen } = reading;
	const { endPoint } = hand;
	const usual = rectangular(1 / 2);
	return endPoint
		? ({ ...seen, hand: { tries: hand.tries, endPoint: { ...endPoint, scatter: usual } } } as RawReading)
		: (seen as RawReading);
}

const isTitration = (method: Method) => method.reads === 'syringe' || method.reads === 'drops';
/**
 * What a sample or a titrant is off by acts on what is used of the titrant, and goes on through the chart from there (GUM
 * 5.1.3): the titrant on all that is used, the sample on what it uses (in a back titration, on what is then missing).
 */
function titrated(method: Method, seen: Observation, shares: Contribution[]): Observation {
	if (method.reads !== 'syringe' && method.reads !== 'drops') return seen;
	const used = middle(seen);
	if (used === null) return seen;
	const asked = Math.abs(used - usedByNothing(method));
	const errors = shares.map((e) => scaledError(e, e.source === TITRANT ? Math.abs(used) : asked));
	return { ...seen, errors: [...seen.errors, ...errors] };
}

/** What is used of the titrant for water that has nothing of the parameter: none, or all where it is titrated back. */
function usedByNothing(method: SyringeMethod | DropsMethod): number {
	const { scale } = method;
	if (scale.kind === 'linear') return 0;
	const byLeft = method.reads === 'syringe' && scale.by === 'left';
	const fill = method.reads === 'syringe' ? method.syringe.fillMl : 0;
	const points = sortedPoints(scale.points.map(([x, y]): [number, number] => [byLeft ? fill - x : x, y]));
	const [first, last] = [points[0]!, points.at(-1)!];
	if (last[1] >= first[1]) return 0;
	const before = points.at(-2)!;
	return last[0] - (last[1] * (last[0] - before[0])) / (last[1] - before[1] || -1e-12);
}

/** What no purified water thins: acidity answers by its buffers, warmth by the room. */
const UNDILUTED = ['ph', 'temperature'];

/** What a dilution is drawn with by a keeper's hand: standard uncertainty of one draw, and the most of one, mL. */
const DRAWN_WITH: Record<NonNullable<Dilution['vessel']>, { off: number; most: number }> = {
	// A hundredth-marked syringe, its plunger's edge set by eye and its tip not always dry.
	'syringe-1': { off: 0.015, most: 1 },
	// Marks of 0.2 mL, set to a quarter of a mark.
	'syringe-5': { off: 0.05, most: 5 },
	pipette: { off: 0.05, most: 5 },
	// A meniscus at a line on a vial as wide as a thumb.
	line: { off: 0.1, most: Infinity }
};

/** Of the factor 1 + water/sample, as a fraction of it: both volumes are off by what they are drawn with, as often as it takes. */
function dilutionError(method: Method, { sampleMl, waterMl, vessel }: Dilution): number {
	const { off, most } = DRAWN_WITH[vessel ?? 'syringe-5'];
	const one = vessel ? off : (method.uncertainty?.volumeMl ?? off);
	const share = (ml: number) => (one * Math.sqrt(Math.max(1, Math.ceil(ml / most)))) / ml;
	return (waterMl / (sampleMl + waterMl)) * Math.hypot(share(sampleMl), share(waterMl));
}

/** A result less another parameter's; what both share by sample and titrant counts for the difference alone. */
function without(
	result: Observation,
	parameter: string,
	times: number,
	other: NonNullable<ReadingRequest['other']>[string],
	shares: Contribution[]
): Observation {
	const before = middle(result);
	const left = movedBy(result, -times * other.value);
	const after = middle(left);
	if (before === null || after === null) return left;
	const u = times * other.standardUncertainty;
	// What is not said to stay with the kit stays by half, by variance.
	const stays = Math.min(u, other.trueness === undefined ? u * Math.SQRT1_2 : times * other.trueness);
	const changes = Math.sqrt(u * u - stays * stays);
	if (!other.shared || before === 0) {
		left.errors.push(repeatability(`${parameter} taken away`, changes));
		left.errors.push(trueness(`${parameter} taken away, its kit`, stays));
		return left;
	}
	const common = new Set(shares.map((e) => e.source));
	const part = Math.abs(after / before);
	left.errors = left.errors.map((e) => (common.has(e.source) ? scaledError(e, part) : e));
	const inOther = (kind: Contribution['kind']) =>
		times * other.value * combined(shares.filter((e) => e.kind === kind));
	const rest = (all: number, shared: number) => Math.sqrt(Math.max(0, all * all - shared * shared));
	left.errors.push(repeatability(`${parameter} taken away`, rest(changes, inOther('repeatability'))));
	left.errors.push(trueness(`${parameter} taken away, its kit`, rest(stays, inOther('trueness'))));
	return left;
}

/** Whether even the upper end of what it may be lies below nothing. */
function isLessThanNothing(result: Observation, method: Method): boolean {
	const value = middle(result);
	return (
		value !== null && method.parameter !== 'temperature' && value + COVERAGE_95 * combined(result.errors) < 0
	);
}

interface Drawn extends SampleSize {
	/** Standard uncertainty of the sample's volume, as a fraction of it. */
	relativeError: number;
}

/** The sample drawn: the first unless named. The same absolute error weighs more in a smaller one. */
function chosenSample(method: Method, id: string | undefined): Outcome<Drawn> {
	const { sampleRelative, volumeMl } = method.uncertainty ?? {};
	const first = method.samples?.[0];
	const drawn = id === undefined ? first : method.samples?.find((s) => s.id === id);
	if (!drawn && id !== undefined) {
		const names = (method.samples ?? [{ id: 'full' }]).map((s) => s.id).join(', ');
		if (method.samples || id !== 'full')
			return bad('/sample', `this method has no sample called “${id}”; it has ${names}`);
	}
	if (!drawn || !first)
		return good({
			id: 'full',
			ml: 1,
			times: 1,
			relativeError: sampleRelative ?? (isTitration(method) ? DEFAULT_SAMPLE_RELATIVE : 0)
		});
	const stated = sampleRelative === undefined ? 0 : sampleRelative * (first.ml / drawn.ml);
	const absolute =
		volumeMl ?? (sampleRelative === undefined && isTitration(method) ? defaultVolumeMl(drawn.ml) : 0);
	return good({ ...drawn, relativeError: Math.hypot(stated, absolute / drawn.ml) });
}
/** Of a sample of which nothing is known, not even its volume. */
export const DEFAULT_SAMPLE_RELATIVE = 0.015;
const TITRANT = 'titrant strength';

/**
 * Errors of sample and titrant, as fractions. Half of the sample's (by variance) stays: the vessel; the other half changes: how
 * it was drawn this time.
 */
function sharesOf(method: Method, sample: Drawn): Contribution[] {
	const half = sample.relativeError * Math.SQRT1_2;
	const errors = [trueness('sample volume', half), repeatability('drawing the sample', half)];
	if (isTitration(method))
		errors.push(trueness(TITRANT, method.uncertainty?.titrantRelative ?? DEFAULT_TITRANT_RELATIVE));
	return errors;
}

/** From the instrument's axis to the method's unit, for the first sample. */
function toValue(method: Method, reading: RawReading, seen: Observation): Outcome<Observation> {
	switch (method.reads) {
		case 'syringe': {
			const { scale, syringe } = method;
			if (scale.kind === 'linear') return good(movedBy(scaledBy(seen, scale.perMl), scale.atZero ?? 0));
			// A chart by what is left runs on what is left of one fill.
			return scale.by === 'left'
				? throughTable(movedBy(scaledBy(seen, -1), syringe.fillMl), scale.points)
				: throughTable(seen, scale.points);
		}
		case 'drops':
			return method.scale.kind === 'linear'
				? good(movedBy(scaledBy(seen, method.scale.perDrop), method.scale.atZero ?? 0))
				: throughTable(seen, method.scale.points);
		case 'shades': {
			const printed = columnRead(method, reading as ShadesReading)?.unit ?? method.unit;
			return isQuantity(method.parameter)
				? converted(seen, method.parameter, printed, method.unit)
				: good(seen);
		}
		case 'display':
		case 'scale-line':
			return isQuantity(method.parameter)
				? converted(seen, method.parameter, method.display.unit, method.unit)
				: good(seen);
	}
}

/** Linear between the chart's lines; past an end only a bound is known. */
function throughTable(seen: Observation, unsorted: [number, number][]): Outcome<Observation> {
	const points = sortedPoints(unsorted);
	const [first, last] = [points[0]!, points.at(-1)!];
	const rising = last[1] >= first[1];
	const slopeAt = (i: number) => {
		const [from, to] = [points[i]!, points[i + 1]!];
		return (to[1] - from[1]) / (to[0] - from[0]);
	};
	/** The bound that holds past the end x lies beyond: it is off by as much as what was read. */
	const past = (x: number): Observation => {
		const before = x < first[0];
		const slope = slopeAt(before ? 0 : points.length - 2);
		return {
			kind: before === rising ? 'below' : 'above',
			at: before ? first[1] : last[1],
			errors: steepened(seen.errors, slope)
		};
	};

	if (seen.kind === 'point') {
		const hit = interpolate(points, seen.at);
		if (!hit) return good(past(seen.at));
		return good({ kind: 'point', at: hit.value, errors: steepened(seen.errors, hit.slope) });
	}
	if (seen.kind !== 'between') return good(seen);
	const low = interpolate(points, seen.from);
	const high = interpolate(points, seen.to);
	if (low && high) {
		const [from, to] = [low.value, high.value].sort((a, b) => a - b) as [number, number];
		return good({ kind: 'between', from, to, errors: steepened(seen.errors, (low.slope + high.slope) / 2) });
	}
	// One end on the chart: the value lies on the far side of it. None: past one end, or the chart says nothing.
	const end = (hit: { value: number; slope: number }, kind: 'above' | 'below') =>
		good<Observation>({ kind, at: hit.value, errors: steepened(seen.errors, hit.slope) });
	if (low) return end(low, rising ? 'above' : 'below');
	if (high) return end(high, rising ? 'below' : 'above');
	if (seen.from < first[0] && seen.to > last[0])
		return bad('/reading', 'spans the whole chart; read it again');
	return good(past(seen.from));
}

const steepened = (errors: Contribution[], slope: number): Contribution[] =>
	errors.map((e) => scaledError(e, slope));

function scaledBy(seen: Observation, factor: number): Observation {
	const errors = steepened(seen.errors, factor);
	if (seen.kind === 'point')
		return { kind: 'point', at: seen.at * factor, errors, ...within(seen, (x) => x * factor) };
	if (seen.kind === 'between') {
		const [from, to] = [seen.from * factor, seen.to * factor].sort((a, b) => a - b) as [number, number];
		return { kind: 'between', from, to, errors };
	}
	return { kind: seen.kind, at: seen.at * factor, errors };
}

function movedBy(seen: Observation, shift: number): Observation {
	if (seen.kind === 'between')
		return { ...seen, from: seen.from + shift, to: seen.to + shift, errors: [...seen.errors] };
	const moved = { ...seen, at: seen.at + shift, errors: [...seen.errors] };
	return moved.kind === 'point' ? { ...moved, ...within(moved, (x) => x + shift) } : moved;
}

/** The ends a point cannot be outside of, through the same change as the point. */
const within = (
	seen: { within?: [number, number] },
	through: (x: number) => number
): { within?: [number, number] } =>
	seen.within ? { within: seen.within.map(through).sort((a, b) => a - b) as [number, number] } : {};

/** Through a change of unit that may be curved (specific gravity): errors by the slope where the value stands. */
function converted(seen: Observation, quantity: Quantity, from: string, to: string): Outcome<Observation> {
	if (from === to) return good(seen);
	const through = (value: number) => convert({ quantity, value, from, to });
	const at = (value: number): Outcome<number> => {
		const result = through(value);
		return result.ok
			? good(result.value.value)
			: badAll(result.problems.map((p) => ({ ...p, path: '/reading' })));
	};
	const centre = middle(seen) ?? (seen.kind === 'between' ? seen.from : seen.at);
	const low = at(seen.kind === 'between' ? seen.from : centre);
	const high = at(seen.kind === 'between' ? seen.to : centre);
	if (!low.ok) return low;
	if (!high.ok) return high;
	const nearby = centre * (1 + 1e-6) + 1e-9;
	const there = through(nearby);
	const here = at(centre);
	const slope = there.ok && here.ok ? (there.value.value - here.value) / (nearby - centre) : 1;
	const errors = steepened(seen.errors, slope);
	return good(
		seen.kind === 'between'
			? { kind: 'between', from: low.value, to: high.value, errors }
			: seen.kind === 'point'
				? {
						kind: 'point',
						at: low.value,
						errors,
						...within(seen, (x) => {
							const end = through(x);
							return end.ok ? end.value.value : x;
						})
					}
				: { kind: seen.kind, at: low.value, errors }
	);
}

/** The number that stands for it: a point, the middle of an interval; a bound has none. */
function middle(seen: Observation): number | null {
	if (seen.kind === 'point') return seen.at;
	return seen.kind === 'between' ? (seen.from + seen.to) / 2 : null;
}

/** The number whose size errors go by: of a bound its end. */
const standsFor = (seen: Observation): number => middle(seen) ?? (seen.kind === 'between' ? 0 : seen.at);

function assemble(seen: Observation, method: Method): Measured {
	const floor = method.parameter === 'temperature' ? -Infinity : 0;
	const atLeastFloor = (x: number) => Math.max(floor, x);
	if (seen.kind === 'below')
		return bound('<', method.unit, [Number.isFinite(floor) ? 0 : null, atLeastFloor(seen.at)], seen.errors);
	if (seen.kind === 'above') return bound('>', method.unit, [atLeastFloor(seen.at), null], seen.errors);

	const budget = [...seen.errors];
	if (seen.kind === 'between')
		budget.push(repeatability('between two lines', rectangular((seen.to - seen.from) / 2)));
	const standardUncertainty = combined(budget);
	const about = centred(budget);
	const half = COVERAGE_95 * about.sd;
	const value = middle(seen)!;
	const centre = value + about.mean;
	const [least, most] = (seen.kind === 'point' && seen.within) || [-Infinity, Infinity];
	// More taken away than there was: all that is known is that there is little.
	if (value < floor) return bound('<', method.unit, [0, atLeastFloor(centre + half)], []);
	return ranged({
		value,
		unit: method.unit,
		qualifier: seen.kind === 'between' ? 'between' : '=',
		standardUncertainty,
		interval:
			seen.kind === 'between'
				? [atLeastFloor(seen.from), atLeastFloor(seen.to)]
				: [Math.max(atLeastFloor(centre - half), least), Math.min(atLeastFloor(centre + half), most)],
		repeatability: combined(budget.filter((e) => e.kind === 'repeatability')),
		trueness: combined(budget.filter((e) => e.kind === 'trueness')),
		budget
	});
}

const ranged = (said: Omit<Measured, 'range95'>): Measured => ({ ...said, range95: range95Of(said) });

/** A bound, with what its end is off by; an end that is itself a 95 % one has nothing more. */
function bound(
	qualifier: '<' | '>',
	unit: string,
	interval: [number | null, number | null],
	budget: Contribution[]
): Measured {
	const size = (kind?: Contribution['kind']) =>
		budget.length ? combined(budget.filter((e) => !kind || e.kind === kind)) : null;
	return ranged({
		value: null,
		unit,
		qualifier,
		standardUncertainty: size(),
		interval,
		repeatability: size('repeatability'),
		trueness: size('trueness'),
		budget
	});
}
