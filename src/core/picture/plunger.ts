import Type from 'typebox';
import { nth } from '../nth';
import { bad, good, type Outcome } from '../problems';
import { median } from '../statistics';
import { brightnessBetween, type Pixels, type Spot } from './pixels';

/** Where a syringe's scale is in a picture: its zero, at the tip, and its full line, in the middle of the barrel. */
export interface ScaleEnds {
	zero: Spot;
	full: Spot;
}

const exact = { additionalProperties: false } as const;
/**
 * `plunger`: a syringe along its barrel, as rows of brightness (0 to 255) across it, evenly spaced: the first row stands at `from`, the last at
 * `to`, as shares of the scale from its zero (0) to its full line (1). Ends of the scale may be some graduations off where its lines are seen.
 */
export const PlungerRequest = Type.Object(
	{
		rows: Type.Array(Type.Array(Type.Number({ minimum: 0, maximum: 255 }), { minItems: 3, maxItems: 200 }), {
			minItems: 50,
			maxItems: 6000
		}),
		from: Type.Number({ minimum: -1, maximum: 0 }),
		to: Type.Number({ minimum: 1, maximum: 2 }),
		fillMl: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
		graduationMl: Type.Number({ exclusiveMinimum: 0, maximum: 10 })
	},
	exact
);
export type PlungerRequest = Type.Static<typeof PlungerRequest>;

const share = Type.Union([Type.Number(), Type.Null()]);
export const PlungerResult = Type.Object(
	{
		/** Left in the syringe by the plunger's edge, mL; null where no edge is found. */
		left: share,
		standardUncertainty: share,
		/** Where the liquid ends, mL: not what is read. */
		liquid: share,
		/** The same two as shares of the scale as it was marked, for drawing. */
		at: Type.Object({ plunger: share, liquid: share }, exact),
		/** Where the lines put zero and the full line, as shares of the scale as it was marked. */
		ends: Type.Tuple([Type.Number(), Type.Number()]),
		/** Whether the scale's lines were found, or only its marked ends count. */
		lines: Type.Boolean(),
		flags: Type.Array(
			Type.Unsafe<'no-edge' | 'two-edges' | 'uneven-edge' | 'no-lines' | 'ends-unsure' | 'blurred'>({
				type: 'string',
				enum: ['no-edge', 'two-edges', 'uneven-edge', 'no-lines', 'ends-unsure', 'blurred']
			})
		)
	},
	exact
);
export type PlungerResult = Type.Static<typeof PlungerResult>;

/** Past either end of the scale the barrel is looked at so far, as a share of the scale. */
const MARGIN = 0.2;
/** Half of a barrel's bore as a share of its scale's length: 1 mL syringes are slim. */
const HALF_BORE = 0.03;
/** Rows a graduation. */
const ROWS = 12;
const ACROSS = 21;

/** Brightness along a barrel, from a picture and the scale's ends. */
export function barrelRows(
	pixels: Pixels,
	{ zero, full }: ScaleEnds,
	syringe: { fillMl: number; graduationMl: number }
): PlungerRequest {
	const graduations = Math.round(syringe.fillMl / syringe.graduationMl);
	const count = Math.min(6000, Math.round(graduations * ROWS * (1 + 2 * MARGIN)));
	const [dx, dy] = [full.x - zero.x, full.y - zero.y];
	const rows = Array.from({ length: count }, (_, k) => {
		const t = -MARGIN + (k / (count - 1)) * (1 + 2 * MARGIN);
		return Array.from({ length: ACROSS }, (_, j) => {
			const s = ((j / (ACROSS - 1)) * 2 - 1) * HALF_BORE;
			return (
				Math.round(brightnessBetween(pixels, zero.x + t * dx - s * dy, zero.y + t * dy + s * dx) * 10) / 10
			);
		});
	});
	return { rows, from: -MARGIN, to: 1 + MARGIN, ...syringe };
}

