import { hasTrait, isSolute } from '../catalogue';
import { bad, badAll, good, type Outcome } from '../base';
import {
	centred,
	combined,
	instrumentOf,
	middle,
	misfit,
	movedBy,
	rectangular,
	repeatability,
	scaledBy,
	scaledError,
	standsFor,
	tagged,
	trueness,
	type Contribution,
	type Method,
	type Observation,
	type RawReading,
	type SampleSize
} from '../instruments';
import { COVERAGE_95 } from '../statistics';
import { checkMethod } from './check';
import { dilutionError } from './dilution';
import { resultAsProved } from './proved';
import { range95Of } from './range';
import type { Measured, ReadingRequest } from './schema';

/** Changes whenever the same raw reading would give another number; kept with each reading. */
export const READING_VERSION = 'reading/6';

/** What a keeper draws volumes with: the largest volume, mL, and the standard uncertainty of any volume in it, mL. */
const VESSELS = [
	// A hundredth-marked 1 mL syringe, its plunger's edge set by eye.
	{ upToMl: 1, volumeMl: 0.01 },
	// A household 5 mL syringe with marks of 0.2 mL.
	{ upToMl: 6, volumeMl: 0.06 },
	// A line on the vial, or a larger syringe.
	{ upToMl: Infinity, volumeMl: 0.15 }
];
/** Standard uncertainty of a volume drawn, mL, where the method does not say. */
const defaultVolumeMl = (ml: number): number => VESSELS.find((v) => ml <= v.upToMl)!.volumeMl;
/** Strength of a titrant from batch to batch. */
const DEFAULT_TITRANT_RELATIVE = 0.01;

/**
 * From what was seen on an instrument to a value in the method's unit with its error budget (GUM, JCGM 100).
 * Never rounded; a bound or an interval stays one. Problems carry paths into the request.
 *
 * @example read({ method: SHIPPED_METHODS[0], reading: { left: 0.48 } }).value.value // → 8.748
 */
export function read(request: ReadingRequest): Outcome<Measured> {
	const { method } = request;
	const instrument = instrumentOf(method);
	const flaws = checkMethod(method);
	if (flaws.length) return badAll(flaws.map((f) => ({ ...f, path: `/method${f.path}` })));
	const wrongKind = misfit(method, request.reading);
	if (wrongKind) return badAll([wrongKind]);
	const given = tagged(method, request.reading);
	const reading = request.proved?.scatter ? unpractised(given) : given;
	const sample = chosenSample(method, request.sample);
	if (!sample.ok) return sample;

	const seen = instrument.observe(method, reading);
	if (!seen.ok) return seen;
	const shares = sharesOf(method, sample.value);
	const onChart = instrument.toValue(method, reading, titrated(method, seen.value, shares));
	if (!onChart.ok) return onChart;

	const { dilution } = reading;
	if (dilution && !isSolute(method.parameter))
		return bad(
			'/reading/dilution',
			'is not possible here: purified water does not change this in proportion; test the water undiluted'
		);
	if (dilution && instrument.countsDilution?.(method, reading))
		return bad(
			'/reading/dilution',
			'this column counts this dilution already, its values are those of the diluted sample: leave it out here'
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
	const hand = 'hand' in reading ? reading.hand : undefined;
	if (!hand) return reading;
	const { tries, endPoint } = hand;
	const ends = endPoint && { tries, endPoint: { ...endPoint, scatter: rectangular(1 / 2) } };
	return instrumentOf(reading).withTechnique?.(reading, ends) ?? reading;
}

const isTitration = (method: Method) => instrumentOf(method).titration !== undefined;
/**
 * What a sample or a titrant is off by acts on what is used of the titrant, and goes on through the chart from there (GUM
 * 5.1.3): the titrant on all that is used, the sample on what it uses (in a back titration, on what is then missing).
 */
function titrated(method: Method, seen: Observation, shares: Contribution[]): Observation {
	const { titration } = instrumentOf(method);
	const used = middle(seen);
	if (!titration || used === null) return seen;
	const asked = Math.abs(used - titration.usedByNothing(method));
	const errors = shares.map((e) => scaledError(e, e.source === TITRANT ? Math.abs(used) : asked));
	return { ...seen, errors: [...seen.errors, ...errors] };
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
		value !== null &&
		!hasTrait(method.parameter, 'signed') &&
		value + COVERAGE_95 * combined(result.errors) < 0
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
const DEFAULT_SAMPLE_RELATIVE = 0.015;
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

function assemble(seen: Observation, method: Method): Measured {
	const floor = hasTrait(method.parameter, 'signed') ? -Infinity : 0;
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
