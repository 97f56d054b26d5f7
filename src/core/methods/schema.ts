import Type from 'typebox';
import { oneOf } from '../base';
import { Contribution, GivenReading, Method } from '../instruments';
import { WATERS } from './known';

const exact = { additionalProperties: false } as const;
const seen = Type.Number({ minimum: -1e6, maximum: 1e6 });

/** A forecast for this tank and moment, in the method's unit. */
export const Expected = Type.Object(
	{ mean: seen, standardDeviation: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }) },
	exact
);
export type Expected = Type.Static<typeof Expected>;

const Water = oneOf(WATERS);
export type Water = Type.Static<typeof Water>;

/** What is known of a kit beyond what its method says: from checks with water of known content, and from repeats. In own units. */
export const Proved = Type.Object(
	{
		/** What it may be off by, as a standard uncertainty: in place of what the method allows it. */
		trueness: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
		/** What it reads too much, where its keeper wants that taken off. */
		takenOff: Type.Optional(seen),
		/** What it was checked with. */
		by: Type.Optional(Type.String({ minLength: 1, maxLength: 120 })),
		/** What one test scatters by, as a multiple of what the method says, from so many pairs of the same water. */
		scatter: Type.Optional(
			Type.Object(
				{
					ratio: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
					pairs: Type.Integer({ minimum: 1, maximum: 10_000 })
				},
				exact
			)
		)
	},
	exact
);
export type Proved = Type.Static<typeof Proved>;

export const ReadingRequest = Type.Object(
	{
		method: Method,
		reading: GivenReading,
		sample: Type.Optional(Type.String()),
		other: Type.Optional(
			Type.Record(
				Type.String(),
				Type.Object(
					{
						value: seen,
						standardUncertainty: Type.Number({ minimum: 0, maximum: 1e6 }),
						/** The part that stays with its kit; half of the variance where it is not said. */
						trueness: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 })),
						/** Read in the same sample with the same titrant: what those are off by is off in both alike. */
						shared: Type.Optional(Type.Boolean())
					},
					exact
				)
			)
		),
		expected: Type.Optional(Expected),
		/** What was sampled; the tank's own water where it is not said. */
		water: Type.Optional(Water),
		proved: Type.Optional(Proved)
	},
	exact
);
export type ReadingRequest = Type.Static<typeof ReadingRequest>;

const orNull = Type.Union([Type.Number(), Type.Null()]);
export const Question = Type.Object(
	{ slip: Type.String(), value: Type.Number(), probability: Type.Number(), ask: Type.String() },
	exact
);
export type Question = Type.Static<typeof Question>;

export const Qualifier = Type.Unsafe<'=' | '<' | '>' | 'between'>({
	type: 'string',
	enum: ['=', '<', '>', 'between']
});
export type Qualifier = Type.Static<typeof Qualifier>;

export const ReadingResult = Type.Object(
	{
		value: orNull,
		unit: Type.String(),
		qualifier: Qualifier,
		/** Of a bound: of its end. */
		standardUncertainty: orNull,
		/** With 95 % of a value; between two lines, below or above one, what was seen. */
		interval: Type.Tuple([orNull, orNull]),
		/** Holds the true value with 95 %, whatever was seen: ends widened by all other errors of the kit. */
		range95: Type.Tuple([orNull, orNull]),
		repeatability: orNull,
		trueness: orNull,
		budget: Type.Array(Contribution),
		questions: Type.Array(Question)
	},
	exact
);
export type ReadingResult = Type.Static<typeof ReadingResult>;

/** Result of `read`: the registry adds the questions. */
export type Measured = Omit<ReadingResult, 'questions'>;