/** Scales of syringes keepers have: fewer lines are no comb, and more cannot be told apart in a picture. */
const FEWEST_LINES = 5;
const MOST_LINES = 300;
/** The seal is at least so long, mL a mL of the syringe, and an edge has so much ground on either side to be judged by. */
const SEAL = 0.03;
const GROUND = 0.025;
/** An edge is a step of brightness of at least so much, of 255. */
const LEAST_STEP = 28;
/** A seal has ribs: of edges nearly as strong as the strongest, the one nearest to the tip is its end. */
const AS_STRONG = 0.62;
/** Past the seal's edge the liquid's is a step of so much at least. */
const LIQUID_STEP = 7;
/** The scale's lines count where their contrast stands so far above what is seen between them. */
const LINES_STAND_OUT = 3;
/** Errors of the scale, as shares of a graduation: by its lines, and by its marked ends alone. */
const BY_LINES = 0.1;
const BY_ENDS = 0.7;
const BY_UNSURE = 2;

/**
 * What is left in a syringe, from brightness along its barrel: the tip-side end of the dark seal, where brightness is halfway between seal
 * and air, on a scale whose lines are found by their even spacing (with the foreshortening of a slanted view). The liquid's edge is told
 * apart: it comes after the air, and is no reading. Digits may stand either way up: they are not looked at. What is not found is null. Problems: rows of different length, a scale of too few or too many lines.
 *
 * @example plunger({ rows: Array.from({ length: 150 }, (_, i) => Array(5).fill(i < 72 ? 190 : i < 84 ? 40 : 150)), from: -0.1, to: 1.1, fillMl: 1, graduationMl: 0.02 }).value.flags // → ['no-lines']
 */
