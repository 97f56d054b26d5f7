import { bad, badAll, good, type Outcome } from '../base';
import { convert, type Quantity } from '../quantities';
import { scaledError, type Observation } from './observation';
import { interpolate, sortedPoints } from '../statistics';
import type { Contribution } from './reading-parts';

/** What was seen, through a chart, a factor, a shift or a change of unit: its errors go along by the slope (GUM 5.1.3). */

/** Linear between the chart's lines; past an end only a bound is known. */
export function throughTable(seen: Observation, unsorted: [number, number][]): Outcome<Observation> {
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

export function scaledBy(seen: Observation, factor: number): Observation {
	const errors = steepened(seen.errors, factor);
	if (seen.kind === 'point')
		return { kind: 'point', at: seen.at * factor, errors, ...within(seen, (x) => x * factor) };
	if (seen.kind === 'between') {
		const [from, to] = [seen.from * factor, seen.to * factor].sort((a, b) => a - b) as [number, number];
		return { kind: 'between', from, to, errors };
	}
	return { kind: seen.kind, at: seen.at * factor, errors };
}

export function movedBy(seen: Observation, shift: number): Observation {
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
export function converted(
	seen: Observation,
	quantity: Quantity,
	from: string,
	to: string
): Outcome<Observation> {
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
export function middle(seen: Observation): number | null {
	if (seen.kind === 'point') return seen.at;
	return seen.kind === 'between' ? (seen.from + seen.to) / 2 : null;
}

/** The number whose size errors go by: of a bound its end. */
export const standsFor = (seen: Observation): number =>
	middle(seen) ?? (seen.kind === 'between' ? 0 : seen.at);
