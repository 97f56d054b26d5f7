import { nth } from '../base';
import { UNITS, convert, isQuantity } from '../quantities';
import { parameterOf } from '../catalogue';
import { median, type Point } from '../statistics';
import type { ChartAsk, ChartRequest, ChartResult } from './schema';

/**
 * What of a chart is asked about before it counts: not one line among its fellows (those are suspects), but the chart as a whole. Charts lead from
 * nothing to a level that water has, in steps that are alike, and never turn back.
 */

/** A chart that passes nothing further off than this share of its end does not pass near it: end points are a drop or two late at most. */
const NEAR_NOTHING = 0.05;
/** A value is read off a chart no better than this, in steps of its rounding. */
const ROUNDED = 1.5;
/** Columns stand beside each other wrongly where moving one leaves at most this share of the unevenness. */
const EVENED = 0.25;
/** A share of lines that may be mistyped one by one. */
const A_FEW = 0.15;
/** Fewer lines have no steps that could be alike. */
const LINES_WITH_STEPS = 6;
/** Positive values of neighbouring lines are never so many times apart. */
const THOUSANDS = 100;
/** Syringes are filled again a few times at most; where its size is not said, a burette is the largest, mL. */
const MOST_FILLS = 5;
const LARGEST_ML = 25;
/** Drops until the usual level is there: fewer tell nothing, more nobody counts. */
const DROPS: [number, number] = [2, 45];

/** A chart's whole as points by what was used, its fit, and lines that stand out. */
interface Whole {
	request: ChartRequest;
	/** By titrant used, in order. */
	used: Point[];
	result: Omit<ChartResult, 'asks'>;
}

/** What is asked about a chart, the likeliest first. */
export function asksOf(whole: Whole): ChartAsk[] {
	const out = new Set(whole.result.suspects.map((s) => s.index));
	const kept = whole.used.filter((p) => !out.has(p.index));
	const odd = movedRow(whole);
	return [
		...thousandsIn(whole.used),
		...columnsIn(whole, kept),
		...rangeOf(whole, kept),
		...turning(whole, kept),
		...(odd === undefined ? fromNothing(whole, kept) : [{ kind: 'row-shift' as const, index: odd }])
	];
}

/** "1,280" beside "980". */
function thousandsIn(used: Point[]): ChartAsk[] {
	const positive = used.filter((p) => p.y > 0);
	const at = positive.findIndex((p, i) => {
		const before = positive[i - 1];
		return before && Math.max(p.y / before.y, before.y / p.y) > THOUSANDS;
	});
	return at < 0 ? [] : [{ kind: 'thousands', index: nth(positive, at).index }];
}

/** Readings that no such instrument has. */
function columnsIn({ request }: Whole, kept: Point[]): ChartAsk[] {
	const { points, reads, syringe } = request;
	const readings = kept.map((p) => nth(points, p.index)[0]);
	const values = kept.map((p) => nth(points, p.index)[1]);
	const largest = Math.max(...readings);
	const limit = syringe ? MOST_FILLS * syringe.fillMl : LARGEST_ML;
	const fill = syringe?.fillMl ?? limit;
	if (reads === 'drops') {
		const each = (of: number[]) => median(of.slice(1).map((v, i) => Math.abs(v - nth(of, i))));
		const counted = values.every(Number.isInteger) && each(values) === 1 && each(readings) > 1;
		if (counted) return [{ kind: 'columns' }];
		return readings.every(Number.isInteger) ? [] : [{ kind: 'columns' }, { kind: 'points-lost' }];
	}
	if (largest > fill && Math.max(...values) <= fill) return [{ kind: 'columns' }];
	return largest > limit ? [{ kind: 'points-lost', value: largest }] : [];
}