export function plunger(request: PlungerRequest): Outcome<PlungerResult> {
	const { rows, from, to, fillMl, graduationMl } = request;
	if (rows.some((row) => row.length !== rows[0]!.length))
		return bad('/rows', 'must all be of the same length');
	const graduations = fillMl / graduationMl;
	if (graduations < FEWEST_LINES || graduations > MOST_LINES)
		return bad('/graduationMl', `must divide the syringe into ${FEWEST_LINES} to ${MOST_LINES} lines`);
	const perShare = (rows.length - 1) / (to - from);
	const rowOf = (at: number) => (at - from) * perShare;
	const shareOf = (row: number) => from + row / perShare;
	// The middle of the bore: lines and digits cover less than half of it, so the median sees past them.
	const core = rows.map((row) =>
		median(row.slice(Math.floor(row.length * 0.25), Math.ceil(row.length * 0.75)))
	);
	const soft = smoothed(core, Math.max(1, Math.round((0.15 / graduations) * perShare)));
	// The brighter of both sides: the scale's lines and digits stand at one of them at a time, a seal at both.
	const third = Math.floor(rows[0]!.length / 3);
	const bare = smoothed(
		rows.map((row) => Math.max(median(row.slice(0, third)), median(row.slice(-third)))),
		Math.max(1, Math.round((0.15 / graduations) * perShare))
	);
	const ground = Math.round(GROUND * perShare);
	const seal = Math.round(SEAL * perShare);
	/** Positive where it is darker towards the plunger. */
	const stepIn = (values: number[]) => (row: number) => {
		if (row < 2 || row + seal >= values.length) return 0;
		const tip = median(values.slice(Math.max(0, row - ground), Math.max(1, row - Math.round(ground * 0.25))));
		const back = median(values.slice(row + Math.round(seal * 0.15), row + seal));
		return tip - back;
	};
	const steps = soft.map((_, row) => stepIn(soft)(row));
	/** A long line is dark for less than a graduation; a seal, a thin ring of it too, stays dark. */
	const ring = THIN_RING * perShare;
	const isSeal = (found: number) => {
		const row = Math.round(halfway(soft, found, ground, seal).row);
		const tip = median(soft.slice(Math.max(0, row - ground), Math.max(1, row - Math.round(ground * 0.25))));
		const behind = soft.slice(row + Math.round(0.2 * ring), row + Math.round(0.75 * ring));
		return behind.length > 0 && tip - median(behind) >= LEAST_STEP / 2;
	};
	const inside = (row: number) => shareOf(row) > -0.1 && shareOf(row) < 1.1;
	const all = peaksOf(steps, ground).filter((p) => inside(p) && nth(steps, p) >= LEAST_STEP && isSeal(p));
	// Where dark titrant begins in the tip is a step too: it is the plunger's only if there is no other.
	const beyondTip = all.filter((p) => shareOf(p) > TIP);
	const peaks = beyondTip.length ? beyondTip : all;
	const strongest = Math.max(0, ...peaks.map((p) => nth(steps, p)));
	const [first] = peaks.filter((p) => nth(steps, p) >= AS_STRONG * strongest);
	const edge =
		first === undefined ? undefined : ringBefore(bare, first, Math.round(THIN_RING * perShare), ground);
	const scale = scaleBy(rows, rowOf, [from, to], graduations);
	const flags: PlungerResult['flags'] = scale.lines ? (scale.numbered ? [] : ['ends-unsure']) : ['no-lines'];
	const missing = (): Outcome<PlungerResult> =>
		good({
			left: null,
			standardUncertainty: null,
			liquid: null,
			at: { plunger: null, liquid: null },
			ends: scale.ends,
			lines: scale.lines,
			flags: ['no-edge', ...flags]
		});
	if (edge === undefined) return missing();
	const by = (length: number) => halfway(soft, edge, ground, Math.round(length * perShare));
	const { row: middle, width } = by(edge === first ? SEAL : THIN_RING);
	// Where the dark behind the edge is not of one kind, how much of it is looked at matters.
	const bySeal = Math.abs(by(SEAL).row - by(THIN_RING).row) / 2;
	const shape = edgeAcross(rows, middle, ground, perShare / graduations);
	const row = middle + shape.wall;
	const plungerAt = shareOf(row);
	// Below the zero line no plunger stands: that is where dark titrant begins.
	if (scale.shareAt(plungerAt) < -TIP) return missing();
	const liquidRow = liquidEdge(soft, row, ground, rowOf(0));
	const widthMl = (width / perShare) * fillMl;
	if (widthMl > 3 * graduationMl) flags.push('blurred');
	if (shape.uneven) flags.push('uneven-edge');
	const rivals = peaks.filter((p) => p !== edge && nth(steps, p) >= AS_STRONG * strongest);
	const apart = Math.max(0, ...rivals.map((p) => Math.abs(shareOf(p) - plungerAt)));
	// Ribs of one seal are close together; another dark thing in the barrel is not.
	if (apart > 0.12) flags.push('two-edges');
	const ml = (at: number) => scale.shareAt(at) * fillMl;
	const byScale = !scale.lines ? BY_ENDS : scale.numbered ? BY_LINES : BY_UNSURE;
	const left = Math.max(0, Math.min(fillMl, ml(plungerAt)));
	return good({
		left: Number(left.toFixed(5)),
		standardUncertainty:
			Math.hypot(
				byScale * graduationMl,
				0.1 * widthMl,
				(Math.hypot(shape.error, bySeal) / perShare) * fillMl
			) * (flags.includes('two-edges') ? 5 : 1),
		liquid: liquidRow === undefined ? null : Number(Math.max(0, ml(shareOf(liquidRow))).toFixed(5)),
		ends: scale.ends,
		at: { plunger: plungerAt, liquid: liquidRow === undefined ? null : shareOf(liquidRow) },
		lines: scale.lines,
		flags
	});
}

/** Steps below it are of the tip, as a share of the scale. */
const TIP = 0.015;
/** A ring of a seal is at least so long, mL a mL of the syringe; thin ones part by gaps that let light through. */
const THIN_RING = 0.012;
/** A seal is no longer than this, mL a mL of the syringe. */
const LONGEST_SEAL = 0.12;
/** A thin ring's edge is a step of at least this share of the strongest. */
const RING_STEP = 0.4;

