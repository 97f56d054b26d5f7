import Type from 'typebox';
import { bad, good, nth, type Outcome } from '../base';
import { median } from '../statistics';
import { brightnessBetween, type Pixels, type Spot } from './pixels';
import {
	AS_STRONG,
	LEAST_STEP,
	THIN_RING,
	edgeAcross,
	halfway,
	liquidEdge,
	peaksOf,
	ringBefore,
	smoothed
} from './plunger-edge';
import { scaleBy } from './plunger-scale';

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
/** Steps below it are of the tip, as a share of the scale. */
const TIP = 0.015;
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
	const before = (row: number) =>
		median(soft.slice(Math.max(0, row - ground), Math.max(1, row - Math.round(ground * 0.25))));
	/** Positive where it is darker towards the plunger. */
	const steps = soft.map((_, row) =>
		row < 2 || row + seal >= soft.length
			? 0
			: before(row) - median(soft.slice(row + Math.round(seal * 0.15), row + seal))
	);
	/** A long line is dark for less than a graduation; a seal, a thin ring of it too, stays dark. */
	const ring = THIN_RING * perShare;
	const isSeal = (found: number) => {
		const row = Math.round(halfway(soft, found, ground, seal).row);
		const behind = soft.slice(row + Math.round(0.2 * ring), row + Math.round(0.75 * ring));
		return behind.length > 0 && before(row) - median(behind) >= LEAST_STEP / 2;
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
