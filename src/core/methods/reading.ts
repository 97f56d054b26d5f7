import { bad, badAll, good, type Outcome } from '../problems';
import { convert, isQuantity, type Quantity } from '../quantities';
import { checkMethod } from './check';
import { misfit, observe } from './observe';
import { combined, rectangular, repeatability, trueness, type Observation } from './observation';
import type { Method, SampleSize } from './profile';
import { interpolate, sortedPoints } from './scale';
import { columnRead } from './shades';
import type { Contribution, Measured, RawReading, ReadingRequest, ShadesReading } from './schema';

/** Changes whenever the same raw reading would give another number; kept with each reading. */
export const READING_VERSION = 'reading/1';

/** Half-width of a 95 % interval in standard uncertainties, normal distribution (GUM table G.1). */
export const COVERAGE_95 = 1.96;

/** A household 5 or 10 mL syringe, set by eye, relative to the first sample's volume. */
export const DEFAULT_SAMPLE_RELATIVE = 0.015;
/** Strength of a titrant from batch to batch. */
export const DEFAULT_TITRANT_RELATIVE = 0.01;

/**
 * From what was seen on an instrument to a value in the method's unit with its error budget (GUM, JCGM 100).
 * Never rounded; a bound or an interval stays one. Problems carry paths into the request.
 */
export function read(request: ReadingRequest): Outcome<Measured> {
	const { method, reading } = request;
	const flaws = checkMethod(method);
	if (flaws.length) return badAll(flaws.map((f) => ({ ...f, path: `/method${f.path}` })));
	const wrongKind = misfit(method, reading);
	if (wrongKind) return badAll([wrongKind]);
	const sample = chosenSample(method, request.sample);
	if (!sample.ok) return sample;

	const seen = observe(method, reading);
	if (!seen.ok) return seen;
	const onChart = toValue(method, reading, seen.value);
	if (!onChart.ok) return onChart;

	const { dilution } = reading;
	const thinned = dilution ? (dilution.sampleMl + dilution.waterMl) / dilution.sampleMl : 1;
	let result = scaledBy(onChart.value, sample.value.times * thinned);
	const relative = relativeErrors(method, sample.value);
	const v = middle(result);
	if (v !== null) {
		result.errors.push(
			...relative.map((e) => ({ ...e, standardUncertainty: e.standardUncertainty * Math.abs(v) }))
		);
		if (dilution) {
			// Factor 1 + water/sample, both volumes measured as well as the sample is.
			const share = sample.value.relativeError * Math.SQRT2 * (1 - 1 / thinned);
			result.errors.push(repeatability('thinning the sample', share * Math.abs(v)));
		}
	}
	if (method.takeAway) {
		const { parameter, times } = method.takeAway;
		const other = request.other?.[parameter];
		if (!other)
			return bad(
				`/other/${parameter}`,
				`is needed: this method takes the ${parameter} of the same water away`
			);
		result = movedBy(result, -times * other.value);
		if (middle(result) !== null)
			result.errors.push(repeatability(`${parameter} taken away`, times * other.standardUncertainty));
	}
	result.errors = result.errors.filter((e) => e.standardUncertainty > 0);
	return good(assemble(result, method));
}

interface Drawn extends SampleSize {
	/** Standard uncertainty of the sample's volume, as a fraction of it. */
	relativeError: number;
}

/** The sample drawn: the first unless named. The same absolute error weighs more in a smaller one. */
function chosenSample(method: Method, id: string | undefined): Outcome<Drawn> {
	const titrated = method.reads === 'syringe' || method.reads === 'drops';
	const whole = method.uncertainty?.sampleRelative ?? (titrated ? DEFAULT_SAMPLE_RELATIVE : 0);
	const first = method.samples?.[0] ?? { id: 'full', ml: 1, times: 1 };
	if (id === undefined) return good({ ...first, relativeError: whole });
	const drawn = [first, ...(method.samples ?? [])].find((s) => s.id === id);
	if (!drawn) {
		const names = (method.samples ?? [first]).map((s) => s.id).join(', ');
		return bad('/sample', `this method has no sample called “${id}”; it has ${names}`);
	}
	return good({ ...drawn, relativeError: whole * (first.ml / drawn.ml) });
}