/** The edge of a thin ring that stands before the edge found: it is the seal's end, however pale the gap behind it. */
function ringBefore(soft: number[], found: number, ring: number, ground: number): number {
	const step = (row: number) => {
		const tip = median(soft.slice(Math.max(0, row - ring), Math.max(1, row - Math.round(ring * 0.3))));
		// A ring is dark for more than half of that; a line of the scale is not.
		const back = median(soft.slice(row + 1, row + ring));
		return tip - back;
	};
	const reach = Math.round((LONGEST_SEAL / THIN_RING) * ring);
	const from = Math.max(2, found - reach);
	const rows = Array.from({ length: found + Math.round(ground / 2) - from }, (_, i) => from + i).filter(
		(row) => row + ring < soft.length
	);
	const steps = rows.map(step);
	const strongest = Math.max(0, ...steps);
	const [place] = peaksOf(steps, Math.round(ring * 0.7)).filter(
		(i) => nth(steps, i) >= Math.max(LEAST_STEP, RING_STEP * strongest)
	);
	const row = place === undefined ? found : nth(rows, place);
	return row < found - ring ? row : found;
}

/** Parts of the bore whose edge is looked at by itself, from one wall to the other. */
const PARTS = 7;
/** An edge that is further on at the walls than in the middle by so many graduations is that of a cone or of a view at a slant: it is read at its ring. */
const UNEVEN = 0.6;
/** How far off the middle the walls are, in half-widths of what is looked at, and how well that is known. */
const [WALL, WALL_KNOWN] = [1.1, 0.12];

/** Where the edge stands at the walls, in rows beyond where it stands in the middle; its error so; and whether that is more than lines and noise make. */
function edgeAcross(
	rows: number[][],
	middle: number,
	ground: number,
	graduation: number
): { wall: number; error: number; uneven: boolean } {
	const across = rows[0]?.length ?? 0;
	const size = across / PARTS;
	const level = { wall: 0, error: 0, uneven: false };
	const [from, to] = [
		Math.max(0, Math.round(middle - 2.5 * ground)),
		Math.min(rows.length, Math.round(middle + 3.5 * ground))
	];
	const short = Math.max(2, Math.round(ground / 3));
	const found = Array.from({ length: PARTS }, (_, part) => {
		const its = smoothed(
			rows
				.slice(from, to)
				.map((row) => median(row.slice(Math.floor(part * size), Math.ceil((part + 1) * size)))),
			Math.max(1, Math.round(0.12 * graduation))
		);
		const step = (i: number) =>
			i < short || i + short >= its.length
				? 0
				: median(its.slice(i - short, i)) - median(its.slice(i + 1, i + 1 + short));
		const steps = its.map((_, i) => step(i));
		const strongest = Math.max(...steps);
		// Beside the scale the long lines are steps too; the edge is the first of the strong ones that stays dark.
		const at = peaksOf(steps, short).find((i) => nth(steps, i) >= AS_STRONG * strongest);
		if (at === undefined || strongest < LEAST_STEP) return undefined;
		const off = ((part + 0.5) / PARTS) * 2 - 1;
		return { off: Math.abs(off), row: from + halfway(its, at, ground, short * 2).row - middle };
	}).filter((p) => p !== undefined);
	if (found.length < 5) return level;
	// Median of slopes over pairs (Theil 1950, Sen 1968): a part that a line spoils does not count.
	const slopes = found.flatMap((p, i) =>
		found
			.slice(i + 1)
			.flatMap((q) => (Math.abs(p.off - q.off) > 0.2 ? [(p.row - q.row) / (p.off - q.off)] : []))
	);
	const slope = slopes.length ? median(slopes) : 0;
	const centre = median(found.map((p) => p.row - slope * p.off));
	const scatter = median(found.map((p) => Math.abs(p.row - centre - slope * p.off)));
	const uneven = Math.abs(slope) > UNEVEN * graduation && Math.abs(slope) > 2 * scatter;
	if (!uneven) return level;
	return { wall: centre + WALL * slope, error: Math.hypot(WALL_KNOWN * slope, 2 * scatter), uneven };
}

function smoothed(values: number[], radius: number): number[] {
	return values.map((_, i) => {
		let sum = 0;
		let count = 0;
		for (let j = Math.max(0, i - radius); j <= Math.min(values.length - 1, i + radius); j++) {
			sum += nth(values, j);
			count++;
		}
		return sum / count;
	});
}

