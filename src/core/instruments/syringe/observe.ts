import { bad, badAll, good, type Outcome, type Problem } from '../../base';
import { beyondEnd, lastDrop } from '../end-point';
import { repeatability, seenAs, triangular, type Observation } from '../observation';
import { throughLine } from '../titration';
import { movedBy, scaledBy, throughTable } from '../transforms';
import type { SyringeMethod, SyringeReading } from './schema';

/** Where the plunger stands, and by which convention that was read. */
export const plungerOf = (
	reading: SyringeReading
): { field: 'left' | 'used'; seen: number | [number, number] } =>
	'left' in reading ? { field: 'left', seen: reading.left } : { field: 'used', seen: reading.used };

/** The same reading with its plunger elsewhere, by either convention. */
export function withPlunger(
	reading: SyringeReading,
	field: 'left' | 'used',
	seen: number | [number, number]
): SyringeReading {
	const by = <T extends object>(along: T) =>
		field === 'left' ? { ...along, left: seen } : { ...along, used: seen };
	if ('left' in reading) {
		const { left: _was, ...along } = reading;
		return by(along);
	}
	const { used: _was, ...along } = reading;
	return by(along);
}

/** Volume of the drop at a 1 mL syringe's tip, mL: fine plastic tips give 10 to 15 µL. */
export const DEFAULT_DROP_ML = 0.012;

/**
 * Millilitres of titrant used, over all fills. Errors: the plunger is set to the fill line once a fill and read once
 * (each triangular over half a graduation either way), and the last drop was needed only in part (`lastDrop`). Two lines stay two
 * lines. Problems: a plunger outside the syringe, an interval of no width.
 */
export function observeSyringe(method: SyringeMethod, reading: SyringeReading): Outcome<Observation> {
	const { fillMl, graduationMl } = method.syringe;
	const { field, seen } = plungerOf(reading);
	const ends = typeof seen === 'number' ? [seen] : seen;
	const problems: Problem[] = ends
		.map((end, i) => ({ end, path: ends.length > 1 ? `/reading/${field}/${i}` : `/reading/${field}` }))
		.filter(({ end }) => !(end >= 0 && end <= fillMl))
		.map(({ path }) => ({ path, message: `must be between 0 and ${fillMl} mL, the syringe's size` }));
	if (problems.length) return badAll(problems);
	if (typeof seen !== 'number' && !(seen[0] < seen[1]))
		return bad(`/reading/${field}`, 'must name the smaller end first, then the larger');

	const refills = reading.refills ?? 0;
	const before = refills * fillMl;
	const used = (plunger: number) => before + (field === 'left' ? fillMl - plunger : plunger);
	const line = triangular(graduationMl / 2);
	const left = typeof seen === 'number' ? (field === 'left' ? seen : fillMl - seen) : undefined;
	// What was kept is what the photograph said, to a twentieth of a line.
	const byCamera =
		reading.camera !== undefined &&
		left !== undefined &&
		Math.abs(reading.camera.left - left) <= graduationMl / 20;
	const dropMl = method.uncertainty?.dropMl ?? DEFAULT_DROP_ML;
	const { endPoint, lines } = reading.hand ?? {};
	const errors = [
		repeatability('filling to the line', line * Math.sqrt(refills + 1)),
		byCamera && reading.camera
			? repeatability('the photograph', reading.camera.standardUncertainty)
			: repeatability('reading the plunger', lines === undefined ? line : lines * graduationMl),
		...lastDrop(endPoint, method.endPoint, dropMl)
	];
	if (typeof seen !== 'number') return good(seenAs([used(seen[0]), used(seen[1])], errors));
	const at = used(seen);
	return good(seenAs(Math.max(0, at - beyondEnd(endPoint, method.endPoint) * dropMl), errors));
}

/** What was used of the titrant, through the kit's scale. */
export function syringeValue({ scale, syringe }: SyringeMethod, seen: Observation): Outcome<Observation> {
	if (scale.kind === 'linear') return throughLine(seen, scale.perMl, scale.atZero);
	// A chart by what is left runs on what is left of one fill.
	return scale.by === 'left'
		? throughTable(movedBy(scaledBy(seen, -1), syringe.fillMl), scale.points)
		: throughTable(seen, scale.points);
}
