import Type from 'typebox';

const exact = { additionalProperties: false } as const;
const at = Type.String({ format: 'date-time' });
const value = Type.Number({ minimum: -1e6, maximum: 1e6 });
const error = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });
const method = Type.Optional(Type.String({ minLength: 1, maxLength: 120 }));

const stays = Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 }));
const endsOff = { standardUncertainty: Type.Optional(error), trueness: stays };

/** One answer of one test. Errors are standard uncertainties. */
export const TrendReading = Type.Union([
	Type.Object(
		{
			at,
			value,
			standardUncertainty: error,
			method,
			/** The part of the error that stays with the kit and is the same in all its readings. */
			trueness: stays
		},
		exact
	),
	/** Between two lines, below or above one: the error is of the whole, as `reading` gives it, or of the ends where it is smaller than that. */
	Type.Object({ at, interval: Type.Tuple([value, value]), ...endsOff, method }, exact),
	Type.Object({ at, below: value, ...endsOff, method }, exact),
	Type.Object({ at, above: value, ...endsOff, method }, exact)
]);
export type TrendReading = Type.Static<typeof TrendReading>;

/** What was done to the water, as far as this parameter goes. */
export const TrendEvent = Type.Union([
	Type.Object(
		{
			at,
			kind: Type.Literal('dose'),
			change: value,
			standardUncertainty: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 }))
		},
		exact
	),
	/** Acts until the next of its kind. */
	Type.Object({ at, kind: Type.Literal('dosing'), perDay: value }, exact),
	Type.Object(
		{
			at,
			kind: Type.Literal('water-change'),
			fraction: Type.Number({ minimum: 0, maximum: 1 }),
			newWater: value,
			standardUncertainty: Type.Optional(Type.Number({ minimum: 0, maximum: 1e6 }))
		},
		exact
	)
]);
export type TrendEvent = Type.Static<typeof TrendEvent>;

export const TrendRequest = Type.Object(
	{
		parameter: Type.String({ minLength: 1, maxLength: 40 }),
		unit: Type.String({ minLength: 1, maxLength: 40 }),
		readings: Type.Array(TrendReading, { minItems: 1, maxItems: 100_000 }),
		events: Type.Optional(Type.Array(TrendEvent, { maxItems: 100_000 })),
		band: Type.Optional(Type.Object({ lower: value, upper: value }, exact)),
		now: at,
		/** Of the tank: what it usually has of a poison follows from it. */
		phase: Type.Optional(
			Type.Unsafe<'new' | 'cycling' | 'young' | 'settled'>({
				type: 'string',
				enum: ['new', 'cycling', 'young', 'settled']
			})
		),
		horizonDays: Type.Optional(Type.Number({ minimum: 1, maximum: 365 }))
	},
	exact
);
export type TrendRequest = Type.Static<typeof TrendRequest>;

const Interval = Type.Tuple([Type.Number(), Type.Number()]);
/**
 * Median and the interval that holds 95 % (quantiles); the standard deviation is that of a bell as wide: value ± 1.96 of it
 * holds 95 % too, also where several explanations stand beside each other.
 */
const Estimate = Type.Object(
	{ value: Type.Number(), standardDeviation: Type.Number(), interval: Interval },
	exact
);
export type Estimate = Type.Static<typeof Estimate>;
/** Median, spread as of an estimate, and the 2.5 and 97.5 % quantiles. */
const spread = { mean: Type.Number(), sd: Type.Number(), low: Type.Number(), high: Type.Number() };
const Point = Type.Object({ at: Type.String(), ...spread }, exact);
/** With what the tank used and what was dosed then, a day. */
const PathPoint = Type.Object(
	{
		at: Type.String(),
		...spread,
		usePerDay: Type.Number(),
		useSd: Type.Number(),
		dosingPerDay: Type.Number()
	},
	exact
);
export type PathPoint = Type.Static<typeof PathPoint>;
const dateOrNull = Type.Union([Type.String(), Type.Null()]);

export const TrendResult = Type.Object(
	{
		unit: Type.String(),
		now: Estimate,
		/** Change of the level a day, with what is dosed. */
		netPerDay: Estimate,
		/** What the tank takes a day: dosing less net. */
		usePerDay: Estimate,
		dosingPerDay: Type.Number(),
		path: Type.Array(PathPoint),
		forecast: Type.Array(Point),
		/** By when it has left the band, by either limit, with a chance of 10, 50 and 90 %; null where less than half leave. */
		leavesBand: Type.Union([
			Type.Null(),
			Type.Object(
				{
					edge: Type.Unsafe<'lower' | 'upper'>({ type: 'string', enum: ['lower', 'upper'] }),
					median: dateOrNull,
					early: dateOrNull,
					late: dateOrNull
				},
				exact
			)
		]),
		/**
		 * What was done regularly and is expected to go on: it is in the net change, the forecast and all that follows from them. `perDay`: what
		 * it brings a day on the mean.
		 */
		assumes: Type.Array(
			Type.Object(
				{
					kind: Type.Unsafe<'dose' | 'water-change'>({ type: 'string', enum: ['dose', 'water-change'] }),
					everyDays: Type.Number(),
					change: Type.Optional(Type.Number()),
					fraction: Type.Optional(Type.Number()),
					perDay: Type.Number()
				},
				exact
			)
		),
		/** Readings, by their place in the request, that do not fit the rest. */
		unusual: Type.Array(Type.Integer()),
		/** Tests that may be misreadings, by their place in the request, with the chance of it. */
		odd: Type.Array(Type.Object({ index: Type.Integer(), probability: Type.Number() }, exact)),
		/**
		 * That the water moved not long ago, from one level to another (`to`: now): at once, by another drift, or because what
		 * is written of the dosing does not arrive.
		 */
		moved: Type.Union([
			Type.Null(),
			Type.Object(
				{
					at: Type.String(),
					from: Type.Number(),
					to: Type.Number(),
					probability: Type.Number(),
					explanation: Type.Unsafe<'level' | 'drift' | 'dosing'>({
						type: 'string',
						enum: ['level', 'drift', 'dosing']
					})
				},
				exact
			)
		]),
		verdict: Type.Unsafe<'steady' | 'rising' | 'falling' | 'unsure'>({
			type: 'string',
			enum: ['steady', 'rising', 'falling', 'unsure']
		}),
		nextTest: Type.String(),
		/** What separates methods: how much each reads too high, where the readings say. */
		offsets: Type.Record(Type.String(), Estimate)
	},
	exact
);
export type TrendResult = Type.Static<typeof TrendResult>;