/** Places that are higher than all within a distance, lowest place first. */
function peaksOf(values: number[], within: number): number[] {
	const peaks: number[] = [];
	for (let i = 0; i < values.length; i++) {
		const v = nth(values, i);
		let top = v > 0;
		for (let j = Math.max(0, i - within); top && j <= Math.min(values.length - 1, i + within); j++)
			if (nth(values, j) > v || (nth(values, j) === v && j < i)) top = false;
		if (top) peaks.push(i);
	}
	return peaks;
}

/** Where brightness crosses the middle between air and seal, between rows, and over how many rows it goes from a tenth to nine. */
function halfway(
	values: number[],
	edge: number,
	ground: number,
	seal: number
): { row: number; width: number } {
	const bright = median(
		values.slice(Math.max(0, edge - ground), Math.max(1, edge - Math.round(ground * 0.4)))
	);
	const dark = median(values.slice(edge + Math.round(seal * 0.3), edge + seal));
	const level = (share: number) => dark + share * (bright - dark);
	const crossing = (share: number) => {
		let best = edge;
		let distance = Infinity;
		for (let i = Math.max(0, edge - ground); i < Math.min(values.length - 1, edge + seal); i++) {
			const [a, b] = [nth(values, i) - level(share), nth(values, i + 1) - level(share)];
			if (a >= 0 !== b >= 0) {
				const at = i + a / (a - b);
				if (Math.abs(at - edge) < distance) [best, distance] = [at, Math.abs(at - edge)];
			}
		}
		return best;
	};
	return { row: crossing(0.5), width: Math.abs(crossing(0.1) - crossing(0.9)) };
}

/** The first step past the air below the seal, towards the tip; nothing where the barrel looks alike. */
function liquidEdge(
	values: number[],
	plungerRow: number,
	ground: number,
	zeroRow: number
): number | undefined {
	const half = Math.max(2, Math.round(ground / 3));
	const change = (row: number) =>
		Math.abs(
			median(values.slice(Math.max(0, row - half), row)) - median(values.slice(row + 1, row + 1 + half))
		);
	const places: number[] = [];
	for (let row = Math.round(plungerRow - ground * 0.5 - half); row > Math.max(half, zeroRow); row--)
		places.push(row);
	const peak = peaksOf(
		places.map((row) => change(row)),
		half
	).find((i) => change(nth(places, i)) >= LIQUID_STEP);
	return peak === undefined ? undefined : nth(places, peak);
}

/** So many of the comb's teeth lie on something dark where there are lines. */
const MOST_TEETH = 0.7;
/** The marked ends may be so many lines off. */
const LINES_OFF = 9;
/** One way of numbering the lines must be so much better than the next, in contrasts of a line, to be sure of. */
const CLEARLY_NUMBERED = 0.25;
/** So many graduations from its line a mark still means it; each further line costs a numbering so much. */
const AS_MARKED = 1.6;
const NEAR_MARKS = 0.04;

type Fit = [shift: number, stretch: number, slant: number];
const around = (middle: number, half: number, by: number) => {
	const n = Math.round(half / by);
	return Array.from({ length: 2 * n + 1 }, (_, i) => middle + (i - n) * by);
};

/**
 * The scale's lines: a comb is laid over what is dark along the barrel, moved, stretched and foreshortened until it fits best; which tooth is
 * zero follows from where lines end and from every tenth or fifth being longer. The marked ends only say where to look.
 */
