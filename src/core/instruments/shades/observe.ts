import { bad, good, nth, type Outcome } from '../../base';
import { rectangular, repeatability, trueness, type Observation } from '../observation';
import type { Contribution } from '../reading-parts';
import type { ShadesMethod, ShadesReading } from './schema';

/**
 * A colour matched to a card or wheel. A matched shade is triangular from the shade below to the shade above: an eye is off by
 * up to a patch (or by what practice has shown of this one), and half of that (by variance) stays with the eye. What a photograph said has its own error, if that is what was kept. A match between two shades is rectangular over the gap and
 * never outside it; without a stated position the gap itself is the answer. Problems: a shade the card does not have.
 */
export function observeShades(method: ShadesMethod, reading: ShadesReading): Outcome<Observation> {
	const column = columnRead(method, reading);
	if (reading.column !== undefined && !column) return bad('/reading/column', `is not a column of this card`);
	const shades = column?.shades ?? method.shades;
	const missing = (value: number) => !shades.includes(value);
	const known = `this card's shades are ${shades.join(', ')}`;

	if ('shade' in reading) {
		const i = shades.indexOf(reading.shade);
		if (i < 0) return bad('/reading/shade', `is not on the card; ${known}`);
		const patches = reading.hand?.patches;
		// An eye known by practice: what it tells apart, and that only whole patches are named.
		const off = matchError(shades, i);
		const u = patches === undefined ? off : gapAt(shades, i) * Math.hypot(patches, rectangular(1 / 2));
		return good({
			kind: 'point',
			at: reading.shade,
			errors: byEye(u)
		});
	}
	if ('between' in reading) {
		const [low, high] = reading.between;
		if (missing(low)) return bad('/reading/between/0', `is not on the card; ${known}`);
		if (missing(high)) return bad('/reading/between/1', `is not on the card; ${known}`);
		if (!(low < high)) return bad('/reading/between', 'must name the paler shade first, then the darker');
		const { camera } = reading;
		if (camera && byCamera(reading)) {
			// Half of the variance stays with the card and the lamp it is photographed under, as with an eye.
			const u = camera.stepUncertainty * (high - low) * Math.SQRT1_2;
			return good({
				kind: 'point',
				at: low + camera.position * (high - low),
				errors: [repeatability('the photograph', u), trueness('the card’s print, and the light', u)]
			});
		}
		const patches = reading.hand?.patches;
		if (reading.position === undefined)
			return good({ kind: 'between', from: low, to: high, errors: byEye((patches ?? OFF) * (high - low)) });
		const u = patches === undefined ? rectangular((high - low) / 2) : patches * (high - low);
		const errors = [repeatability('between two shades', u)];
		return good({ kind: 'point', at: low + reading.position * (high - low), within: [low, high], errors });
	}
	const [at, kind] =
		'below' in reading ? [reading.below, 'below' as const] : [reading.above, 'above' as const];
	const i = shades.indexOf(at);
	if (i < 0) return bad(`/reading/${kind}`, `is not on the card; ${known}`);
	return good({ kind, at, errors: byEye((reading.hand?.patches ?? OFF) * gapAt(shades, i)) });
}

/** An eye that says between which two patches is off by up to half of the gap at either end: standard uncertainty, share of the gap. */
const OFF = 1 / 4;
/** Half of an eye's variance stays with it and its lamp. */
const byEye = (u: number): Contribution[] => [
	repeatability('matching the shade', u * Math.SQRT1_2),
	trueness('the eye, and the light', u * Math.SQRT1_2)
];

/** Kept to so many decimals, what the camera said is still what it said. */
const SAME_PLACE = 0.006;
/** Whether what was kept is what the photograph said; otherwise the eye had the last word. */
const byCamera = ({ between, position, camera }: Extract<ShadesReading, { between: unknown }>): boolean =>
	camera !== undefined &&
	position !== undefined &&
	camera.between[0] === between[0] &&
	camera.between[1] === between[1] &&
	Math.abs(camera.position - position) < SAME_PLACE;

/** The column the numbers were read in; undefined for the main one. */
export const columnRead = (method: ShadesMethod, reading: ShadesReading) =>
	method.columns?.find((c) => c.name === reading.column);

/** The mean of the gaps either side of a patch; at the card's ends the one there is. */
const gapAt = (shades: number[], i: number): number => {
	const [low, high] = [Math.max(0, i - 1), Math.min(shades.length - 1, i + 1)];
	return (nth(shades, high) - nth(shades, low)) / (high - low);
};

/** Spread about the shade of a triangle that peaks on it; at the card's ends the missing half mirrors the other. */
function matchError(shades: number[], i: number): number {
	const at = nth(shades, i);
	const below = i > 0 ? at - nth(shades, i - 1) : undefined;
	const above = i < shades.length - 1 ? nth(shades, i + 1) - at : undefined;
	const a = below ?? above ?? 0;
	const b = above ?? below ?? 0;
	// Second moment of a triangle of half-widths a and b about its peak.
	return Math.sqrt((a * a + b * b + a * b) / 18 + ((b - a) / 3) ** 2);
}

/** How near a column's step to the main one has to be to a dilution to be made for it. */
const ALIKE = 0.2;
/** Whether a column's values are those of the main one for a sample that was diluted as this one was. */
function columnCounts(
	{ shades }: ShadesMethod,
	column: { shades: number[] },
	{ sampleMl, waterMl }: { sampleMl: number; waterMl: number }
): boolean {
	const last = shades.length - 1;
	const times = nth(column.shades, last) / nth(shades, last);
	const diluted = (sampleMl + waterMl) / sampleMl;
	return Math.abs(times / diluted - 1) <= ALIKE;
}
/** Whether the column that was read counts the dilution that is said beside it. */
export function countsDilution(method: ShadesMethod, reading: ShadesReading): boolean {
	if (!reading.dilution) return false;
	const column = columnRead(method, reading);
	return column !== undefined && columnCounts(method, column, reading.dilution);
}
