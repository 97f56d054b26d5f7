import { badAll, good, nth, type Outcome, type Problem } from '../base';
import { UNITS, isQuantity, unitOf } from '../quantities';
import {
	leastSquares,
	median,
	lineOfMost,
	oneLineFits,
	residual,
	throughOrigin,
	type Line,
	type Point
} from '../statistics';
import { asksOf } from './asks';
import { roundTo, roundingOf } from './rounding';
import type { ChartRequest, ChartResult } from './schema';

/** Fill of the syringe most kits come with, mL. */
const USUAL_FILL_ML = 1;
/** A printed value lies within half a step of the truth; a little more for readings rounded too. */
const WITHIN = 0.5 * 1.05;
/** A line stands out from a straight chart when it is off by more than rounding and the fit explain, in steps. */
const STANDS_OUT = 0.85;
/** Of four lines one at an end must be off by so many steps: less, and it may be a bend. */
const FAR_OUT = 6;
/** Share of lines that must agree before the others are called mistyped. */
const MOST = 0.6;
/** A line of a curve stands out when it is off by so many times what its fellows are. */
const CURVE_STANDS_OUT = 6;

/**
 * A kit's scale from lines of its leaflet: [reading, value] each. Values that fall along the syringe mean the chart goes
 * by what is left, unless it is said to go by what was used (a back titration). Straight within the chart's own rounding gives the true slope; otherwise the lines stay a table.
 * Two lines are taken for a straight one; a third shows whether it is. Lines that do not fit their fellows are named, with the value they should probably have.
 * What the chart as a whole does not look like is in `asks`.
 * Problems: units, readings outside the syringe, one reading twice, lines all alike.
 *
 * @example chart({ parameter: 'alkalinity', unit: 'dKH', reads: 'syringe', points: [[1, 0], [0.5, 8.4], [0.2, 13.4]], syringe: { fillMl: 1 } }).value.perMl // → 16.76
 */
export function chart(request: ChartRequest): Outcome<ChartResult> {
	const problems = flaws(request);
	if (problems.length) return badAll(problems);
	const { points, reads } = request;
	const rounding = roundingOf(points.map(([, value]) => value));
	const typed: Point[] = points.map(([x, y], index) => ({ x, y, index }));
	const falling = medianSlope(typed) < 0;
	const readAs = reads === 'syringe' ? (request.readAs ?? (falling ? 'left' : 'used')) : undefined;
	const fill = request.syringe?.fillMl ?? USUAL_FILL_ML;
	const used = typed.map((p) => (readAs === 'left' ? { ...p, x: fill - p.x } : p)).sort((a, b) => a.x - b.x);
	const result = { ...fitted(request, used, rounding, readAs), ...(readAs ? { readAs } : {}), rounding };
	return good({ ...result, asks: asksOf({ request, used, result }) });
}

type Fitted = Pick<ChartResult, 'scale' | 'linear' | 'perMl' | 'perDrop' | 'worstResidual' | 'suspects'>;

/** The scale through the lines by what was used: straight within their rounding, or a table. */
function fitted(
	{ points, reads, sure = [] }: ChartRequest,
	used: Point[],
	rounding: number,
	readAs: 'left' | 'used' | undefined
): Fitted {
	const table = (lines: Point[]): Fitted['scale'] => ({
		kind: 'table',
		points: lines.map((p): [number, number] => nth(points, p.index)).sort((a, b) => a[0] - b[0]),
		...(readAs ? { by: readAs } : {})
	});
	const straight = used.length === 2 ? throughBoth(used, rounding) : fitStraight(used, rounding);
	if (!straight || straight.line.b === 0) {
		const { kept, suspects, worstResidual } = curveSuspects(used, rounding);
		const right = used.filter((p) => !kept.includes(p) && sure.includes(p.index));
		return {
			scale: table([...kept, ...right]),
			linear: false,
			worstResidual,
			suspects: suspects.filter(({ index }) => !sure.includes(index))
		};
	}
	const { line, on, off } = straight;
	// A line that is right all the same makes it no straight chart.
	const right = off.filter((p) => sure.includes(p.index));
	if (right.length) {
		const kept = [...on, ...right];
		const suspects = off.filter((p) => !right.includes(p));
		return {
			scale: table(kept),
			linear: false,
			worstResidual: worst(line, kept),
			suspects: suspects.map((p) => ({ index: p.index, expected: roundTo(line.a + line.b * p.x, rounding) }))
		};
	}
	const found = {
		linear: true,
		worstResidual: worst(line, on),
		suspects: off
			.map((p) => ({ index: p.index, expected: roundTo(line.a + line.b * p.x, rounding) }))
			.sort((a, b) => a.index - b.index)
	};
	// More titrant, less of it: no scale through nothing, but the lines are held against one another all the same.
	if (line.b < 0) return { scale: table(on), ...found };
	const per = reads === 'syringe' ? { perMl: line.b } : { perDrop: line.b };
	return { scale: { kind: 'linear', ...per, atZero: line.a }, ...per, ...found };
}

