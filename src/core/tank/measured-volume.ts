import Type from 'typebox';
import { bad, good, type Outcome } from '../base';
import { COVERAGE_95 } from '../statistics';

const exact = { additionalProperties: false } as const;
const error = Type.Number({ minimum: 0, maximum: 1e6 });
const level = Type.Object(
	{ value: Type.Number({ minimum: 0, maximum: 1e6 }), standardUncertainty: error },
	exact
);
const rate = Type.Object(
	{ value: Type.Number({ minimum: -1e5, maximum: 1e5 }), standardUncertainty: error },
	exact
);

export const MeasuredVolumeRequest = Type.Object(
	{
		/** What was poured in all, in the tests’ unit times litres: what it would raise one litre by. */
		added: Type.Object(
			{ value: Type.Number({ exclusiveMinimum: 0, maximum: 1e9 }), standardUncertainty: error },
			exact
		),
		/** Levels before and after by the same kit, so that what it reads too high falls out. */
		before: level,
		after: level,
		days: Type.Optional(Type.Number({ minimum: 0, maximum: 30 })),
		/** What the level would have done without the pour, a day: less use and dosing as usual. */
		netPerDay: Type.Optional(rate),
		/** What sizes and weights say, L; what is measured is joined with it. */
		estimate: Type.Optional(
			Type.Object(
				{
					value: Type.Number({ exclusiveMinimum: 0, maximum: 1e7 }),
					standardUncertainty: Type.Number({ exclusiveMinimum: 0, maximum: 1e7 })
				},
				exact
			)
		)
	},
	exact
);
export type MeasuredVolumeRequest = Type.Static<typeof MeasuredVolumeRequest>;

const Volume = Type.Object(
	{
		value: Type.Number(),
		standardUncertainty: Type.Number(),
		/** 95 %; without an upper end where the rise may have been none. */
		interval: Type.Tuple([Type.Number(), Type.Union([Type.Number(), Type.Null()])])
	},
	exact
);
export const MeasuredVolumeResult = Type.Object(
	{
		/** From the pour alone. */
		measured: Volume,
		/** With the estimate, where there is one. */
		joined: Type.Optional(Volume),
		rise: Type.Object({ value: Type.Number(), standardUncertainty: Type.Number() }, exact),
		/** A rise of how much would tell the volume to a twentieth. */
		riseToTell: Type.Number()
	},
	exact
);
export type MeasuredVolumeResult = Type.Static<typeof MeasuredVolumeResult>;

/** How well a volume should be known for plans: a twentieth. */
const WANTED = 0.05;

/**
 * Net volume from a pour of known size and a test before and after: the ratio of what was added to the rise, with Fieller's interval
 * (Fieller 1954, J. R. Stat. Soc. B 16, 175), which has no upper end where the rise may have been none. Problems: no rise at all.
 *
 * @example measuredVolume({ added: { value: 200, standardUncertainty: 4 }, before: { value: 7, standardUncertainty: 0.05 }, after: { value: 8, standardUncertainty: 0.05 } }).value.measured.value // → 200
 */
export function measuredVolume(request: MeasuredVolumeRequest): Outcome<MeasuredVolumeResult> {
	const { added, before, after, days = 0, netPerDay, estimate } = request;
	const rise = after.value - before.value - days * (netPerDay?.value ?? 0);
	const u = Math.hypot(
		before.standardUncertainty,
		after.standardUncertainty,
		days * (netPerDay?.standardUncertainty ?? 0)
	);
	if (!(rise > 0)) return bad('/after', 'shows no rise; wait until it is mixed, or pour more and test again');
	const value = added.value / rise;
	const measured = {
		value,
		standardUncertainty: value * Math.hypot(added.standardUncertainty / added.value, u / rise),
		interval: fieller(added.value, added.standardUncertainty, rise, u)
	};
	const result = { measured, rise: { value: rise, standardUncertainty: u }, riseToTell: u / WANTED };
	if (!estimate) return good(result);
	// The rise is what is a bell, and so is one over the volume: they are joined there (inverse variances).
	const [ofPour, ofSizes] = [1 / value, 1 / estimate.value];
	const uPour = measured.standardUncertainty / value ** 2;
	const uSizes = estimate.standardUncertainty / estimate.value ** 2;
	const [wPour, wSizes] = [1 / uPour ** 2, 1 / uSizes ** 2];
	const inverse = (wPour * ofPour + wSizes * ofSizes) / (wPour + wSizes);
	const uInverse = 1 / Math.sqrt(wPour + wSizes);
	const joined = 1 / inverse;
	return good({
		...result,
		joined: {
			value: joined,
			standardUncertainty: uInverse * joined ** 2,
			interval: fieller(1, 0, inverse, uInverse)
		}
	});
}

/** 95 % of a ratio a/b of independent bells: all V with (a − V b)² no larger than z²(u_a² + V² u_b²). */
function fieller(a: number, ua: number, b: number, ub: number): [number, number | null] {
	const z2 = COVERAGE_95 ** 2;
	const g = b * b - z2 * ub * ub;
	const c = a * a - z2 * ua * ua;
	const root = Math.sqrt(Math.max(0, (a * b) ** 2 - g * c));
	const ends = [(a * b - root) / g, (a * b + root) / g];
	if (g > 0) return [Math.max(0, Math.min(...ends)), Math.max(...ends)];
	// The rise may have been none: everything from the one positive root on.
	return [Math.max(0, ...ends), null];
}