/** A level in a parameter's own unit, or NaN. */
function inOwn(parameter: string, value: number, unit: string): number {
	const own = parameterOf(parameter)?.unit;
	if (own === undefined || !isQuantity(parameter)) return NaN;
	const there = convert({ quantity: parameter, value, from: unit, to: own });
	return there.ok ? there.value.value : NaN;
}

/**
 * Whether a chart could lead to such an end: of what sea water holds, the usual level lies on it and its end is no more than three times what any water
 * has; of nutrients, whose charts begin at traces, a hundredth to eight times what tanks have. `undefined` where nothing is known of the parameter.
 */
function isEnd(parameter: string, value: number): boolean | undefined {
	const [low, high] = parameterOf(parameter)?.plausible ?? [NaN, NaN];
	if (!Number.isFinite(low) || !Number.isFinite(value)) return undefined;
	return low > 0
		? value >= 0.95 * ((low + high) / 2) && value <= 3 * high
		: value >= high / 100 && value <= 8 * high;
}

/** Whether so much for a drop makes a test that can be counted. */
function isDrop(parameter: string, perDrop: number): boolean | undefined {
	const [low, high] = parameterOf(parameter)?.plausible ?? [NaN, NaN];
	if (!(low > 0) || !(perDrop > 0)) return undefined;
	const drops = (low + high) / 2 / perDrop;
	return drops >= DROPS[0] && drops <= DROPS[1];
}

/** The end of the chart is a level that water has; where it is not, what would make it one. */
function rangeOf({ request, result }: Whole, kept: Point[]): ChartAsk[] {
	const { parameter, unit, reads, syringe } = request;
	const [first, last] = [kept[0], kept.at(-1)];
	if (!first || !last || first === last) return [];
	const most = Math.max(...kept.map((p) => p.y));
	const slope = Math.abs(last.y - first.y) / (last.x - first.x);
	const byDrop = reads === 'drops';
	// Of a syringe the chart goes on to its end, whichever lines were typed.
	const full =
		syringe && result.readAs && last.y > first.y ? last.y + slope * (syringe.fillMl - last.x) : most;
	const number = byDrop ? slope : Math.max(most, full);
	const fits = (value: number, of: string) =>
		byDrop ? isDrop(parameter, inOwn(parameter, value, of)) : isEnd(parameter, inOwn(parameter, value, of));
	if (fits(number, unit) !== false) return [];
	const others = isQuantity(parameter)
		? UNITS[parameter].map((u) => u.name).filter((name) => name !== unit)
		: [];
	const asks: ChartAsk[] = [
		...others
			.filter((name) => fits(number, name))
			.map((name): ChartAsk => ({ kind: 'unit', unit: name, value: most })),
		...(fits(1000 * number, unit) ? [{ kind: 'thousands' as const, value: most }] : []),
		...([0.01, 0.1, 10, 100].some((by) => fits(by * number, unit))
			? [{ kind: 'points-lost' as const, value: most }]
			: [])
	];
	return asks.length ? asks : [{ kind: 'range', value: most }];
}

/** More titrant never means less where it meant more. */
function turning({ result, used }: Whole, kept: Point[]): ChartAsk[] {
	const direction = Math.sign(nth(used, used.length - 1).y - nth(used, 0).y) || 1;
	const back = kept.find(
		(p, i) => i > 0 && direction * (p.y - nth(kept, i - 1).y) < -ROUNDED * result.rounding
	);
	return back ? [{ kind: 'turns-back', index: back.index }] : [];
}

/**
 * From which line on a column stands a row too low or too high: where taking one value, or one reading, out of its column makes an uneven chart even.
 */