function flaws({ parameter, unit, points, reads, syringe, readAs }: ChartRequest): Problem[] {
	const problems: Problem[] = [];
	if (isQuantity(parameter) && !unitOf(parameter, unit))
		problems.push({
			path: '/unit',
			message: `is not a unit of ${parameter}; known are ${UNITS[parameter].map((u) => u.name).join(', ')}`
		});
	const first = new Map<number, number>();
	points.forEach(([x], i) => {
		if (x < 0) problems.push({ path: `/points/${i}/0`, message: 'a reading cannot be below 0' });
		if (first.has(x))
			problems.push({
				path: `/points/${i}/0`,
				message: `the reading ${x} is there already, in line ${first.get(x)! + 1}`
			});
		else first.set(x, i);
	});
	if (new Set(points.map(([, y]) => y)).size === 1)
		problems.push({
			path: '/points',
			message: 'all lines have the same value; a chart leads from reading to value'
		});
	if (reads === 'syringe' && !problems.length) {
		const typed = points.map(([x, y], index) => ({ x, y, index }));
		const fill = syringe?.fillMl ?? USUAL_FILL_ML;
		if (readAs !== 'used' && medianSlope(typed) < 0)
			points.forEach(([x], i) => {
				if (x > fill)
					problems.push({
						path: `/points/${i}/0`,
						message: `cannot be left in a syringe of ${fill} mL; say how large it is`
					});
			});
	}
	return problems;
}

function medianSlope(points: Point[]): number {
	const slopes = points.flatMap((p, i) => points.slice(i + 1).map((q) => (q.y - p.y) / (q.x - p.x)));
	return median(slopes);
}

const worst = (line: Line, points: Point[]): number =>
	Math.max(...points.map((p) => Math.abs(residual(line, p))));

/** Two lines are a straight line, whether the chart is one or not: through nothing where they allow it. */
function throughBoth(points: Point[], rounding: number): { line: Line; on: Point[]; off: Point[] } {
	const [p, q] = [nth(points, 0), nth(points, 1)];
	const b = (q.y - p.y) / (q.x - p.x);
	const origin = throughOrigin(points);
	const line = origin && worst(origin, points) <= WITHIN * rounding ? origin : { a: p.y - b * p.x, b };
	return { line, on: points, off: [] };
}

/** The straight line most lines of the chart lie on, and those that do not; undefined where the chart is no straight line. */
function fitStraight(
	points: Point[],
	rounding: number
): { line: Line; on: Point[]; off: Point[] } | undefined {
	const tolerance = WITHIN * rounding;
	const found = lineOfMost(points, tolerance);
	if (!found) return undefined;
	// Titrant none, value none: where that agrees with the chart it is the truer line.
	const origin = throughOrigin(found.on);
	const line =
		origin && worst(origin, found.on) <= tolerance ? origin : (leastSquares(found.on) ?? found.line);
	// Rounding alone explains a chart that one line passes within it.
	const clean = oneLineFits(points, tolerance);
	const on = clean ? points : points.filter((p) => Math.abs(residual(line, p)) <= STANDS_OUT * rounding);
	const off = points.filter((p) => !on.includes(p));
	if (worst(line, on) > 2 * tolerance || found.on.length < MOST * points.length) return undefined;
	// A few lines that lean the same way at one end are a bend, not a mistake.
	if (on.length < 3 || bends(points, off, line, rounding) || curvesAllAlong(points)) return undefined;
	if (off.length > 0 && on.length < 4 && !isPlain(points, off, line, rounding)) return undefined;
	return { line, on, off };
}

