import { density, salinityFromDensity, specificGravity } from '../../catalogue';
import { bad, badAll, good, type Outcome, type Problem } from '../../base';
import {
	combined,
	rectangular,
	repeatability,
	seenAs,
	triangular,
	trueness,
	type Observation
} from '../observation';
import type { Contribution } from '../reading-parts';
import type { ShownMethod, ShownReading } from '../shown-parts';

/**
 * A number shown by a meter, or a line read off a scale, in the instrument's own unit. Errors: half a last digit
 * (rectangular), half a graduation (triangular), and the maker's promise, absolute and relative (rectangular).
 * Problems: a value outside the instrument's range.
 */
export function observeShown(method: ShownMethod, reading: ShownReading): Outcome<Observation> {
	const { display } = method;
	const step =
		display.graduation === undefined
			? repeatability('last digit shown', rectangular((display.resolution ?? 0) / 2))
			: repeatability('reading the scale', triangular(display.graduation / 2));
	if ('below' in reading)
		return good({ kind: 'below', at: reading.below, errors: [step, ...promised(method, reading.below)] });
	if ('above' in reading)
		return good({ kind: 'above', at: reading.above, errors: [step, ...promised(method, reading.above)] });

	const { shown } = reading;
	const ends = typeof shown === 'number' ? [shown] : shown;
	const [low, high] = display.range ?? [-Infinity, Infinity];
	const problems: Problem[] = ends
		.filter((end) => end < low || end > high)
		.map((end) => ({
			path: '/reading/shown',
			message: `${end} is outside what this instrument shows, ${low} to ${high} ${display.unit}`
		}));
	if (problems.length) return badAll(problems);
	if (typeof shown !== 'number' && !(shown[0] < shown[1]))
		return bad('/reading/shown', 'must name the smaller end first, then the larger');

	const middle = ends.reduce((sum, end) => sum + end, 0) / ends.length;
	const { calibration } = reading;
	const errors = [step, ...promised(method, middle, calibration && { standard: calibration.standard, step })];
	const corrected = (value: number) => toReference(value + shift(reading), method, reading);
	return good(
		seenAs(typeof shown === 'number' ? corrected(shown) : [corrected(shown[0]), corrected(shown[1])], errors)
	);
}

/**
 * What the maker allows, absolute and relative, once for the instrument and once for each test. Checked with a standard it is off by what reading that was off by, and by its share of the
 * way from there; a standard that is read worse than the maker promises teaches nothing.
 */
function promised(
	method: ShownMethod,
	value: number,
	check?: { standard: number; step: Contribution }
): Contribution[] {
	const { absolute = 0, relative = 0 } = method.display;
	// A test by reagent is another vial, powder and bubble each time: of what its maker promises half the variance is that, where nothing else is said.
	const anew = method.steps?.some((step) => step.do === 'add') ? Math.SQRT1_2 : 0;
	const shared = (source: string, u: number): Contribution[] => [
		trueness(source, u * Math.sqrt(1 - anew ** 2)),
		...(anew ? [repeatability(`${source}, each test`, u * anew)] : [])
	];
	const share = (far: number) =>
		shared('instrument, share of the value', rectangular(relative * Math.abs(far)));
	const maker = [...shared('instrument, fixed part', rectangular(absolute)), ...share(value)];
	if (!check) return maker;
	const checked = [
		trueness('reading the standard', check.step.standardUncertainty),
		...share(value - check.standard)
	];
	return combined(checked) < combined(maker) ? checked : maker;
}

type Seen = Exclude<ShownReading, { below: number } | { above: number }>;

/** What the instrument was off by when it was checked with a standard. */
const shift = ({ calibration }: Seen): number => (calibration ? calibration.standard - calibration.shown : 0);

/**
 * A glass hydrometer shows the density of the water at hand over that of pure water at its own temperature. The specific
 * gravity wanted is that of the same water brought to that temperature (EOS-80; the glass itself hardly expands).
 */
function toReference(sg: number, method: ShownMethod, reading: Seen): number {
	const { hydrometerC } = method.display;
	if (hydrometerC === undefined || reading.temperatureC === undefined) return sg;
	const salinity = salinityFromDensity(sg * density(0, hydrometerC), reading.temperatureC);
	return specificGravity(salinity, hydrometerC);
}