function scaleBy(
	rows: number[][],
	rowOf: (share: number) => number,
	shares: [number, number],
	graduations: number
) {
	const count = Math.round(graduations);
	const whole = rows.map((row) => row.reduce((a, b) => a + b, 0) / row.length);
	const about = smoothed(whole, Math.max(1, Math.round((rowOf(1) - rowOf(0)) / graduations / 2)));
	const dark = whole.map((v, i) => Math.max(-20, Math.min(20, nth(about, i) - v)));
	const read = (row: number) => {
		const i = Math.floor(row);
		return i < 0 || i + 1 >= dark.length ? 0 : nth(dark, i) + (row - i) * (nth(dark, i + 1) - nth(dark, i));
	};
	/** Where a share of the comb is seen, on the scale as it was marked. */
	const seenAt = (t: number, [shift, stretch, slant]: Fit) => shift + t * (1 + stretch) + slant * t * (1 - t);
	const fits = (n: number, fit: Fit, between = 0) => {
		let sum = 0;
		for (let i = 0; i <= n; i++) sum += read(rowOf(seenAt((i + between) / n, fit)));
		return sum / (n + 1);
	};
	let best = { n: count, fit: [0, 0, 0] as Fit, score: -Infinity };
	const look = (n: number, shifts: number[], stretches: number[], slants: number[]) => {
		for (const a of shifts)
			for (const b of stretches)
				for (const c of slants) {
					const score = fits(n, [a, b, c]);
					if (score > best.score) best = { n, fit: [a, b, c], score };
				}
	};
	const off = Math.min(LINES_OFF, Math.floor(count / 4));
	for (let n = count - off; n <= count + off; n++)
		look(n, around(0, 0.5 / n, 0.17 / n), around(0, 0.5 / n, 0.25 / n), around(0, 0.06, 0.4 / n));
	const g = 1 / best.n;
	for (const [half, by] of [
		[0.2 * g, 0.1 * g],
		[0.1 * g, 0.05 * g],
		[0.05 * g, 0.0125 * g]
	] as const) {
		const [a, b, c] = best.fit;
		look(best.n, around(a, half, by), around(b, half, by), around(c, 2 * half, 2 * by));
	}
	const { n, fit, score } = best;
	const between = median([0.3, 0.4, 0.5, 0.6, 0.7].map((x) => fits(n, fit, x)));
	const contrast = score - between;
	const seen = Array.from({ length: n + 1 }, (_, i) => read(rowOf(seenAt(i / n, fit))));
	const most = seen.filter((v) => v > Math.max(0.2 * contrast, 0.4)).length > MOST_TEETH * seen.length;
	const lines = most && contrast > 0.8 && contrast > LINES_STAND_OUT * Math.max(0.15, Math.abs(between) / 2);
	if (!lines) return { lines, numbered: true, ends: [0, 1] as [number, number], shareAt: (at: number) => at };

	/** How dark each tooth is, also beyond the marked ends. */
	const teeth: { i: number; dark: number }[] = [];
	for (let i = -2 * off; i <= n + 2 * off; i++) {
		const at = seenAt(i / n, fit);
		if (at > shares[0] && at < shares[1]) teeth.push({ i, dark: read(rowOf(at)) - between });
	}
	const mean = (of: { dark: number }[]) =>
		of.length
			? of.reduce((a, b) => a + Math.max(-contrast, Math.min(3 * contrast, b.dark)), 0) / of.length
			: 0;
	const numberings = around(0, off + Math.abs(n - count), 1).map((zero) => {
		const inside = teeth.filter(({ i }) => i >= zero && i <= zero + count);
		const outside = teeth.filter(({ i }) => i < zero || i > zero + count);
		const longer = Math.max(
			...[10, 5].map(
				(every) =>
					mean(inside.filter(({ i }) => (i - zero) % every === 0)) -
					mean(inside.filter(({ i }) => (i - zero) % every !== 0))
			)
		);
		const ends = teeth.filter(({ i }) => i === zero || i === zero + count);
		return {
			zero,
			score:
				(mean(inside) - mean(outside) + longer + 0.5 * mean(ends)) / contrast - NEAR_MARKS * Math.abs(zero)
		};
	});
	numberings.sort((a, b) => b.score - a.score);
	const [first, second] = numberings;
	const ends: [number, number] = [seenAt(first!.zero / n, fit), seenAt((first!.zero + count) / n, fit)];
	const asMarked = Math.max(Math.abs(ends[0]), Math.abs(ends[1] - 1)) < AS_MARKED / count;
	return {
		lines,
		ends,
		/** Marks and lines say the same, or the lines alone leave no doubt. */
		numbered: asMarked && (!second || first!.score - second.score > CLEARLY_NUMBERED || first!.zero === 0),
		/** The true share at a place of the scale as it was marked (Newton's method). */
		shareAt(at: number): number {
			let t = at;
			for (let i = 0; i < 6; i++) t -= (seenAt(t, fit) - at) / (1 + fit[1] + fit[2] * (1 - 2 * t));
			return (t * n - first!.zero) / count;
		}
	};
}