/** Of four lines, whether the one that is off is plainly wrong: between others, or far out. */
function isPlain(points: Point[], off: Point[], line: Line, rounding: number): boolean {
	const [one, ...more] = off;
	if (!one || more.length) return false;
	const sorted = [...points].sort((a, b) => a.x - b.x);
	const atEnd = one === sorted[0] || one === sorted.at(-1);
	return !atEnd || Math.abs(residual(line, one)) > FAR_OUT * rounding;
}

/**
 * Whether what is off the line is a run of neighbours at one end, all to one side: two or more. Two that are off by the same
 * (a drop too many in both) are no bend: a bend grows.
 */
function bends(points: Point[], off: Point[], line: Line, rounding: number): boolean {
	if (off.length < 2) return false;
	const sorted = [...points].sort((a, b) => a.x - b.x);
	const ends = [sorted.slice(0, off.length), sorted.slice(-off.length)];
	const [one, two, ...more] = off.map((p) => residual(line, p));
	if (
		!more.length &&
		Math.min(Math.abs(one!), Math.abs(two!)) > 2 * rounding &&
		Math.abs(one! - two!) <= 1.1 * rounding
	)
		return false;
	const oneSide = new Set(off.map((p) => Math.sign(residual(line, p)))).size === 1;
	return oneSide && ends.some((end) => end.every((p) => off.includes(p)));
}

/** How alike the changes of a curve's steepness are, from one line to the next: the least beside the largest. */
const LIKE = 0.2;
/** Whether each stretch is steeper than the one before, or each less steep, by like amounts: that is a curve, however near a line it passes. */
function curvesAllAlong(points: Point[]): boolean {
	const sorted = [...points].sort((a, b) => a.x - b.x);
	const slopes = sorted.slice(1).map((p, i) => (p.y - nth(sorted, i).y) / (p.x - nth(sorted, i).x));
	const turns = slopes.slice(1).map((slope, i) => slope - nth(slopes, i));
	if (turns.length < 3) return false;
	const sizes = turns.map(Math.abs);
	const oneWay = turns.every((t) => Math.sign(t) === Math.sign(turns[0]!));
	return oneWay && Math.min(...sizes) > LIKE * Math.max(...sizes);
}

/** In a curve, lines that the curve through their neighbours misses by far more than it misses the others. */
function curveSuspects(
	points: Point[],
	rounding: number
): { kept: Point[]; suspects: { index: number; expected: number }[]; worstResidual: number } {
	let kept = [...points].sort((a, b) => a.x - b.x);
	const suspects: { index: number; expected: number }[] = [];
	const mayGo = Math.floor(points.length / 5);
	for (;;) {
		const off = kept
			.map((p) => ({ p, expected: fromNeighbours(kept, p) }))
			.map((o) => ({ ...o, by: Math.abs(o.p.y - o.expected) }));
		const sizes = off.map((o) => o.by).sort((a, b) => a - b);
		const typical = Math.max(rounding, sizes[sizes.length >> 1] ?? 0);
		// An end is foreseen from one side only: it is judged last, by its neighbour first.
		const worst = off.slice(1, -1).sort((a, b) => b.by - a.by)[0];
		if (kept.length < 5 || suspects.length >= mayGo || !worst || worst.by <= CURVE_STANDS_OUT * typical)
			return { kept, suspects, worstResidual: Math.max(0, ...off.slice(1, -1).map((o) => o.by)) };
		suspects.push({ index: worst.p.index, expected: roundTo(worst.expected, rounding) });
		kept = kept.filter((p) => p !== worst.p);
	}
}

/** Value at p of the curve through its nearest fellows: a parabola or cubic by Lagrange. */
function fromNeighbours(points: Point[], p: Point): number {
	const near = points
		.filter((q) => q !== p)
		.sort((a, b) => Math.abs(a.x - p.x) - Math.abs(b.x - p.x))
		.slice(0, 4);
	return near.reduce(
		(sum, q) =>
			sum + q.y * near.reduce((product, r) => (r === q ? product : (product * (p.x - r.x)) / (q.x - r.x)), 1),
		0
	);
}
