import Type, { type TObject } from 'typebox';
import { Method } from './profile';
import { oneOf } from '../base';
import { DILUTION_VESSELS, WATERS } from './known';

const exact = { additionalProperties: false } as const;
const seen = Type.Number({ minimum: -1e6, maximum: 1e6 });
const seenOrBetween = Type.Union([seen, Type.Tuple([seen, seen])]);
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
const dilution = Type.Optional(Dilution);
const refills = Type.Optional(Type.Integer({ minimum: 0, maximum: 50 }));
const few = Type.Optional(Type.Integer({ minimum: 0, maximum: 100 }));

/** What a photograph of a syringe said: mL left by the plunger's edge, whatever was kept in the end. */
export const PlungerSeen = Type.Object(
	{ left: seen, standardUncertainty: Type.Number({ minimum: 0, maximum: 100 }) },
	exact
);
export type PlungerSeen = Type.Static<typeof PlungerSeen>;
const spread = Type.Number({ minimum: 0, maximum: 100 });
/**
 * What practice has shown of the hand and eye that read it, where its keeper wants that used: of end points in drops of the tip (how far past
 * the end they go, the standard uncertainty of that, and what one scatters by), of a plunger in lines of the scale, of shades in patches of the card.
 */
export const Hand = Type.Object(
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
export type Hand = Type.Static<typeof Hand>;
const hand = Type.Optional(Hand);
export const ByLeft = Type.Object(
	{ left: seenOrBetween, refills, dilution, camera: Type.Optional(PlungerSeen), hand },
	exact
);
export const ByUsed = Type.Object(
	{ used: seenOrBetween, refills, dilution, camera: Type.Optional(PlungerSeen), hand },
	exact
);
export const ByDrops = Type.Object(
	{
		drops: Type.Integer({ minimum: 0, maximum: 10_000 }),
		confirming: few,
		doubtful: few,
		dilution,
		hand
	},
	exact
);
/** Name of the column the numbers were read in, where it is not the main one. */
const column = Type.Optional(Type.String({ maxLength: 120 }));
const share = Type.Number({ minimum: 0, maximum: 1 });
/** What a photograph of a card and a vial said, whatever was kept in the end: where between two patches, with its error in steps of a patch. */
export const ShadeSeen = Type.Object(
	{
		between: Type.Tuple([seen, seen]),
		position: share,
		stepUncertainty: Type.Number({ minimum: 0, maximum: 100 }),
		/** Paler than the first of the two, or deeper than the last: past the card's end. */
		beyond: Type.Optional(Type.Unsafe<'<' | '>'>({ type: 'string', enum: ['<', '>'] })),
		/** CIEDE2000 from the path of patches. */
		distance: Type.Number({ minimum: 0, maximum: 1000 })
	},
	exact
);
export type ShadeSeen = Type.Static<typeof ShadeSeen>;
/** What the eye said by itself, before the photograph: between two patches, and where. */
export const ShadeByEye = Type.Object({ between: Type.Tuple([seen, seen]), position: share }, exact);
export type ShadeByEye = Type.Static<typeof ShadeByEye>;
const photographed = { camera: Type.Optional(ShadeSeen), eye: Type.Optional(ShadeByEye), hand };
export const ByShade = Type.Object({ shade: seen, column, dilution, ...photographed }, exact);
export const BetweenShades = Type.Object(
	{
		between: Type.Tuple([seen, seen]),
		position: Type.Optional(share),
		column,
		dilution,
		...photographed
	},
	exact
);
export const BelowShade = Type.Object({ below: seen, column, dilution, ...photographed }, exact);
export const AboveShade = Type.Object({ above: seen, column, dilution, ...photographed }, exact);
export const ByShown = Type.Object(
	{
		shown: seenOrBetween,
		/** Of the water, °C: a glass hydrometer is corrected by it. */
		temperatureC: Type.Optional(Type.Number({ minimum: 0, maximum: 40 })),
		/** What the instrument showed last for a standard of known content, both in the shown unit. */
		calibration: Type.Optional(Type.Object({ standard: seen, shown: seen }, exact)),
		dilution
	},
	exact
);

/** What each kind of instrument may be asked to read. */
export const READING_SHAPES: Record<Method['reads'], TObject[]> = {
	syringe: [ByLeft, ByUsed],
	drops: [ByDrops],
	shades: [ByShade, BetweenShades, BelowShade, AboveShade],
	display: [ByShown, BelowShade, AboveShade],
	'scale-line': [ByShown, BelowShade, AboveShade]
};

export const RawReading = Type.Union([
	ByLeft,
	ByUsed,
	ByDrops,
	ByShade,
	BetweenShades,
	BelowShade,
	AboveShade,
	ByShown
]);
export type RawReading = Type.Static<typeof RawReading>;
export type SyringeReading = Type.Static<typeof ByLeft> | Type.Static<typeof ByUsed>;
export type DropsReading = Type.Static<typeof ByDrops>;
export type ShadesReading =
	| Type.Static<typeof ByShade>
	| Type.Static<typeof BetweenShades>
	| Type.Static<typeof BelowShade>
	| Type.Static<typeof AboveShade>;
export type ShownReading =
	Type.Static<typeof ByShown> | Type.Static<typeof BelowShade> | Type.Static<typeof AboveShade>;

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
		reading: RawReading,
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