function movedRow({ used, result }: Whole): number | undefined {
	const { length } = result.suspects;
	// One line among ten that stands out is itself mistyped.
	if (used.length < LINES_WITH_STEPS || (length > 0 && length <= Math.max(1, A_FEW * used.length)))
		return undefined;
	const now = unevenness(used, result.rounding);
	if (now <= ROUNDED * result.rounding) return undefined;
	const [xs, ys] = [used.map((p) => p.x), used.map((p) => p.y)];
	let best = { left: Infinity, at: 0 };
	const beginning = Math.abs(atNothingOf(used));
	for (let at = 0; at < used.length; at++)
		for (const [x, y] of [
			[xs.slice(0, -1), ys.toSpliced(at, 1)],
			[xs.toSpliced(at, 1), ys.slice(0, -1)]
		] as const) {
			const undone = x.map((of, index) => ({ x: of, y: nth(y, index), index }));
			const left = unevenness(undone, result.rounding);
			// The whole column moved: then the chart comes from nothing once it is back.
			if (at === 0 && Math.abs(atNothingOf(undone)) > beginning) continue;
			if (left < best.left) best = { left, at };
		}
	return best.left <= EVENED * now ? nth(used, best.at).index : undefined;
}

/** The value with nothing used, from where the chart's beginning points. */
function atNothingOf(points: Point[]): number {
	const [p, last] = [nth(points, 0), nth(points, points.length - 1)];
	const third = points.find((point) => point !== p && point.x >= p.x + (last.x - p.x) / 3) ?? last;
	return p.y - ((third.y - p.y) / (third.x - p.x)) * p.x;
}

/** Rounding of three lines seldom makes more than this of its step. */
const LIKELY = 0.7;
/** How far lines lie off their neighbours beyond rounding and what bends all of the chart alike, in all. */
function unevenness(points: Point[], rounding: number): number {
	const off = points.slice(1, -1).map((p, i) => {
		const [before, after] = [nth(points, i), nth(points, i + 2)];
		const between = before.y + ((after.y - before.y) * (p.x - before.x)) / (after.x - before.x);
		// A parabola lies off its chord by the product of both distances.
		return { by: p.y - between, arm: (p.x - before.x) * (after.x - p.x) };
	});
	const bend = median(off.map(({ by, arm }) => by / arm));
	return off.reduce(
		(sum, { by, arm }) => sum + Math.max(0, Math.abs(by - bend * arm) - LIKELY * rounding),
		0
	);
}

/** Titrant none, value none: off by just a step the columns do not stand side by side. */
function fromNothing({ request, used, result }: Whole, kept: Point[]): ChartAsk[] {
	const [p, q] = [kept[0], kept[1]];
	const last = nth(kept, kept.length - 1);
	if (!p || !q || last.y <= p.y) return [];
	const linear = result.scale.kind === 'linear' ? result.scale : undefined;
	// A chart that bends within its rounding comes from where its beginning points.
	const beginning = atNothingOf(kept);
	const atNothing = linear && Math.abs(linear.atZero) < Math.abs(beginning) ? linear.atZero : beginning;
	if (Math.abs(atNothing) <= ROUNDED * result.rounding) return [];
	const widths = used.slice(1).map((point, i) => point.x - nth(used, i).x);
	const width = median(widths);
	// Readings are printed in hundredths.
	const even = widths.every((w) => Math.abs(w - width) <= Math.max(0.02 * width, 0.0101));
	const step = (q.y - p.y) * (width / (q.x - p.x));
	const alike = Math.max(result.rounding, (linear ? 0.1 : 0.25) * step);
	if (even && used.length > 3 && Math.abs(Math.abs(atNothing) - step) <= alike)
		return [{ kind: 'row-shift', value: atNothing }];
	// A line at nothing is the leaflet's own word. A few lines of a chart are held against the usual level, to which all of it leads.
	const saysSo = kept.some((point) => point.x === 0);
	const [low, high] = parameterOf(request.parameter)?.plausible ?? [0, 0];
	const usual = (low + high) / 2 / inOwn(request.parameter, 1, request.unit) || 0;
	return !saysSo && Math.abs(atNothing) > NEAR_NOTHING * Math.max(last.y, usual)
		? [{ kind: 'offset', value: atNothing }]
		: [];
}
