import Type from 'typebox';
import { oneOf } from '../base';
import { exact } from './profile-parts';
import { DILUTION_VESSELS } from './vessels';

/**
 * Parts of a raw reading: what was seen on an instrument, before any chart. Amounts in mL, on the instrument's own axis.
 */
export const seen = Type.Number({ minimum: -1e6, maximum: 1e6 });
export const seenOrBetween = Type.Union([seen, Type.Tuple([seen, seen])]);
const volume = Type.Number({ exclusiveMinimum: 0, maximum: 1e4 });

/** Sample thinned with purified water before the test, and what both were drawn with. */
export const Dilution = Type.Object(
	{
		sampleMl: volume,
		waterMl: volume,
		vessel: Type.Optional(oneOf(DILUTION_VESSELS))
	},
	exact
);
export type Dilution = Type.Static<typeof Dilution>;
export const dilution = Type.Optional(Dilution);
export const few = Type.Optional(Type.Integer({ minimum: 0, maximum: 100 }));
const spread = Type.Number({ minimum: 0, maximum: 100 });
/**
 * What practice has shown of the hand and eye that read it, where its keeper wants that used: of end points in drops of the tip (how far past
 * the end they go, the standard uncertainty of that, and what one scatters by), of a plunger in lines of the scale, of shades in patches of the card.
 */
export const Technique = Type.Object(
	{
		endPoint: Type.Optional(
			Type.Object(
				{
					bias: Type.Number({ minimum: -100, maximum: 100 }),
					standardUncertainty: spread,
					scatter: spread
				},
				exact
			)
		),
		lines: Type.Optional(spread),
		patches: Type.Optional(spread),
		tries: Type.Integer({ minimum: 1, maximum: 100_000 }),
		/** The lamp it was practised under. */
		light: Type.Optional(Type.String({ minLength: 1, maxLength: 40 }))
	},
	exact
);
export type Technique = Type.Static<typeof Technique>;
export const hand = Type.Optional(Technique);

/** Names the kind of instrument in a raw reading. It may be left out of what is sent or was stored long ago: the method says it too. */
export const tag = <K extends string>(reads: K) => Type.Optional(Type.Literal(reads));
/** A raw reading with its tag, as it is worked with. */
export type Tagged<T extends { reads?: string }> = T extends unknown
	? T & { reads: NonNullable<T['reads']> }
	: never;

/** What every raw reading has, whatever it was seen on. */
export interface CommonReading {
	reads: string;
	dilution?: Dilution;
}

export const Contribution = Type.Object(
	{
		source: Type.String(),
		standardUncertainty: Type.Number(),
		kind: Type.Unsafe<'repeatability' | 'trueness'>({ type: 'string', enum: ['repeatability', 'trueness'] }),
		/** Of an error that lies to one side: its mean, the true value less what was read. */
		mean: Type.Optional(Type.Number())
	},
	exact
);
export type Contribution = Type.Static<typeof Contribution>;