/** Errors that are a share of the value, as fractions of it. */
function relativeErrors(method: Method, sample: Drawn): Contribution[] {
	const errors = [trueness('sample volume', sample.relativeError)];
	if (method.reads === 'syringe' || method.reads === 'drops')
		errors.push(
			trueness('titrant strength', method.uncertainty?.titrantRelative ?? DEFAULT_TITRANT_RELATIVE)
		);
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
	/** The bound that holds past the end x lies beyond. */
	const past = (x: number): Observation =>
		x < first[0] === rising
			? { kind: 'below', at: x < first[0] ? first[1] : last[1], errors: [] }
			: { kind: 'above', at: x < first[0] ? first[1] : last[1], errors: [] };

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
	if (low) return good({ kind: rising ? 'above' : 'below', at: low.value, errors: [] });
	if (high) return good({ kind: rising ? 'below' : 'above', at: high.value, errors: [] });
	if (seen.from < first[0] && seen.to > last[0])
		return bad('/reading', 'spans the whole chart; read it again');
	return good(past(seen.from));
}

const steepened = (errors: Contribution[], slope: number): Contribution[] =>
	errors.map((e) => ({ ...e, standardUncertainty: e.standardUncertainty * Math.abs(slope) }));

function scaledBy(seen: Observation, factor: number): Observation {
	const errors = steepened(seen.errors, factor);
	if (seen.kind === 'point') return { kind: 'point', at: seen.at * factor, errors };
	if (seen.kind === 'between') {
		const [from, to] = [seen.from * factor, seen.to * factor].sort((a, b) => a - b) as [number, number];
		return { kind: 'between', from, to, errors };
	}
	return { kind: seen.kind, at: seen.at * factor, errors };
}

function movedBy(seen: Observation, shift: number): Observation {
	return seen.kind === 'between'
		? { ...seen, from: seen.from + shift, to: seen.to + shift, errors: [...seen.errors] }
		: { ...seen, at: seen.at + shift, errors: [...seen.errors] };
}

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
			: { kind: seen.kind, at: low.value, errors }
	);
}

/** The number that stands for it: a point, the middle of an interval; a bound has none. */
function middle(seen: Observation): number | null {
	if (seen.kind === 'point') return seen.at;
	return seen.kind === 'between' ? (seen.from + seen.to) / 2 : null;
}

function assemble(seen: Observation, method: Method): Measured {
	const floor = method.parameter === 'temperature' ? -Infinity : 0;
	const atLeastFloor = (x: number) => Math.max(floor, x);
	if (seen.kind === 'below')
		return bound('<', method.unit, [Number.isFinite(floor) ? 0 : null, atLeastFloor(seen.at)]);
	if (seen.kind === 'above') return bound('>', method.unit, [atLeastFloor(seen.at), null]);

	const budget = [...seen.errors];
	if (seen.kind === 'between')
		budget.push(repeatability('between two lines', rectangular((seen.to - seen.from) / 2)));
	const standardUncertainty = combined(budget);
	const half = COVERAGE_95 * standardUncertainty;
	const value = middle(seen)!;
	// More taken away than there was: all that is known is that there is little.
	if (value < floor) return bound('<', method.unit, [0, atLeastFloor(value + half)]);
	return {
		value,
		unit: method.unit,
		qualifier: seen.kind === 'between' ? 'between' : '=',
		standardUncertainty,
		interval:
			seen.kind === 'between'
				? [atLeastFloor(seen.from), atLeastFloor(seen.to)]
				: [atLeastFloor(value - half), value + half],
		repeatability: combined(budget.filter((e) => e.kind === 'repeatability')),
		trueness: combined(budget.filter((e) => e.kind === 'trueness')),
		budget
	};
}

const bound = (qualifier: '<' | '>', unit: string, interval: [number | null, number | null]): Measured => ({
	value: null,
	unit,
	qualifier,
	standardUncertainty: null,
	interval,
	repeatability: null,
	trueness: null,
	budget: []
});
